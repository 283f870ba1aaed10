import { cuttersDoor } from "@/server/rooms/cutters/door";

export const GET = cuttersDoor.exportFile;
