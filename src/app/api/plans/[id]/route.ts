import { plansDoor } from "@/server/rooms/plans/door";

export const GET = plansDoor.get;
export const PUT = plansDoor.save;
export const DELETE = plansDoor.remove;
