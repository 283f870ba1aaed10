import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES } from "@/core/cutters/search/search";
import { type Holdings, holdingsOf } from "@/core/drawer/holdings";
import type { Item } from "@/core/drawer/items";
import type { DrawerRow } from "../../kit/api";
import { slugOf } from "../../kit/slug";

/** A cell as the address names it: its wire and its supply. */
export const cellName = (wire: { name: string }, supply: { name: string }) => `${slugOf(wire.name)}*${slugOf(supply.name)}`;

/** Which cell of a page an address names, as row and column; null where it names none. */
export function cellPlace({ wires, supplies }: Holdings, name: string): { w: number; s: number } | null {
  const [wire, supply] = name.split("*");
  const w = wires.findIndex((each) => slugOf(each.name) === wire);
  const s = supplies.findIndex((each) => slugOf(each.name) === supply);
  return w < 0 || s < 0 ? null : { w, s };
}

/** What is on offer: the drawer's own parts marked as only to be had, and the whole catalogue. */
export function offersOf(rows: readonly DrawerRow[]): Holdings {
  const wanted = holdingsOf(
    rows.filter((row) => !row.item.owned).map((row) => ({ id: row.id, item: { ...row.item, owned: false } as Item })),
    true,
  );
  return {
    wires: [...wanted.wires, ...CATALOGUE_WIRES.map((spec, i) => ({ id: `wire-${i}`, name: "", spec, lengthM: 0, pricePerM: null }))],
    supplies: [...wanted.supplies, ...CATALOGUE_SUPPLIES.map((supply, i) => ({ id: `supply-${i}`, name: "", supply, price: null }))],
    controls: [
      ...wanted.controls,
      ...CATALOGUE_CONTROLS.filter((kind) => !wanted.controls.some((control) => control.kind === kind)).map((kind) => ({ kind, price: null })),
    ],
  };
}

/** Page of the matrix by its word in the address, from zero. */
export const pageOf = (word: string) => Math.max(0, Math.min(100_000, Number.parseInt(word || "1", 10) || 1) - 1);
