import type { Shape } from "../../../kernel/drawing";
import type { AllowedChoice, AllowedNumber } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import type { Print, ShowFigure } from "../controls/record";

/** A supply of some kind, as a design holds it. */
export interface AnySupply {
  kind: string;
}

/** One figure as a chooser asks for it. */
export interface Ask extends Omit<AllowedNumber, "as"> {
  key: string;
  label: string;
  value: number;
  /** what is stored times this is what is typed */
  scale?: number;
  /** nought represents "not given" */
  noughtIsNone?: true;
}

/** Where a supply's sign is drawn: its outputs at (x, top) and (x, bottom). */
export interface SignAt {
  x: number;
  top: number;
  bottom: number;
  print: Print;
  isolated: boolean;
  /** share of a winding in use, where a tap is chosen; null else */
  tap: number | null;
}

/** What a supply that empties has in it. */
export interface Charge<S> {
  ampereHours: (supply: S) => number;
  /** 0 to 1 */
  left: (supply: S) => number;
  withLeft: (supply: S, left: number) => S;
  /** volts under load below which it is empty */
  floorV: (supply: S) => number;
}

/**
 * Everything about one kind of supply. A new kind is a file with one of these and a line in `index.ts`: schema, circuit, search, cautions, choosers, lists, drawings, netlist,
 * bench and test generators read it.
 */
export interface SupplyRecord<S extends AnySupply> {
  kind: S["kind"];
  fields: { readonly [K in Exclude<keyof S, "kind">]-?: AllowedNumber | AllowedChoice };
  alternating: boolean;
  /** Open-circuit volts: plate, knob, charge or secondary. */
  emfV: (supply: S) => number;
  /** The label's volts, which set it apart from others at any tap or charge. */
  labelV: (supply: S) => number;
  /** Most current it gives before it trips or limits, A; infinite where it has no limit: such a one must be fused. */
  limitA: (supply: S) => number;
  insideOhm: (supply: S) => number;
  /** It holds its limit for as long as asked instead of tripping over it. */
  holdsLimit: boolean;
  /** It cuts out where a cold wire draws more than its plate. */
  cutsOut: boolean;
  /** A volts knob of its own; whether the rush into a cold wire trips it. */
  ownKnob: (supply: S) => boolean;
  tripsOnRush: (supply: S) => boolean;
  /** It at other volts, and with another limit; null where those are not for its user to choose. */
  atVolts: ((supply: S, volts: number) => S) | null;
  atLimit: ((supply: S, amperes: number) => S) | null;
  /** Most its knobs give, as far as that is known; the whole supply as its plate says; one off the shelf with its knob brought down to so many volts, or left. */
  mostV: (supply: S) => number;
  mostA: (supply: S) => number;
  atPlate: (supply: S) => S;
  turnedTo: (supply: S, volts: number | null) => S;
  charge: Charge<S> | null;
  /** It brings mains to the bench beyond a plug: a licensed electrician's. */
  mainsSide: boolean;
  /** It is apart from the mains by its nature. */
  apart: boolean;
  /** Where its fuse sits, and what the wiring says of that. */
  fusedAt: string;
  fuseWords: string;
  /** Points off a hundred in the search (this project's judgement), and what the search says for or against it. */
  cost: number;
  praise: string | null;
  reservation: string | null;
  /** Its plate in two lines; as a sentence says it; as a part to get; whether another one serves in its place. */
  plate: (supply: S, show: ShowFigure) => [string, string];
  sentence: (supply: S, show: ShowFigure) => string;
  part: (supply: S) => string;
  serves: (theirs: S, wanted: S) => boolean;
  /** The same thing, however its knobs are. */
  same: (a: S, b: S) => boolean;
  asks: (supply: S) => Ask[];
  /** What to know of this one, next to its figures. */
  note: (supply: S) => string | null;
  /** Its lines of a netlist up to node s1, from its open volts after the control's share and what the control remarks. */
  netlist: (supply: S, around: { emfV: number; print: Print; remark: string }) => string[];
  /** Whether its inner ohms are in the netlist as a resistor. */
  netlistOhms: boolean;
  symbol: (supply: S, at: SignAt) => Shape[];
  never: (supply: S) => string[];
  always: (supply: S) => string[];
  /** Ranges that a test draws its figures from. */
  tried: { readonly [K in Exclude<keyof S, "kind">]?: readonly [number, number] | readonly (string | undefined)[] };
}

/** A record as code that does not know its kind uses it. */
export type AnySupplyRecord = SupplyRecord<AnySupply & Record<string, unknown>>;

/** Why direct volts beyond the limit are refused. */
export const KILLS = "above that the bare wire can kill, and it is refused, not computed";
const AT_OUTPUT = "The fuse sits at the supply's output, before switch and control.";

/** What most kinds have in common. */
export const usualVolts = {
  alternating: false,
  holdsLimit: false,
  cutsOut: false,
  ownKnob: () => false,
  tripsOnRush: () => false,
  atVolts: null,
  atLimit: null,
  turnedTo: <S>(supply: S) => supply,
  atPlate: <S>(supply: S) => supply,
  charge: null,
  mainsSide: false,
  apart: false,
  fusedAt: "the supply's output",
  fuseWords: AT_OUTPUT,
  praise: null,
  reservation: null,
  same: <S>(a: S, b: S) => JSON.stringify(a) === JSON.stringify(b),
  note: () => null,
  netlistOhms: true,
  never: () => [],
  always: () => [],
} as const;

/** Ohms inside, as a chooser asks for them. */
export const askOhms = (value: number | undefined, label: string): Ask => ({
  key: "internal_ohm",
  label,
  quantity: "resistance",
  value: value ?? 0,
  ...LIMITS.internal_ohm,
  noughtIsNone: true,
});

/** The volts source that all but a bench supply are in a netlist. */
export const emfLines = (words: string, { emfV, print, remark }: { emfV: number; print: Print; remark: string }) => [
  `* ${words}${remark}`,
  `VEMF s0 0 ${print(emfV)}`,
  "VSUPPLY s0 s1 0",
];
