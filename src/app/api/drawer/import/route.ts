import { drawerRoutes } from "@/server/features/drawer/routes";

export const POST = drawerRoutes.importFile;
