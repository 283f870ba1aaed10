import { HEALTH } from "@/contract/health/contract";
import { accessModeOf, isLoopback } from "../../kernel/access/accessMode";
import { admit } from "../../kernel/access/who";
import { CLIENT_HEADER } from "../../kernel/accessGuard";
import { query } from "../../kernel/http";
import { metrics } from "../../kernel/metrics";
import { jsonResponse } from "../../kernel/route";
import { healthNow } from "./health";

/** This computer's own programs, and administrators: nobody else learns how the app is doing. A proxy speaks from here too, so behind one it is administrators alone. */
async function admitAdministrator(request: Request): Promise<void> {
  const { proxy } = accessModeOf(process.env);
  if (proxy.length > 0 || !isLoopback(request.headers.get(CLIENT_HEADER) ?? "")) await admit(request, "keep");
}

/** What the routes about the app's health do. */
export const healthRoutes = {
  read: query(async (request: Request) => {
    await admitAdministrator(request);
    const health = await healthNow();
    return jsonResponse(HEALTH.read, health, health.ok ? 200 : 503);
  }, null),

  metrics: query(async (request: Request) => {
    await admitAdministrator(request);
    const { registry } = metrics();
    return new Response(await registry.metrics(), { headers: { "content-type": registry.contentType, "cache-control": "no-store" } });
  }, null),
};
