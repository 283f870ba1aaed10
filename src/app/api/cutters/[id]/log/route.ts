import { logDoor } from "@/server/rooms/log/door";

export const GET = logDoor.list;
export const POST = logDoor.add;
