import { documentRoute } from "@/server/features/documents/routes";

export const GET = documentRoute("exportFile");
