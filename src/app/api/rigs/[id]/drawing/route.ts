import { rigsDoor } from "@/server/rooms/rigs/door";

export const GET = rigsDoor.drawing;
