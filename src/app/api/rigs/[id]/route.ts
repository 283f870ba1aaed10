import { rigsDoor } from "@/server/rooms/rigs/door";

export const GET = rigsDoor.get;
export const PUT = rigsDoor.save;
export const DELETE = rigsDoor.remove;
