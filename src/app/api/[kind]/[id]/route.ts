import { documentRoute } from "@/server/rooms/documents/routes";

export const GET = documentRoute("get");
export const PUT = documentRoute("save");
export const DELETE = documentRoute("remove");
