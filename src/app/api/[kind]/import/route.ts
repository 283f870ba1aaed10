import { documentRoute } from "@/server/features/documents/routes";

export const POST = documentRoute("importFile");
