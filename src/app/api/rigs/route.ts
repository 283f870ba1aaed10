import { rigsDoor } from "@/server/rooms/rigs/door";

export const GET = rigsDoor.list;
export const POST = rigsDoor.create;
