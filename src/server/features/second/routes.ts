import { SECOND } from "@/contract/second/contract";
import { admit } from "../../kernel/access/who";
import { type Database, database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { mutation, query, requireDiskSpace, route, sameOrigin } from "../../kernel/http";
import { jsonResponse, readBody } from "../../kernel/route";
import { eventResponse, eventStream } from "../changes/feed";
import { actOn, makeScreen, opensAlone, screenOf, screenView, stopKeyOf, stopRun, stopView, ticketId } from "./screens";

interface TicketContext {
  params: Promise<{ ticket: string }>;
}

/** A pace of two thousand numbers with both templates. */
const ABOUT_BYTES = 2 * 1024 * 1024;
const gone = () => new ServerError("not-found", 404, "This second screen is put down: nothing is called out here any more.");

/** The screen that a ticket opens: without a sign-in while it is valid, and after that for members only. @throws ServerError `sign-in`, `role`, `not-found` */
async function opened(request: Request, context: TicketContext) {
  const { ticket } = await context.params;
  const db: Database = await database();
  const screen = await screenOf(db, ticket);
  if (!screen || !opensAlone(screen)) await admit(request, "work");
  if (!screen) throw gone();
  return { db, ticket, screen };
}

/** What the routes about second screens do. */
export const secondRoutes = {
  make: mutation(async (request: Request) => {
    const { about } = await readBody(request, SECOND.make, ABOUT_BYTES);
    const { ticket, screen } = await makeScreen(await database(), about);
    return jsonResponse(SECOND.make, { ticket, expiresAt: screen.expiresAt.toISOString(), view: await screenView(screen, true) }, 201);
  }),

  // Its ticket lets anyone who holds it in: no role is asked for before that is looked at.
  get: query(
    async (request: Request, context: TicketContext) => jsonResponse(SECOND.get, await screenView((await opened(request, context)).screen, true)),
    null,
  ),

  /** A stop or a hold acts before anything is looked up: it neither waits for the database nor is refused for a full disk. */
  act: route([sameOrigin], async (request: Request, context: TicketContext) => {
    const rig = stopKeyOf((await context.params).ticket);
    const opening = rig === null ? await opened(request, context) : null;
    const command = await readBody(request, SECOND.act);
    const safe = command.do === "stop" || command.do === "hold";
    if (rig !== null && safe) {
      await stopRun(rig, command.do);
      return jsonResponse(SECOND.act, { revision: 1, nowMs: Date.now(), ended: false, stop: stopView(rig) });
    }
    const { db, ticket } = opening ?? (await opened(request, context));
    if (!safe) requireDiskSpace();
    return jsonResponse(SECOND.act, await screenView(await actOn(db, ticket, command), false));
  }),

  events: query(async (request: Request, context: TicketContext) => {
    const { db, ticket } = await opened(request, context);
    const own = ticketId(ticket);
    return eventResponse(
      eventStream(
        request.signal,
        async (payload) => {
          if (payload !== null && !payload.includes(own)) return null;
          const screen = await screenOf(db, ticket);
          return screen && JSON.stringify(await screenView(screen, false));
        },
        () =>
          opened(request, context).then(
            () => true,
            () => false,
          ),
      ),
    );
  }, null),
};
