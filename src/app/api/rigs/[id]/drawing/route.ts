import { rigsRoutes } from "@/server/features/rigs/routes";

export const GET = rigsRoutes.drawing;
