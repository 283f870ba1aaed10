import { describe, expect, it } from "vitest";
import type { Holdings } from "./holdings";
import { MATCH_PAGE, matchPage, matchPages } from "./pages";

const drawer = (wires: number, supplies: number): Holdings => ({
  wires: Array.from({ length: wires }, (_, i) => ({ id: `w${i}`, name: "", spec: { alloy: "ss-304", diameter_mm: 0.4 }, lengthM: 9, pricePerM: 0 })),
  supplies: Array.from({ length: supplies }, (_, i) => ({ id: `s${i}`, name: "", supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, price: 0 })),
  controls: [],
});

describe("pages of the matrix", () => {
  it("cover every wire and supply once, none larger than a page, and a place beyond the end is the last", () => {
    for (const [wires, supplies] of [
      [1500, 1500],
      [40, 20],
      [41, 21],
      [3, 2],
    ] as const) {
      const all = drawer(wires, supplies);
      const pages = matchPages(all);
      const rows = Array.from({ length: pages.wires }, (_, i) => matchPage(all, { wires: i, supplies: 0 }).wires).flat();
      const columns = Array.from({ length: pages.supplies }, (_, i) => matchPage(all, { wires: 0, supplies: i }).supplies).flat();
      expect(rows).toEqual(all.wires);
      expect(columns).toEqual(all.supplies);
      expect(matchPage(all, { wires: 0, supplies: 0 }).wires.length).toBeLessThanOrEqual(MATCH_PAGE.wires);
      expect(matchPage(all, { wires: 9999, supplies: 9999 })).toEqual(matchPage(all, { wires: pages.wires - 1, supplies: pages.supplies - 1 }));
    }
    expect(matchPage(drawer(0, 0), { wires: 0, supplies: 0 }).wires).toEqual([]);
  });
});
