import { healthRoutes } from "@/server/features/health/routes";

export const dynamic = "force-dynamic";
export const GET = healthRoutes.read;
