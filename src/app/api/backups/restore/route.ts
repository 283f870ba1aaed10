import { backupRoutes } from "@/server/features/backups/routes";

export const POST = backupRoutes.restore;
