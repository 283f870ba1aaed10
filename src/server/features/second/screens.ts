import { createHash, randomBytes } from "node:crypto";
import { networkInterfaces } from "node:os";
import { eq, lt, sql } from "drizzle-orm";
import type { SecondAbout, SecondAction, SecondView } from "@/contract/second/contract";
import { press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { scheduleOf } from "@/core/pace/pacer";
import { AT_REST, type PacerAction, twoEndsAfter } from "@/core/pace/twoEnds";
import type { TwoEnds } from "@/core/pace/twoEndsSchema";
import { isLoopback } from "../../kernel/access/accessMode";
import type { Database } from "../../kernel/db/client";
import { secondScreens } from "../../kernel/db/schema";
import { ServerError } from "../../kernel/errors";
import { readInstruments } from "../instruments/readings";
import { runHost } from "../run/runHost";

/** A ticket alone opens a screen for so long, ms; it ends sooner where anyone who made it says so. */
export const TICKET_MS = 2 * 3600 * 1000;
/** What has run out is cleared away after so long. */
const OLD = sql`now() - interval '1 day'`;

interface Screen {
  id: string;
  about: SecondAbout;
  state: { pacer?: TwoEnds; stopwatch?: Stopwatch; dial?: NonNullable<SecondView["dial"]> };
  revision: number;
  expiresAt: Date;
  endedAt: Date | null;
}

export const ticketId = (ticket: string): string => createHash("sha256").update(ticket).digest("hex");

/** Keys that stop a run, by their ticket's hash, as this process last saw them: a stop looks here and not in the database. */
const shared = globalThis as typeof globalThis & { upwindStopKeys?: Map<string, Pick<Screen, "expiresAt" | "endedAt"> & { rig: string }> };
shared.upwindStopKeys ??= new Map();
const stopKeys = shared.upwindStopKeys;
const MOST_STOP_KEYS = 200;

function remember(screen: Screen): Screen {
  if (screen.about.kind !== "stop") return screen;
  stopKeys.delete(screen.id);
  stopKeys.set(screen.id, { rig: screen.about.rig, expiresAt: screen.expiresAt, endedAt: screen.endedAt });
  if (stopKeys.size > MOST_STOP_KEYS) stopKeys.delete(stopKeys.keys().next().value as string);
  return screen;
}

/** The frame whose run a ticket may stop, as far as this process knows; null where the database must be asked. */
export function stopKeyOf(ticket: string): string | null {
  const key = stopKeys.get(ticketId(ticket));
  return key && opensAlone(key) ? key.rig : null;
}

/** What a stop key shows of its own frame's run, and of no other. */
export function stopView(rig: string): NonNullable<SecondView["stop"]> {
  const run = runHost().runOf(rig);
  return run ? { phase: run.phase, line: run.line, lines: run.lines, heat: run.heat } : { phase: "ready", line: 0, lines: 0, heat: null };
}

/** Stops or holds the run of a frame, where it has the controller: another frame's run is left alone. */
export async function stopRun(rig: string, command: "hold" | "stop"): Promise<void> {
  if (runHost().runOf(rig)) await runHost().act({ do: command });
}

/** Opens a screen. @returns its ticket: 128 random bits, kept nowhere */
export async function makeScreen(db: Database, about: SecondAbout): Promise<{ ticket: string; screen: Screen }> {
  await db.delete(secondScreens).where(lt(secondScreens.expiresAt, OLD));
  const ticket = randomBytes(16).toString("base64url");
  const state: Screen["state"] = about.kind === "pacer" ? { pacer: AT_REST } : about.kind === "stopwatch" ? { stopwatch: RESET } : {};
  const [row] = await db
    .insert(secondScreens)
    .values({ id: ticketId(ticket), about, state, expiresAt: new Date(Date.now() + TICKET_MS) })
    .returning();
  return { ticket, screen: remember(row as Screen) };
}

/** A screen by its ticket, still to be used or not; null for a ticket that never was. */
export async function screenOf(db: Database, ticket: string): Promise<Screen | null> {
  const [row] = await db
    .select()
    .from(secondScreens)
    .where(eq(secondScreens.id, ticketId(ticket)));
  return row ? remember(row as Screen) : null;
}

/** Whether a ticket still opens its screen without a sign-in. */
export const opensAlone = ({ expiresAt, endedAt }: Pick<Screen, "expiresAt" | "endedAt">): boolean => endedAt === null && expiresAt.getTime() > Date.now();

/** What a screen shows, in the server's clock. */
export async function screenView({ about, state, revision, endedAt }: Screen, whole: boolean): Promise<SecondView> {
  const view: SecondView = {
    revision,
    nowMs: Date.now(),
    ended: endedAt !== null,
    ...(whole ? { about, addresses: reachedAt(process.env) } : {}),
    ...(state as Partial<SecondView>),
  };
  if (about.kind === "dial") {
    const readings = await readInstruments(process.env);
    // What is wired is read here; else what the page says of its own bench.
    view.dial = readings.wired.length > 0 ? readings : (state.dial ?? readings);
  }
  if (about.kind === "stop") view.stop = stopView(about.rig);
  // Asked for as late as can be: it is the other's clock.
  view.nowMs = Date.now();
  return view;
}

const wrong = (): ServerError => new ServerError("unreadable", 422, "That is not done on this kind of screen.");

/** One after the other, whichever process they come to, and each at the server's own time. */
export async function actOn(db: Database, ticket: string, action: SecondAction): Promise<Screen> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(secondScreens)
      .where(eq(secondScreens.id, ticketId(ticket)))
      .for("update");
    if (!row) throw new ServerError("not-found", 404, "There is no such second screen.");
    const screen = row as Screen;
    if (action.do === "look") return screen;
    if (action.do === "end") return write({ endedAt: sql`now()` });
    const { about } = screen;
    if (about.kind === "pacer") {
      if (!["here", "begin", "pause", "resume", "mark", "again"].includes(action.do)) throw wrong();
      const before = screen.state.pacer ?? AT_REST;
      const schedule = scheduleOf(about.rows, about.parts);
      const pacer = twoEndsAfter(before, action as PacerAction, schedule, Date.now());
      return pacer === before ? screen : write({ state: { pacer } });
    }
    if (about.kind === "stopwatch") {
      const watch = screen.state.stopwatch ?? RESET;
      const nowMs = Date.now();
      if (action.do === "here") return screen;
      const next = action.do === "press" ? press(watch, nowMs) : action.do === "stop" ? stop(watch, nowMs) : action.do === "reset" ? RESET : null;
      if (!next) throw wrong();
      return next === watch ? screen : write({ state: { stopwatch: next } });
    }
    if (about.kind === "stop" && (action.do === "hold" || action.do === "stop")) {
      await stopRun(about.rig, action.do);
      return screen;
    }
    if (about.kind === "dial" && action.do === "figures")
      return write({ state: { dial: { figures: action.figures, troubles: [], wired: ["the bench on the other screen"] } } });
    if (action.do === "here") return screen;
    throw wrong();

    async function write(next: object): Promise<Screen> {
      const [stored] = await tx
        .update(secondScreens)
        .set({ ...next, revision: screen.revision + 1 })
        .where(eq(secondScreens.id, screen.id))
        .returning();
      return remember(stored as Screen);
    }
  });
}

/** Addresses under which others on the same network reach this computer; none where the server hears its own alone. */
function reachedAt(env: Readonly<Record<string, string | undefined>>): string[] {
  if (isLoopback(env.HOST || "127.0.0.1")) return [];
  return Object.values(networkInterfaces()).flatMap((each) =>
    (each ?? []).filter(({ internal, family, address }) => !internal && family === "IPv4" && !address.startsWith("169.254.")).map(({ address }) => address),
  );
}
