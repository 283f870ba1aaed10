import { documentRoute } from "@/server/features/documents/routes";

export const GET = documentRoute("list");
export const POST = documentRoute("create");
