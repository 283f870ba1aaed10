import { drawerRoutes } from "@/server/features/drawer/routes";

export const PUT = drawerRoutes.save;
export const DELETE = drawerRoutes.remove;
