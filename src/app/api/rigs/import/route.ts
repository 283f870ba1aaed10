import { rigsDoor } from "@/server/rooms/rigs/door";

export const POST = rigsDoor.importFile;
