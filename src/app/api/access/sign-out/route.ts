import { accessRoutes } from "@/server/features/access/routes";

export const POST = accessRoutes.signOut;
