import { documentRoute } from "@/server/rooms/documents/routes";

export const GET = documentRoute("exportFile");
