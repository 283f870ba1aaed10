import { healthDoor } from "@/server/rooms/health/door";

export const dynamic = "force-dynamic";
export const GET = healthDoor.read;
