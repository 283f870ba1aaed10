import { logRoutes } from "@/server/features/log/routes";

export const PUT = logRoutes.save;
export const DELETE = logRoutes.remove;
