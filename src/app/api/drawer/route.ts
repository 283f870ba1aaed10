import { drawerRoutes } from "@/server/features/drawer/routes";

export const GET = drawerRoutes.list;
export const POST = drawerRoutes.add;
