import { drawerDoor } from "@/server/rooms/drawer/door";

export const GET = drawerDoor.exportFile;
