import { plansDoor } from "@/server/rooms/plans/door";

export const GET = plansDoor.list;
export const POST = plansDoor.create;
