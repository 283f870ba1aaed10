import { openedDatabase } from "../../kernel/db/client";
import type { Opened } from "../../kernel/db/opened";
import { logFault } from "../../kernel/log";

type Heard = (payload: string) => void;

/** Said now and then so that a connection nobody uses is not cut off on the way, ms. */
const STILL_HERE_MS = 20_000;

/** What the database tells of changes, handed to every page that listens. */
class Feed {
  private readonly pages = new Set<Heard>();
  private on: Opened | null = null;

  /** @returns what ends it */
  async listen(heard: Heard): Promise<() => void> {
    const opened = await openedDatabase();
    // An engine that was opened anew has forgotten who listened.
    if (this.on !== opened) {
      this.on = opened;
      await opened.listen((payload) => {
        for (const page of this.pages) page(payload);
      });
    }
    this.pages.add(heard);
    return () => this.pages.delete(heard);
  }
}

// Route bundles each get their own copy of this module; the process has one feed.
const shared = globalThis as typeof globalThis & { upwindFeed?: Feed };

/** Changes as server-sent events (HTML standard, 9.2), for as long as the page listens. */
export function changeStream(gone: AbortSignal): ReadableStream<Uint8Array> {
  shared.upwindFeed ??= new Feed();
  const feed = shared.upwindFeed;
  const bytes = new TextEncoder();
  let end: (() => void) | null = null;
  let timer: NodeJS.Timeout | null = null;
  const stop = () => {
    end?.();
    if (timer) clearInterval(timer);
  };
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      let open = true;
      const say = (text: string) => {
        if (!open) return;
        try {
          controller.enqueue(bytes.encode(text));
        } catch {
          // Closed by the other side between two words: it is let go of.
          open = false;
          stop();
        }
      };
      gone.addEventListener("abort", () => {
        open = false;
        stop();
      });
      timer = setInterval(() => say(": still here\n\n"), STILL_HERE_MS);
      try {
        end = await feed.listen((payload) => say(`data: ${payload}\n\n`));
        // It may have gone while the database was being opened.
        if (!open) stop();
        // Who comes late may have missed something.
        say("data: {}\n\n");
      } catch (error) {
        logFault(error, { withPlace: false });
        open = false;
        stop();
        controller.close();
      }
    },
    cancel: stop,
  });
}
