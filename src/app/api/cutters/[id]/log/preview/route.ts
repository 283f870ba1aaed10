import { logRoutes } from "@/server/features/log/routes";

export const POST = logRoutes.preview;
