import { accessDoor } from "@/server/rooms/access/door";

export const dynamic = "force-dynamic";
export const GET = accessDoor.members;
export const POST = accessDoor.change;
