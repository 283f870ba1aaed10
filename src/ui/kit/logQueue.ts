import type { LogEntry } from "@/core/log/entries";
import { ApiError, api, type LogRow } from "./api";

/** An entry that waits in this browser until the server is back. */
export interface Waiting {
  id: string;
  cutter: string;
  entry: LogEntry;
  /** why the server would not have it: it waits for a person then */
  refused?: string;
}

const KEY = "upwind-log-queue";
/** How often the server is tried while something waits, ms. */
const AGAIN_MS = 5000;

/** What keeps text between visits; a private window may have none. */
interface Shelf {
  read: () => string | null;
  write: (text: string) => void;
}
const browserShelf: Shelf = { read: () => localStorage.getItem(KEY), write: (text) => localStorage.setItem(KEY, text) };

type Send = (cutter: string, entry: LogEntry, id: string) => Promise<LogRow>;

/** Whether a fault is the server's being away, and not its saying no. */
const away = (error: unknown): boolean => error instanceof ApiError && (error.status === 0 || error.status >= 502);

/** A random id (RFC 9562, version 4), also where the page is not one the browser trusts with more. */
export function freshId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] as number) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] as number) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** Log entries that could not be sent yet: kept in the browser, sent when the server is back, each stored once however often it was sent. */
export class LogQueue {
  private readonly heard = new Set<() => void>();
  private sending: Promise<void> | null = null;
  private snapshot: readonly Waiting[] | null = null;

  constructor(
    private readonly send: Send = (cutter, entry, id) => api.log.add(cutter, entry, id),
    private readonly shelf: Shelf = browserShelf,
  ) {}

  /** What waits; the same list until it changes. */
  get waiting(): readonly Waiting[] {
    this.snapshot ??= this.read();
    return this.snapshot;
  }

  private read(): Waiting[] {
    try {
      return JSON.parse(this.shelf.read() ?? "[]") as Waiting[];
    } catch {
      // No storage, or what lies there is not this program's: nothing waits.
      return [];
    }
  }

  private write(next: readonly Waiting[]): void {
    this.snapshot = next;
    this.shelf.write(JSON.stringify(next));
    for (const heard of this.heard) heard();
  }

  subscribe = (heard: () => void): (() => void) => {
    this.heard.add(heard);
    return () => this.heard.delete(heard);
  };

  /**
   * Keeps an entry: on the server, or here until it is back.
   * @returns the row; null where it waits
   * @throws ApiError where the server says no, or this browser cannot keep it either
   */
  async keep(cutter: string, entry: LogEntry): Promise<LogRow | null> {
    const id = freshId();
    try {
      return await this.send(cutter, entry, id);
    } catch (error) {
      if (!away(error)) throw error;
      try {
        // Read again: another tab may have put something there.
        this.write([...this.read(), { id, cutter, entry }]);
      } catch {
        throw error;
      }
      return null;
    }
  }

  /** Sends what waits, the oldest first, until the server is away again. Called twice at once it runs once. */
  flush(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    for (const each of this.read()) {
      if (each.refused !== undefined) continue;
      let refused: string | undefined;
      try {
        await this.send(each.cutter, each.entry, each.id);
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        // Signed out it waits as well: it is sent once somebody is in again.
        if (away(error) || error.status === 401 || error.status === 429) return;
        refused = error.message;
      }
      const left = this.read();
      this.write(refused === undefined ? left.filter(({ id }) => id !== each.id) : left.map((row) => (row.id === each.id ? { ...row, refused } : row)));
    }
  }

  /** Lets go of what the server would not have. */
  forget(id: string): void {
    this.write(this.read().filter((row) => row.id !== id));
  }
}

/** This browser's. */
export const logQueue = new LogQueue();

/** Tries again now and then, and when the browser says that it is back on the network. @returns what ends it */
export function tendLogQueue(): () => void {
  const look = () => {
    if (logQueue.waiting.some(({ refused }) => refused === undefined)) void logQueue.flush();
  };
  look();
  const timer = setInterval(look, AGAIN_MS);
  window.addEventListener("online", look);
  return () => {
    clearInterval(timer);
    window.removeEventListener("online", look);
  };
}
