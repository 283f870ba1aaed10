import type { Shape } from "../../../kernel/drawing";
import type { Relation } from "../../../kernel/provenance";
import type { AllowedNumber } from "../../../units/field";
import type { Quantity } from "../../../units/units";
import type { Wire } from "../../heat/wire";

/** A control of some kind, as a design holds it. */
export interface AnyControl {
  kind: string;
}

/** A supply as a control sees it. */
export interface PowerSource {
  /** open-circuit volts, rms where alternating */
  emfV: number;
  /** ohms inside */
  insideOhm: number;
  /** Amperes its own limit holds it to; infinite where it has none that holds. */
  holdsA: number;
  /** Amperes its plate stands. */
  plateA: number;
  alternating: boolean;
  /** It has a volts knob of its own. */
  ownKnob: boolean;
}

/** What a control works into. */
export interface WireLoad {
  /** leads, spring and wire together, > 0 */
  ohm: number;
  /** the wire alone */
  wireOhm: number;
  /** What the wire would have if all of it was at a temperature; undefined where nobody knows the wire. */
  wireOhmAt?: ((temperatureC: number) => number) | undefined;
}

/** What supply and control drive into so many ohms of leads, spring and wire. */
export interface WireDrive {
  /** while the switch is on */
  onA: number;
  rmsA: number;
  supplyA: number;
  limited: boolean;
  controlLossW: number;
}

/** Straight from the source through so many ohms more: what flows, up to what a limit holds it to. */
export function straight(source: PowerSource, volts: number, seriesOhm: number, loadOhm: number): WireDrive {
  const free = volts / (loadOhm + seriesOhm);
  const limited = free > source.holdsA;
  const amperes = limited ? source.holdsA : free;
  return { onA: amperes, rmsA: amperes, supplyA: amperes, limited, controlLossW: 0 };
}

/** A wire waiting for a current, as the search asks a control to be set for it. */
export interface Need {
  /** rms amperes that make the chosen heat */
  currentA: number;
  /** wire, leads and what test cuts found besides, ohm */
  outsideOhm: number;
  /** Width of the clean heats over the chosen heat. */
  band: number;
  /** Ohms of the wire alone then, and what it would have if all of it was at a temperature. */
  wireOhm: number;
  wireOhmAt: (temperatureC: number) => number;
  ambientC: number;
  /** Least times the chosen heat that a knob is to reach. */
  leastReach: number;
}

/** A control set for a need. */
export interface SetFor<C> {
  control: C;
  /** in the knob's own unit; null without one */
  setting: number | null;
  supplyA: number;
  /** Steps of the knob, as fine as a hand sets it, across the clean band. */
  steps: number;
  /** Hottest the knob goes, times the chosen heat. */
  reach: number;
}

/** Why a control cannot be set for a need. `ease`: share of the heat it could give. */
export interface CannotSet {
  why: "too-cold" | "too-hot" | "overload" | "mismatch";
  say: () => string;
  ease?: number | undefined;
}

/** A source whose volts fall short of a need. */
export const fallsShort = (source: PowerSource, needV: number): CannotSet => ({
  why: "too-cold",
  say: () => `falls short: ${needV.toFixed(1)} V needed, ${source.emfV.toFixed(1)} V there`,
  ease: (source.emfV / needV) ** 2,
});

/** What is turned to set the heat. */
export interface KnobRecord<C extends AnyControl> {
  /** Its name in answers and cures. */
  id: string;
  field: Exclude<keyof C, "kind">;
  /** What people call it, and how its own unit is shown: `scale` turns the stored figure into the shown one. */
  name: string;
  unit: string;
  scale: number;
  decimals: number;
  /** Finest step a hand sets it to, in the stored unit (common practice). */
  step: number;
  /** True when a higher setting is hotter. */
  rising: boolean;
  /** Ends of its travel. `foamMm` is the foam's width, `wireMm` the wire's length. */
  range: (around: ControlSurroundings) => { min: number; max: number };
  /** A setting as a card says it. */
  card: (setting: number, show: ShowFigure) => string;
  /** Its field in the chooser: words before it, and the quantity typed, if it is one; a share is typed in per cent. */
  label: string;
  quantity?: Quantity;
  /** Shown with a slider next to the field. */
  slider?: true;
}

/** What a control is chosen beside. */
export interface ControlSurroundings {
  emfV: number;
  wireMm: number;
  foamMm: number;
}

export type ShowFigure = (quantity: Quantity, canonical: number, decimals?: number) => string;

