import { documentRoute } from "@/server/rooms/documents/routes";

export const GET = documentRoute("list");
export const POST = documentRoute("create");
