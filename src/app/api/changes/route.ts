import { changesDoor } from "@/server/rooms/changes/door";

export const dynamic = "force-dynamic";
export const GET = changesDoor.listen;
