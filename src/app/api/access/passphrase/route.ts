import { accessDoor } from "@/server/rooms/access/door";

export const POST = accessDoor.passphrase;
