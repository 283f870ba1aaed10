import { secondDoor } from "@/server/rooms/second/door";

export const dynamic = "force-dynamic";
export const GET = secondDoor.get;
export const POST = secondDoor.act;
