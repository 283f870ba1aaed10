import { backupRoutes } from "@/server/features/backups/routes";

export const GET = backupRoutes.list;
export const POST = backupRoutes.make;
