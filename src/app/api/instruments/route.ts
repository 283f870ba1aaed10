import { instrumentsRoutes } from "@/server/features/instruments/routes";

export const dynamic = "force-dynamic";
export const GET = instrumentsRoutes.read;
