import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { readBest, withScore } from "./bestScores";

const stored = new Map<string, string>();
beforeEach(() => {
  stored.clear();
  vi.stubGlobal("localStorage", { getItem: (key: string) => stored.get(key) ?? null, setItem: (key: string, value: string) => stored.set(key, value) });
});
afterEach(() => vi.unstubAllGlobals());

describe("best scores", () => {
  it("rise and never fall, and are there again", () => {
    const first = withScore({}, "corner", 40);
    expect(first).toEqual({ corner: 40 });
    const better = withScore(first, "corner", 70);
    expect(readBest()).toEqual({ corner: 70 });
    // No better: nothing changes, so that a page is not drawn again for it.
    expect(withScore(better, "corner", 70)).toBe(better);
    expect(withScore(better, "corner", 10)).toBe(better);
    expect(withScore(better, "taper", 0)).toEqual({ corner: 70, taper: 0 });
  });
  it("last as long as the page where the browser stores nothing", () => {
    vi.stubGlobal("localStorage", {
      getItem: () => {
        throw new Error("no storage");
      },
      setItem: () => {
        throw new Error("no storage");
      },
    });
    expect(readBest()).toEqual({});
    expect(withScore({}, "corner", 40)).toEqual({ corner: 40 });
  });
});
