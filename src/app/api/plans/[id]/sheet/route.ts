import { plansDoor } from "@/server/rooms/plans/door";

export const GET = plansDoor.sheet;
