import { runRoutes } from "@/server/features/run/routes";

export const POST = runRoutes.pulse;
