import { runDoor } from "@/server/rooms/run/door";

export const GET = runDoor.program;
