import { runDoor } from "@/server/rooms/run/door";

export const POST = runDoor.act;
