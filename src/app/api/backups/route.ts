import { keepingDoor } from "@/server/rooms/keeping/door";

export const GET = keepingDoor.list;
export const POST = keepingDoor.make;
