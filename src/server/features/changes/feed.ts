import { sql } from "drizzle-orm";
import { heldAccess } from "../../kernel/access/who";
import { openedDatabase } from "../../kernel/db/client";
import { CHANGES, type Opened } from "../../kernel/db/opened";
import { logFault } from "../../kernel/log";
import { metrics } from "../../kernel/metrics";

type Listener = (payload: string) => void;

/** Said now and then so that a connection nobody uses is not cut off on the way, and so that a page notices one that is dead, ms. */
const STILL_HERE_MS = 20_000;
/** Said again that somebody has a document open, ms: who is not heard of for three times as long has gone without a word. */
const PRESENT_MS = 10_000;
/** Changes of one moment go to a page in one piece, ms: with fifty pages open each change would be fifty writes. Pages look again less often than that. */
const TOGETHER_MS = 100;

/** Events that a page has not read yet: more, and it is let go of. */
const MOST_UNREAD = 1000;

/** Somebody who has a document open. */
export interface PresentScreen {
  at: string;
  page: string;
  by: string | null;
}
const presence = (who: PresentScreen, gone: boolean, hello = false) => JSON.stringify({ table: "presence", ...who, gone, ...(hello ? { hello } : {}) });

/** Notifications of changes from the database, passed to every page that listens. */
class Feed {
  private readonly pages = new Set<Listener>();
  private readonly present = new Map<string, PresentScreen>();
  private on: Opened | null = null;

  /** Notifies every process's pages. */
  private async tell(payload: string): Promise<void> {
    const { db } = await openedDatabase();
    await db.execute(sql`select pg_notify(${CHANGES}, ${payload})`);
  }

  /** Somebody opened a document: those who have it open too learn of it, and say so in return. @returns what ends it */
  async enter(who: PresentScreen): Promise<() => void> {
    this.present.set(who.page, who);
    await this.tell(presence(who, false, true));
    const timer = setInterval(() => this.tell(presence(who, false)).catch((error) => logFault(error, { withPlace: false })), PRESENT_MS);
    return () => {
      clearInterval(timer);
      this.present.delete(who.page);
      this.tell(presence(who, true)).catch((error) => logFault(error, { withPlace: false }));
    };
  }

  private response(payload: string): void {
    if (!payload.includes('"hello":true')) return;
    const { at, page } = JSON.parse(payload) as PresentScreen;
    for (const each of this.present.values())
      if (each.at === at && each.page !== page) this.tell(presence(each, false)).catch((error) => logFault(error, { withPlace: false }));
  }

  /** @returns what ends it */
  async listen(listener: Listener): Promise<() => void> {
    const opened = await openedDatabase();
    // An engine that was opened again has forgotten who listened.
    if (this.on !== opened) {
      this.on = opened;
      await opened.listen((payload) => {
        for (const page of this.pages) page(payload);
        this.response(payload);
      });
    }
    this.pages.add(listener);
    metrics().listening.set(this.pages.size);
    return () => {
      this.pages.delete(listener);
      metrics().listening.set(this.pages.size);
    };
  }
}

// Route bundles each get their own copy of this module; the process has one feed.
const shared = globalThis as typeof globalThis & { upwindFeed?: Feed };

/** A second screen's changes go to its own pages, and to nobody else. */
const SECOND = '"second_screens"';

/**
 * Changes as server-sent events (HTML standard, 9.2), for as long as the page listens.
 * @param who has which document open
 * @param stays asked now and then whether anyone who listens still may
 */
export const changeStream = (gone: AbortSignal, who: PresentScreen | null, stays: () => Promise<boolean>): ReadableStream<Uint8Array> =>
  eventStream(gone, async (payload) => (payload === null ? "{}" : payload.includes(SECOND) ? null : payload), stays, { who, togetherMs: TOGETHER_MS });

/**
 * A stream of events, each made of something that changed.
 * @param eventOf what is said of a change, null for nothing; of null, which is when somebody begins to listen, what they may have missed
 * @param togetherMs how long a change may wait for others to be said with it
 */
export function eventStream(
  gone: AbortSignal,
  eventOf: (payload: string | null) => Promise<string | null>,
  stays: () => Promise<boolean>,
  { who = null, togetherMs = 0 }: { who?: PresentScreen | null; togetherMs?: number } = {},
): ReadableStream<Uint8Array> {
  shared.upwindFeed ??= new Feed();
  const feed = shared.upwindFeed;
  const bytes = new TextEncoder();
  let end: (() => void) | null = null;
  let timer: NodeJS.Timeout | null = null;
  let leave: (() => void) | null = null;
  let waiting = "";
  let later: NodeJS.Timeout | null = null;
  const stop = () => {
    if (later) clearTimeout(later);
    end?.();
    leave?.();
    leave = null;
    if (timer) clearInterval(timer);
  };
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      let open = true;
      const close = () => {
        if (!open) return;
        open = false;
        stop();
        controller.close();
      };
      const say = (text: string) => {
        if (!open) return;
        // A page that does not read what it is sent is let go of: it looks again at everything when it comes back.
        if ((controller.desiredSize ?? 0) < -MOST_UNREAD) return close();
        try {
          controller.enqueue(bytes.encode(text));
        } catch {
          // Closed by the other side between two words: it is let go of.
          open = false;
          stop();
        }
      };
      const sayWithOthers = (text: string) => {
        if (togetherMs === 0) return say(text);
        waiting += text;
        later ??= setTimeout(() => {
          later = null;
          say(waiting);
          waiting = "";
        }, togetherMs);
      };
      gone.addEventListener("abort", () => {
        open = false;
        stop();
      });
      // One after the other, in the order of the changes.
      let telling: Promise<void> = Promise.resolve();
      const tell = (payload: string | null) => {
        telling = telling
          .then(async () => {
            const event = await eventOf(payload);
            if (event !== null) sayWithOthers(`data: ${event}\n\n`);
          })
          .catch((error) => logFault(error, { withPlace: false }));
        return telling;
      };
      const checkStays = () =>
        stays().then(
          (may) => {
            if (!may) close();
          },
          (error) => logFault(error, { withPlace: false }),
        );
      timer = setInterval(() => {
        say("event: here\ndata:\n\n");
        void checkStays();
      }, STILL_HERE_MS);
      try {
        end = await feed.listen((payload) => {
          // Somebody was removed or signed out, perhaps anyone who listens here: their stream ends at once.
          if (payload.includes('"access"')) {
            heldAccess()?.forget();
            void checkStays();
          }
          void tell(payload);
        });
        // It may have gone while the database was being opened.
        if (!open) stop();
        // Who comes late may have missed something.
        await tell(null);
        if (who && open) leave = await feed.enter(who);
        if (!open) stop();
      } catch (error) {
        logFault(error, { withPlace: false });
        close();
      }
    },
    cancel: stop,
  });
}

/** A stream of events as an answer: packed or kept back on the way it would come too late. */
export const eventResponse = (stream: ReadableStream<Uint8Array>): Response =>
  new Response(stream, {
    headers: { "content-type": "text/event-stream; charset=utf-8", "cache-control": "no-store, no-transform", "x-accel-buffering": "no" },
  });
