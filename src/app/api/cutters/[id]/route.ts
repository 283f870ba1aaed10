import { cuttersDoor } from "@/server/rooms/cutters/door";

export const GET = cuttersDoor.get;
export const PUT = cuttersDoor.save;
export const DELETE = cuttersDoor.remove;
