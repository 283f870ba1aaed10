import { drawerRoutes } from "@/server/features/drawer/routes";

export const GET = drawerRoutes.exportFile;
