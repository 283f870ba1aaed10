import { runRoutes } from "@/server/features/run/routes";

export const GET = runRoutes.program;
