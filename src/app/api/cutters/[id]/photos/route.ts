import { logDoor } from "@/server/rooms/log/door";

export const POST = logDoor.addPhoto;
