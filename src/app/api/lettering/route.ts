import { plansRoutes } from "@/server/features/plans/routes";

export const GET = plansRoutes.lettering;
