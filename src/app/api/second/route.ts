import { secondDoor } from "@/server/rooms/second/door";

export const POST = secondDoor.make;
