import { path, text } from "../../../kernel/drawing";
import type { Relation } from "../../../kernel/provenance";
import { ALLOYS } from "../../../materials/alloys";
import { bisect } from "../../../numerics/bisection";
import { limited } from "../../../units/field";
import { trim } from "../../../units/trim";
import { resistanceOhmPerM, resolveWire, type Wire } from "../../heat/wire";
import { chopper } from "./chopper";
import { type ControlRecord, fallsShort, straight, usual, type WireLoad } from "./record";

/** A controller that reads the wire's volts and amperes and trims its duty so that the wire's ohms, hence its mean temperature, stay where they are asked to be. */
export interface HeldControl {
  kind: "held";
  hold_C: number;
}

const STEP = 5;
/** Ends of its dial: below it nothing melts, above it the wire glows. */
const DIAL = { min: 60, max: 650 } as const;
/** Ohms about the wanted ones, as a share, over which it goes from full on to off. Stands for a controller that has settled (estimate). */
const BAND = 2e-3;
/** Least degC a controller of this kind can be trusted to hold, where one per cent of its reading is more than so many (this project's judgement). */
export const BLIND_C_PER_PERCENT = 60;

export const HELD_READING: Relation = {
  id: "held-reading",
  title: "What a reading of ohms says about heat",
  formula: "dT = 0.01 R(T) / (dR/dT)",
  words:
    "A meter that is one per cent out in ohms is so many degrees out in heat. Stainless and nickel tell their heat by their ohms; nickel-chromium hardly does, and over part of its range not at all.",
  range: "slope taken over 10 degC about the temperature, from the alloy's table of resistance",
  basis: "estimate",
  source: "definition of the temperature coefficient, with each alloy's own table",
};

/**
 * How far out a temperature held by ohms is when the reading of ohms is one per cent out.
 * @returns degC; infinite where the ohms do not rise with heat, and a controller would run away
 */
export function degreesAPercent(wire: Wire, temperatureC: number): number {
  const slope = (resistanceOhmPerM(wire, temperatureC + 5) - resistanceOhmPerM(wire, temperatureC - 5)) / 10;
  return slope > 0 ? (0.01 * resistanceOhmPerM(wire, temperatureC)) / slope : Number.POSITIVE_INFINITY;
}

/** Every alloy at a temperature, the most telling first. See {@link degreesAPercent}. */
export function tellingAlloys(temperatureC: number): { alloy: string; name: string; degC: number }[] {
  return ALLOYS.map(({ id, shortName }) => ({
    alloy: id,
    name: shortName,
    degC: degreesAPercent(resolveWire({ alloy: id, diameter_mm: 0.4 }), temperatureC),
  })).sort((a, b) => (a.degC === b.degC ? (a.alloy < b.alloy ? -1 : 1) : a.degC - b.degC));
}

/** Duty of a settled controller at the wire's present ohms. */
function dutyAt(hold_C: number, { wireOhm, wireOhmAt }: WireLoad): number {
  // Nothing is known of the wire: it is as at switch-on, full on.
  if (!wireOhmAt) return 1;
  const wanted = wireOhmAt(hold_C);
  return Math.min(1, Math.max(0, 0.5 + (wanted - wireOhm) / (wanted * BAND)));
}

const percent = (degC: number) =>
  Number.isFinite(degC) ? `${degC < 10 ? degC.toFixed(1) : degC.toFixed(0)} °C` : "no heat at all: its ohms do not rise there";

export const held: ControlRecord<HeldControl> = {
  ...usual,
  kind: "held",
  title: "Held temperature",
  words: "reads the wire's volts and amperes, and chops the current to keep its ohms where they are asked to be",
  called: "temperature controller",
  part: "temperature controller that reads the wire's ohms",
  searched: false,
  fields: { hold_C: limited("hold_C") },
  suits: "direct",
  misfit: "needs direct current: a transformer gives alternating",
  cost: 6,
  reservation: "it must know the wire's cold ohms, and read them well",
  start: () => ({ kind: "held", hold_C: 300 }),
  fullyUp: () => ({ kind: "held", hold_C: DIAL.max }),
  knob: {
    id: "hold",
    field: "hold_C",
    name: "Held temperature",
    unit: "°C",
    scale: 1,
    decimals: 0,
    step: STEP,
    rising: true,
    range: () => DIAL,
    card: (holdC, show) => `hold ${show("temperature", holdC)}`,
    label: "Hold the wire at",
    quantity: "temperature",
  },
  law: HELD_READING,
  chops: () => true,
  duty: (_control, { rmsA, onA }) => (onA > 0 ? (rmsA / onA) ** 2 : 0),
  onCurrentStays: true,
  drive: ({ hold_C }, source, load) => {
    const on = straight(source, source.emfV, source.insideOhm, load.ohm);
    return { ...on, rmsA: on.onA * Math.sqrt(dutyAt(hold_C, load)) };
  },
  setFor: ({ currentA, outsideOhm, band, wireOhm, wireOhmAt, ambientC }, source) => {
    const load = outsideOhm + source.insideOhm;
    const on = Math.min(source.emfV / load, source.holdsA);
    const duty = (currentA / on) ** 2;
    if (duty > 1) return { ...fallsShort(source, currentA * load), ease: 1 / duty };
    if (wireOhmAt(DIAL.max) < wireOhm) return { why: "too-cold", say: () => "this alloy's ohms do not tell such a heat" };
    const { high: hold_C } = bisect((wireC) => wireOhmAt(wireC) < wireOhm, ambientC, DIAL.max, 50);
    return { control: { kind: "held", hold_C }, setting: hold_C, supplyA: on, steps: ((hold_C - ambientC) * band) / STEP, reach: 1 / duty };
  },
  turn: ({ hold_C }) => (hold_C - DIAL.min) / (DIAL.max - DIAL.min),
  sentence: ({ hold_C }, show) => `a controller that holds ${trim(show("temperature", hold_C))}`,
  short: (holdC) => `held ${Math.round(holdC)} °C`,
  cure: (_from, to, show) => `hold ${show("temperature", to)}`,
  bothRails: true,
  symbol: ({ hold_C }, { x, top, bottom }) =>
    chopper(x, top, bottom, path(`M${x + 7} ${top + 24}c5 0 4 -9 9 -9s4 5 9 5`, { stroke: "amber", width: 0.9 }), [
      text(x + 17, top + 34, "held", { bold: true }),
      text(x + 17, top + 41, `${Math.round(hold_C)} °C`, { mono: true }),
    ]),
  never: [
    "Never let the control's input and output share a lead: both its outputs go to the wire, neither to the frame.",
    "Never let it read volts across the leads: its two sensing wires end on the wire itself, inside the posts.",
  ],
  netlist: ({ hold_C }, print) => ({
    comment: `* held temperature, switched on; at work it chops the current to keep the wire's ohms as at ${print(hold_C)} degC`,
  }),
  notes: ({ hold_C }, wire) => [
    `On this wire, one per cent of its reading is ${percent(degreesAPercent(wire, hold_C))}.`,
    `At this heat, by alloy: ${tellingAlloys(hold_C)
      .map(({ name, degC }) => `${name}: ${Number.isFinite(degC) ? percent(degC) : "nothing"}`)
      .join(", ")}.`,
    "It keeps the mean of the whole wire: where foam cools the middle, the bare ends run hotter than asked.",
  ],
  tried: { hold_C: [80, 600] },
};
