import { sheetsRoutes } from "@/server/features/sheets/routes";

export const GET = sheetsRoutes.buildSheet;
