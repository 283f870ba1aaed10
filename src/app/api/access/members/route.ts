import { accessRoutes } from "@/server/features/access/routes";

export const dynamic = "force-dynamic";
export const GET = accessRoutes.members;
export const POST = accessRoutes.change;
