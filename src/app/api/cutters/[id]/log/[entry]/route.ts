import { logDoor } from "@/server/rooms/log/door";

export const PUT = logDoor.save;
export const DELETE = logDoor.remove;
