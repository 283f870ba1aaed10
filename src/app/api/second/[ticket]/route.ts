import { secondRoutes } from "@/server/features/second/routes";

export const dynamic = "force-dynamic";
export const GET = secondRoutes.get;
export const POST = secondRoutes.act;
