import { plansDoor } from "@/server/rooms/plans/door";

export const POST = plansDoor.restore;
