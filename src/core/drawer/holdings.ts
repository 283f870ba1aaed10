import type { WireSpec } from "../physics/heat/wire";
import type { ControlKind } from "../physics/power/controls";
import type { Supply } from "../physics/power/supplies";
import type { Item, ItemOf } from "./items";
import { wireOf } from "./things";

/** A spool of the drawer for matching. */
export interface HeldWire {
  id: string;
  name: string;
  spec: WireSpec;
  /** left on it */
  lengthM: number;
  pricePerM: number | null;
}

export interface HeldSupply {
  id: string;
  name: string;
  supply: Supply;
  price: number | null;
}

/** Parts the matching works with. Owned parts cost nothing more; a price not known is null. */
export interface Holdings {
  wires: HeldWire[];
  supplies: HeldSupply[];
  /** Next to a direct connection, which needs no part. */
  controls: { kind: ControlKind; price: number | null }[];
}

/** What a drawer offers: the owned parts, or with `buyable` also those only to be had. */
export function holdingsOf(rows: readonly { id: string; item: Item }[], buyable = false): Holdings {
  const of = <K extends Item["kind"]>(kind: K) =>
    rows.filter((row): row is { id: string; item: ItemOf<K> } => row.item.kind === kind && (row.item.owned || buyable));
  const price = (item: Item) => (item.owned ? 0 : (item.price ?? null));
  const controls = new Map<ControlKind, number | null>([["direct", 0]]);
  for (const { item } of of("control")) {
    const basis = controls.get(item.control);
    const mine = price(item);
    if (basis === undefined || (mine !== null && (basis === null || mine < basis))) controls.set(item.control, mine);
  }
  return {
    wires: of("wire").map(({ id, item }) => ({
      id,
      name: item.name,
      spec: wireOf(item),
      lengthM: item.length_m,
      pricePerM: item.owned ? 0 : (item.price_per_m ?? null),
    })),
    supplies: of("supply").map(({ id, item }) => ({ id, name: item.name, supply: item.supply, price: price(item) })),
    controls: [...controls].map(([kind, own]) => ({ kind, price: own })),
  };
}
