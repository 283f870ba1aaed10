import { describe, expect, it } from "vitest";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import { holdingsOf } from "@/core/drawer/holdings";
import type { DrawerRow } from "../../kit/api";
import { cellName, cellPlace, offersOf, pageOf } from "./matchAddress";

const rows = DEMO_DRAWER.map((item, i) => ({ id: String(i), item, revision: 1 }) as DrawerRow);

describe("a cell in the address", () => {
  const holdings = holdingsOf(rows);

  it("names its wire and supply, and is found again by them", () => {
    holdings.wires.forEach((wire, w) => {
      holdings.supplies.forEach((supply, s) => {
        const name = cellName(wire, supply);
        expect(cellPlace(holdings, name)).toEqual({ w, s });
      });
    });
  });

  it.each(["", "*", "no-such-wire*no-such-supply", "x"])("%j names none", (name) => {
    expect(cellPlace(holdings, name)).toBeNull();
  });
});

it("a page's word counts from one; anything else is the first page", () => {
  expect(["", "1", "2", "40", "-3", "x", "9e9"].map(pageOf)).toEqual([0, 0, 1, 39, 0, 0, 8]);
});

it("what is on offer is what the drawer does not own, and the catalogue: nothing twice", () => {
  const offers = offersOf(rows);
  const owned = new Set(rows.filter(({ item }) => item.owned).map(({ item }) => item.name));
  for (const each of [...offers.wires, ...offers.supplies]) expect(owned.has(each.name)).toBe(false);
  const kinds = offers.controls.map(({ kind }) => kind);
  expect(new Set(kinds).size).toBe(kinds.length);
  expect(offers.wires.length).toBeGreaterThan(20);
});
