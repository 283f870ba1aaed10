import { drawerDoor } from "@/server/rooms/drawer/door";

export const POST = drawerDoor.importFile;
