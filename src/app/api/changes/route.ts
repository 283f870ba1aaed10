import { changesRoutes } from "@/server/features/changes/routes";

export const dynamic = "force-dynamic";
export const GET = changesRoutes.listen;
