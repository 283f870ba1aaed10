import { secondRoutes } from "@/server/features/second/routes";

export const POST = secondRoutes.make;
