import { sheetsDoor } from "@/server/rooms/sheets/door";

export const GET = sheetsDoor.buildSheet;
