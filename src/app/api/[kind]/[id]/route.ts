import { documentRoute } from "@/server/features/documents/routes";

export const GET = documentRoute("get");
export const PUT = documentRoute("save");
export const DELETE = documentRoute("remove");
