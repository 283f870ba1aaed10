import { keepingDoor } from "@/server/rooms/keeping/door";

export const POST = keepingDoor.restore;
