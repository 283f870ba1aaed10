import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { AGAIN_MS, openEvents, SILENT_MS } from "./events";

class Line {
  static readonly CLOSED = 2;
  static all: Line[] = [];
  readyState = 1;
  closed = false;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  private readonly named = new Map<string, () => void>();
  constructor(readonly address: string) {
    Line.all.push(this);
  }
  addEventListener(name: string, heard: () => void): void {
    this.named.set(name, heard);
  }
  say(name: string): void {
    this.named.get(name)?.();
  }
  close(): void {
    this.closed = true;
  }
}
const line = () => Line.all.at(-1) as Line;

beforeEach(() => {
  Line.all = [];
  vi.useFakeTimers();
  vi.stubGlobal("EventSource", Line);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("passes on messages, and reconnects where the browser gave up", () => {
  const result: string[] = [];
  const end = openEvents("/there", { message: (data) => result.push(data), open: () => result.push("open"), broken: () => result.push("broken") });
  line().onopen?.();
  line().onmessage?.({ data: "one" });
  // Broken and not closed: the browser tries again.
  line().onerror?.();
  vi.advanceTimersByTime(AGAIN_MS * 3);
  expect(Line.all).toHaveLength(1);
  line().readyState = Line.CLOSED;
  line().onerror?.();
  expect(Line.all).toHaveLength(1);
  vi.advanceTimersByTime(AGAIN_MS);
  expect(Line.all).toHaveLength(2);
  line().onmessage?.({ data: "two" });
  expect(result).toEqual(["open", "one", "broken", "broken", "two"]);
  end();
  vi.advanceTimersByTime(SILENT_MS * 3);
  expect(Line.all).toHaveLength(2);
  expect(Line.all.every(({ closed }) => closed)).toBe(true);
});

it("takes a line on which nothing comes for dead, and one that says that it is there for alive", () => {
  const broken = vi.fn();
  const end = openEvents("/there", { message: () => undefined, broken });
  for (let i = 0; i < 5; i++) {
    vi.advanceTimersByTime(SILENT_MS - 1);
    line().say("here");
  }
  expect([Line.all.length, broken.mock.calls.length]).toEqual([1, 0]);
  vi.advanceTimersByTime(SILENT_MS);
  expect([Line.all.length, broken.mock.calls.length, Line.all[0]?.closed]).toEqual([2, 1, true]);
  // While it cannot be opened it is tried for as long as it takes.
  vi.advanceTimersByTime(SILENT_MS * 2);
  expect(Line.all).toHaveLength(4);
  end();
});
