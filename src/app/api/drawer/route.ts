import { drawerDoor } from "@/server/rooms/drawer/door";

export const GET = drawerDoor.list;
export const POST = drawerDoor.add;
