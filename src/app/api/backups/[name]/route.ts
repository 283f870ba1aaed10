import { keepingDoor } from "@/server/rooms/keeping/door";

export const GET = keepingDoor.get;
