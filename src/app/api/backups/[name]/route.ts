import { backupRoutes } from "@/server/features/backups/routes";

export const GET = backupRoutes.get;
