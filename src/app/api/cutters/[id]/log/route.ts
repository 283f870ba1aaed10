import { logRoutes } from "@/server/features/log/routes";

export const GET = logRoutes.list;
export const POST = logRoutes.add;
