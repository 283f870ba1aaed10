import { createHash, randomBytes } from "node:crypto";
import { networkInterfaces } from "node:os";
import { eq, lt, sql } from "drizzle-orm";
import type { SecondAbout, SecondDeed, SecondTold } from "@/contract/second/contract";
import { press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { scheduleOf } from "@/core/pace/pacer";
import type { PaceRow } from "@/core/pace/planPace";
import { AT_REST, type TwoEnds, type TwoEndsDeed, twoEndsAfter } from "@/core/pace/twoEnds";
import { isLoopback } from "../../kernel/access/standing";
import type { Database } from "../../kernel/db/client";
import { secondScreens } from "../../kernel/db/schema";
import { ServerError } from "../../kernel/errors";
import { readInstruments } from "../instruments/readings";
import { runDesk } from "../run/desk";

/** A ticket alone opens a screen for so long, ms; it ends sooner where whoever made it says so. */
export const TICKET_MS = 2 * 3600 * 1000;
/** What has run out is cleared away after so long. */
const OLD = sql`now() - interval '1 day'`;

interface Screen {
  id: string;
  about: SecondAbout;
  state: { pacer?: TwoEnds; stopwatch?: Stopwatch; dial?: NonNullable<SecondTold["dial"]> };
  revision: number;
  expiresAt: Date;
  endedAt: Date | null;
}

export const ticketId = (ticket: string): string => createHash("sha256").update(ticket).digest("hex");

/** Opens a screen. @returns its ticket: 128 random bits, kept nowhere */
export async function makeScreen(db: Database, about: SecondAbout): Promise<{ ticket: string; screen: Screen }> {
  await db.delete(secondScreens).where(lt(secondScreens.expiresAt, OLD));
  const ticket = randomBytes(16).toString("base64url");
  const state: Screen["state"] = about.kind === "pacer" ? { pacer: AT_REST } : about.kind === "stopwatch" ? { stopwatch: RESET } : {};
  const [row] = await db
    .insert(secondScreens)
    .values({ id: ticketId(ticket), about, state, expiresAt: new Date(Date.now() + TICKET_MS) })
    .returning();
  return { ticket, screen: row as Screen };
}

/** A screen by its ticket, still to be used or not; null for a ticket that never was. */
export async function screenOf(db: Database, ticket: string): Promise<Screen | null> {
  const [row] = await db
    .select()
    .from(secondScreens)
    .where(eq(secondScreens.id, ticketId(ticket)));
  return (row as Screen | undefined) ?? null;
}

/** Whether a ticket still opens its screen by itself. */
export const opensAlone = ({ expiresAt, endedAt }: Screen): boolean => endedAt === null && expiresAt.getTime() > Date.now();

/** What a screen shows, in the server's clock. */
export async function screenTold({ about, state, revision, endedAt }: Screen, whole: boolean): Promise<SecondTold> {
  const told: SecondTold = {
    revision,
    nowMs: Date.now(),
    ended: endedAt !== null,
    ...(whole ? { about, addresses: reachedAt(process.env) } : {}),
    ...(state as Partial<SecondTold>),
  };
  if (about.kind === "dial") {
    const readings = await readInstruments(process.env);
    // What is wired is read here; else what the page says of its own bench.
    told.dial = readings.wired.length > 0 ? readings : (state.dial ?? readings);
  }
  if (about.kind === "stop") {
    const { run } = runDesk().told;
    const own = run?.rig === about.rig;
    told.stop = { phase: own ? run.phase : "ready", line: own ? run.line : 0, lines: own ? run.lines : 0, heat: own ? run.heat : null };
  }
  // Asked for as late as can be: it is the other's clock.
  told.nowMs = Date.now();
  return told;
}

const wrong = (): ServerError => new ServerError("unreadable", 422, "That is not done on this kind of screen.");

/** One after the other, whichever process they come to, and each at the server's own time. */
export async function actOn(db: Database, ticket: string, deed: SecondDeed): Promise<Screen> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(secondScreens)
      .where(eq(secondScreens.id, ticketId(ticket)))
      .for("update");
    if (!row) throw new ServerError("not-found", 404, "There is no such second screen.");
    const screen = row as Screen;
    if (deed.do === "look") return screen;
    if (deed.do === "end") return write({ endedAt: sql`now()` });
    const { about } = screen;
    if (about.kind === "pacer") {
      if (!["here", "begin", "pause", "resume", "mark", "again"].includes(deed.do)) throw wrong();
      const before = screen.state.pacer ?? AT_REST;
      const schedule = scheduleOf(about.rows as PaceRow[], about.parts);
      const pacer = twoEndsAfter(before, deed as TwoEndsDeed, schedule, Date.now());
      return pacer === before ? screen : write({ state: { pacer } });
    }
    if (about.kind === "stopwatch") {
      const watch = screen.state.stopwatch ?? RESET;
      const nowMs = Date.now();
      if (deed.do === "here") return screen;
      const next = deed.do === "press" ? press(watch, nowMs) : deed.do === "stop" ? stop(watch, nowMs) : deed.do === "reset" ? RESET : null;
      if (!next) throw wrong();
      return next === watch ? screen : write({ state: { stopwatch: next } });
    }
    if (about.kind === "stop" && (deed.do === "hold" || deed.do === "stop")) {
      // The frame whose key it is, and no other that has the controller meanwhile.
      if (runDesk().told.run?.rig === about.rig) runDesk().act({ act: deed.do });
      return screen;
    }
    if (about.kind === "dial" && deed.do === "figures")
      return write({ state: { dial: { figures: deed.figures, troubles: [], wired: ["the bench on the other screen"] } } });
    if (deed.do === "here") return screen;
    throw wrong();

    async function write(next: object): Promise<Screen> {
      const [kept] = await tx
        .update(secondScreens)
        .set({ ...next, revision: screen.revision + 1 })
        .where(eq(secondScreens.id, screen.id))
        .returning();
      return kept as Screen;
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
