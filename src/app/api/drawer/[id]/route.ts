import { drawerDoor } from "@/server/rooms/drawer/door";

export const PUT = drawerDoor.save;
export const DELETE = drawerDoor.remove;
