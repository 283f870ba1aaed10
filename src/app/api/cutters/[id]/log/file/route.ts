import { logRoutes } from "@/server/features/log/routes";

export const GET = logRoutes.exportFile;
