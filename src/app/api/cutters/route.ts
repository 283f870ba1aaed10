import { cuttersDoor } from "@/server/rooms/cutters/door";

export const GET = cuttersDoor.list;
export const POST = cuttersDoor.create;
