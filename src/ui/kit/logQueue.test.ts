import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LogEntry } from "@/core/log/entries";
import { ApiError, type LogRow } from "./api";
import { freshId, LogQueue } from "./logQueue";

const entry = (note: string) => ({ kind: "setting", note }) as unknown as LogEntry;
const UNREACHABLE = () => new ApiError("unreachable", "The server does not answer.", 0);

/** A server that keeps each id once, and can be away, lose its answers, or say no. */
class FarServer {
  readonly saved = new Map<string, string>();
  mood: "up" | "away" | "mute" | "refuses" | "outside" = "up";
  sent = 0;
  add = async (_cutter: string, { note }: LogEntry, id: string): Promise<LogRow> => {
    this.sent += 1;
    if (this.mood === "away") throw UNREACHABLE();
    if (this.mood === "refuses") throw new ApiError("not-found", "This cutter is not here.", 404);
    if (this.mood === "outside") throw new ApiError("sign-in", "Sign in first.", 401);
    this.saved.set(id, note);
    // Stored, and the answer is lost on the way.
    if (this.mood === "mute") throw UNREACHABLE();
    return { id, entry: entry(note), revision: 1, changedBy: null } as LogRow;
  };
}
function queueOf(server: FarServer) {
  let text: string | null = null;
  const shelf = {
    read: () => text,
    write: (next: string) => {
      text = next;
    },
  };
  return { queue: new LogQueue(server.add, shelf), shelf };
}

describe("entries that wait for the server", () => {
  it("go to it at once while it is there, wait while it is not, and go in the order they were made when it is back", async () => {
    const server = new FarServer();
    const { queue, shelf } = queueOf(server);
    expect(await queue.keep("c", entry("now"))).toMatchObject({ revision: 1 });
    server.mood = "away";
    expect(await queue.keep("c", entry("first"))).toBeNull();
    expect(await queue.keep("c", entry("second"))).toBeNull();
    await queue.flush();
    expect(queue.waiting).toHaveLength(2);
    // Another visit of the same browser finds them.
    const later = new LogQueue(server.add, shelf);
    server.mood = "up";
    await Promise.all([later.flush(), later.flush()]);
    expect([...server.saved.values()]).toEqual(["now", "first", "second"]);
    expect(later.waiting).toEqual([]);
  });

  it("what the server would not have waits for a person, and does not hold up the rest; signed out, all waits", async () => {
    const server = new FarServer();
    const { queue } = queueOf(server);
    await expect(() => {
      server.mood = "refuses";
      return queue.keep("c", entry("bad"));
    }).rejects.toThrow(/not here/);
    server.mood = "away";
    await queue.keep("c", entry("bad"));
    await queue.keep("c", entry("good"));
    server.mood = "outside";
    await queue.flush();
    expect(queue.waiting.map(({ refused }) => refused)).toEqual([undefined, undefined]);
    const [bad] = queue.waiting;
    const add = server.add;
    server.mood = "up";
    const picky = new LogQueue(
      async (cutter, each, id) => {
        if (each.note === "bad") throw new ApiError("not-found", "This cutter is not here.", 404);
        return add(cutter, each, id);
      },
      { read: () => JSON.stringify(queue.waiting), write: () => undefined },
    );
    await picky.flush();
    expect([...server.saved.values()]).toEqual(["good"]);
    expect(bad?.entry.note).toBe("bad");
  });

  it("each entry is stored once, however the server fails", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.constantFrom("up", "away", "mute", "flush"), { minLength: 1, maxLength: 30 }), async (steps) => {
        const server = new FarServer();
        const { queue } = queueOf(server);
        let made = 0;
        for (const step of steps) {
          if (step === "flush") await queue.flush();
          else {
            server.mood = step as "up";
            made += 1;
            await queue.keep("c", entry(String(made)));
          }
        }
        server.mood = "up";
        await queue.flush();
        expect([...server.saved.values()].map(Number).sort((a, b) => a - b)).toEqual(Array.from({ length: made }, (_, i) => i + 1));
        expect(queue.waiting).toEqual([]);
      }),
    );
  });

  it("ids are of the published form, and none comes twice", () => {
    const ids = Array.from({ length: 500 }, freshId);
    expect(new Set(ids).size).toBe(500);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});
