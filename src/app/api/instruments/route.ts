import { instrumentsDoor } from "@/server/rooms/instruments/door";

export const dynamic = "force-dynamic";
export const GET = instrumentsDoor.read;
