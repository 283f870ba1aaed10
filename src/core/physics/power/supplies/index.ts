import type { PowerSource } from "../controls/record";
import { battery } from "./battery";
import { bench } from "./bench";
import { dc } from "./dc";
import type { AnySupply, AnySupplyRecord, SupplyRecord } from "./record";
import { transformer } from "./transformer";

/** Every supply there is, in the order messages name them. The one list: a new kind is a file beside these and a word here. */
const RECORDS = [dc, bench, battery, transformer] as const;

type SupplyOf<R> = R extends SupplyRecord<infer S> ? S : never;
/** What the maker plugs in. Volts and amperes as on the plate; a bench supply's are its two knobs. */
export type Supply = SupplyOf<(typeof RECORDS)[number]>;

export const SUPPLIES = RECORDS as unknown as readonly AnySupplyRecord[];
export const SUPPLY_KINDS = RECORDS.map(({ kind }) => kind) as readonly Supply["kind"][];

const byKind = new Map(RECORDS.map((record) => [record.kind as string, record as unknown as AnySupplyRecord]));

/** The record of a supply with the supply itself, for asking one of the other. */
export function supplyRecordOf(supply: Supply): { record: AnySupplyRecord; own: AnySupply & Record<string, unknown> } {
  const record = byKind.get(supply.kind);
  if (!record) throw new Error(`no supply of the kind ${supply.kind}`);
  return { record, own: supply as unknown as AnySupply & Record<string, unknown> };
}

/** Whether a supply has a volts knob of its own: a bench supply, a train controller. */
export function ownKnob(supply: Supply): boolean {
  const { record, own } = supplyRecordOf(supply);
  return record.ownKnob(own);
}

/** Open-circuit volts of a supply: plate, knob, charge or secondary. */
export function supplyEmfV(supply: Supply): number {
  const { record, own } = supplyRecordOf(supply);
  return record.emfV(own);
}

/** Most current the supply gives before it trips or limits, A. A battery has none: it must be fused. */
export function supplyLimitA(supply: Supply): number {
  const { record, own } = supplyRecordOf(supply);
  return record.limitA(own);
}

/** Ohms inside the supply. A battery's default goes with its cells and shrinks with its capacity. */
export function supplyOhm(supply: Supply): number {
  const { record, own } = supplyRecordOf(supply);
  return record.insideOhm(own);
}

/** The supply at other volts, where those are its user's to choose; null where they are not. */
export function atVolts(supply: Supply, volts: number): Supply | null {
  const { record, own } = supplyRecordOf(supply);
  return record.atVolts ? (record.atVolts(own, volts) as unknown as Supply) : null;
}

/** The supply as its plate says, its own knobs fully up. */
export function atPlate(supply: Supply): Supply {
  const { record, own } = supplyRecordOf(supply);
  return record.atPlate(own) as unknown as Supply;
}

/** A supply as its control sees it. */
export function sourceOf(supply: Supply): PowerSource {
  const { record, own } = supplyRecordOf(supply);
  const plateA = record.limitA(own);
  return {
    emfV: record.emfV(own),
    insideOhm: record.insideOhm(own),
    holdsA: record.holdsLimit ? plateA : Number.POSITIVE_INFINITY,
    plateA,
    alternating: record.alternating,
    ownKnob: record.ownKnob(own),
  };
}
