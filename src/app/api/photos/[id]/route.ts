import { logDoor } from "@/server/rooms/log/door";

export const GET = logDoor.photo;