/** Numbers of a figure as a drawing or netlist prints them. */
export type Print = (value: number) => string;

/**
 * Everything about one kind of control. A new kind is a file with one of these and a line in `index.ts`: schema, choosers, search, cures, drawings, netlist, lists, test
 * generators and documents read it.
 */
export interface ControlRecord<C extends AnyControl> {
  kind: C["kind"];
  /** In the chooser, with what it is for. */
  title: string;
  words: string;
  /** In lists and the drawer; as a part to get for a build sheet. */
  called: string;
  part: string | null;
  /** Whether it can lie in a drawer, and whether the search tries it. */
  owned: boolean;
  searched: boolean;
  /** It belongs on the mains side, ahead of a transformer. */
  mainsSide: boolean;
  fields: { readonly [K in Exclude<keyof C, "kind">]-?: AllowedNumber };
  /** What it works on; `misfit` says why not on the other. */
  suits: "any" | "direct" | "alternating";
  misfit: string;
  /** Parts to buy, heat thrown away, mains-side work: points off a hundred (this project's judgement). */
  cost: number;
  /** One reason against it, for the search. */
  reservation?: string;
  /** As it is when it is first chosen, and turned fully up; null where it has no such setting. */
  start: (around: ControlSurroundings) => C;
  fullyUp: (around: ControlSurroundings) => C | null;
  knob: KnobRecord<C> | null;
  /** The formula behind what it does, where that is more than Ohm's law. */
  law: Relation | null;
  /** The wire's voltage is other than ripple-free. */
  chops: (control: C) => boolean;
  /** Share of the time that the supply meets the full on-current. */
  duty: (control: C, driven: Pick<WireDrive, "rmsA" | "onA">) => number;
  /** The supply meets its on-current however low this is turned. */
  onCurrentStays: boolean;
  drive: (control: C, source: PowerSource, load: WireLoad) => WireDrive;
  /** It leaves part of the wire without current; `liveMm` is what stays live. */
  shortens: boolean;
  liveMm: (control: C, wireMm: number) => number;
  /** Share of the source's volts that its winding gives; other ohms it puts before the load; whether the wire's share is judged behind it. */
  winding: (control: C) => number;
  seriesOhm: (control: C) => number;
  hidesSource: boolean;
  setFor: (need: Need, source: PowerSource) => SetFor<C> | CannotSet;
  /** How far up its turn it is, 0 to 1; null for one without a turn. */
  turn: (control: C, emfV: number) => number | null;
  /** As a sentence says it; as a cell has room for it; as a cure asks for it. */
  sentence: (control: C, show: ShowFigure) => string;
  short: (setting: number) => string;
  cure: (from: number, to: number, show: ShowFigure) => string;
  /** It is a box on both rails of the wiring: input and output apart. */
  bothRails: boolean;
  /** Its sign between x and x + 34 on the upper rail at `top`, the lower one at `bottom`; null for a plain line. */
  symbol: ((control: C, at: { x: number; top: number; bottom: number; print: Print }) => Shape[]) | null;
  /** What must never be done with it, for the wiring. */
  never: readonly string[];
  /** Its part of a netlist: words for the source's own line, share of its volts, and lines between source and leads. */
  netlist: (
    control: C,
    print: Print,
  ) => {
    remark?: string;
    share?: number;
    comment?: string;
    series?: { name: string; ohm: number; words: string };
    block?: (node: string) => { lines: string[]; node: string };
  };
  /** What is to be known of it on a wire, next to its field in the chooser. */
  notes?: (control: C, wire: Wire) => string[];
  /** Ranges that a test draws its figures from. */
  tried: { readonly [K in Exclude<keyof C, "kind">]?: readonly [number, number] };
}

/** A record as code that does not know its kind uses it. */
export type AnyRecord = ControlRecord<AnyControl & Record<string, unknown>>;

/** What most kinds have in common. */
export const usual = {
  owned: true,
  searched: true,
  mainsSide: false,
  suits: "any",
  misfit: "",
  law: null,
  chops: () => false,
  duty: () => 1,
  onCurrentStays: false,
  shortens: false,
  liveMm: (_control: AnyControl, wireMm: number) => wireMm,
  winding: () => 1,
  seriesOhm: () => 0,
  hidesSource: false,
  bothRails: false,
  symbol: null,
  never: [],
} as const;

/** A lower voltage or more of it, as a cure says. */
export const voltsCure = (from: number, to: number, show: ShowFigure) =>
  `${show("voltage", Math.abs(to - from))} ${to > from ? "more" : "less"} (${show("voltage", to)})`;
