import { cuttersDoor } from "@/server/rooms/cutters/door";

export const POST = cuttersDoor.duplicate;
