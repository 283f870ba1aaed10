import { documentRoute } from "@/server/rooms/documents/routes";

export const POST = documentRoute("importFile");
