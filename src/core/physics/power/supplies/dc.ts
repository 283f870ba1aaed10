import { box, dot, path, type Shape, text } from "../../../kernel/drawing";
import { limited, oneOf } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import { trim } from "../../../units/trim";
import { boxSign } from "./box";
import { askOhms, emfLines, KILLS, type SupplyRecord, usualVolts } from "./record";

/** Ohms before a lamp on a computer supply's 5 V lines (common practice). */
const LAMP_OHM = 330;

/** What sets a supply of some make apart from a plain brick (common practice). */
interface Make {
  sentence: string;
  /** beneath its box in a drawing */
  called: string;
  note: string;
  ownKnob?: true;
  tripsOnRush?: true;
  never?: string;
  always?: string;
  lines?: () => Shape[];
}
const MAKES = {
  computer: {
    sentence: "rail of a computer supply",
    called: "12 V rail",
    note: "Its power-on line must be held to ground, or nothing comes out: see Wiring, with its standby and power-good lamps.",
    never: "Never open a computer supply: its capacitors kill long after it is unplugged.",
    always: `Hold the power-on line to ground through the switch: without it nothing comes out. Standby and power-good lines (5 V) can each drive a lamp through ${LAMP_OHM} ohm (common practice): waiting, and running. All 12 V wires of one rail together, all grounds together.`,
    lines: computerLines,
  },
  train: {
    sentence: "train supply, old make",
    called: "train supply",
    note: "An older make sags where a wire asks too much. Its own knob turns the heat.",
    ownKnob: true,
  },
  "train-modern": {
    sentence: "train supply, new make",
    called: "train supply, new",
    note: "A newer make takes a cold wire for a short circuit and cuts out.",
    ownKnob: true,
    tripsOnRush: true,
    always: "A newer train controller takes a cold wire for a short circuit: turn up slowly from nothing, or take an older one.",
  },
  charger: {
    sentence: "plain battery charger",
    called: "plain charger",
    note: "Rectified, not smoothed: an averaging meter shows 0.9 of the current that heats (volts and amperes here are those that heat). An electronic charger gives nothing without a battery.",
  },
  "hot-knife": {
    sentence: "supply of a hot knife, as measured",
    called: "hot knife's supply",
    note: "As measured: it is known to sustain no more than it was tried with.",
  },
} as const satisfies Readonly<Record<string, Make>>;

/** Direct-current supplies that behave or are joined up in a way of their own; any other is a plain brick. */
export type DcMake = keyof typeof MAKES;
const DC_MAKES = Object.keys(MAKES) as DcMake[];
const makeOf = ({ make }: DcSupply): Make | undefined => make && MAKES[make];

/** Direct current at the volts of its plate, or of its own knob. */
export interface DcSupply {
  kind: "dc";
  voltage_V: number;
  maxCurrent_A: number;
  internal_ohm?: number | undefined;
  make?: DcMake | undefined;
  /** Most its own knob gives, where it has one: then voltage_V is where the knob is. */
  maxVoltage_V?: number | undefined;
}

export const dc: SupplyRecord<DcSupply> = {
  ...usualVolts,
  kind: "dc",
  fields: {
    voltage_V: limited("voltage_V", { kills: KILLS }),
    maxCurrent_A: limited("maxCurrent_A"),
    internal_ohm: limited("internal_ohm", { optional: true }),
    make: oneOf(DC_MAKES, { optional: true }),
    maxVoltage_V: limited("voltage_V", { optional: true, kills: KILLS }),
  },
  emfV: ({ voltage_V }) => voltage_V,
  labelV: ({ voltage_V }) => voltage_V,
  limitA: ({ maxCurrent_A }) => maxCurrent_A,
  insideOhm: ({ internal_ohm }) => internal_ohm ?? 0,
  cutsOut: true,
  ownKnob: (supply) => makeOf(supply)?.ownKnob === true,
  tripsOnRush: (supply) => makeOf(supply)?.tripsOnRush === true,
  atVolts: (supply, voltage_V) => ({ ...supply, voltage_V }),
  atLimit: (supply, maxCurrent_A) => ({ ...supply, maxCurrent_A }),
  mostV: ({ maxVoltage_V }) => maxVoltage_V ?? 0,
  mostA: ({ maxCurrent_A }) => maxCurrent_A,
  atPlate: (supply) => (supply.maxVoltage_V === undefined ? supply : { ...supply, voltage_V: supply.maxVoltage_V, maxVoltage_V: undefined }),
  turnedTo: (supply, voltage_V) => (voltage_V !== null && makeOf(supply)?.ownKnob ? { ...supply, voltage_V, maxVoltage_V: supply.voltage_V } : supply),
  cost: 1,
  plate: ({ voltage_V, maxCurrent_A }, show) => [trim(show("voltage", voltage_V)), trim(show("current", maxCurrent_A))],
  sentence: (supply, show) => `${trim(show("voltage", supply.voltage_V))} ${trim(show("current", supply.maxCurrent_A))} ${makeOf(supply)?.sentence ?? "brick"}`,
  part: ({ voltage_V, maxCurrent_A }) => `${voltage_V} V, ${maxCurrent_A} A or better, isolated`,
  serves: (theirs, wanted) => theirs.voltage_V === wanted.voltage_V && theirs.maxCurrent_A >= wanted.maxCurrent_A,
  same: (a, b) => (makeOf(a)?.ownKnob ? a.make === b.make : usualVolts.same(a, b)),
  asks: (supply) => [
    {
      key: "voltage_V",
      label: makeOf(supply)?.ownKnob ? "Volts, as the knob is" : "Volts on the plate",
      quantity: "voltage",
      value: supply.voltage_V,
      min: LIMITS.voltage_V.min,
      max: (makeOf(supply)?.ownKnob && supply.maxVoltage_V) || LIMITS.voltage_V.max,
    },
    { key: "maxCurrent_A", label: "Amperes on the plate", quantity: "current", value: supply.maxCurrent_A, ...LIMITS.maxCurrent_A },
    askOhms(supply.internal_ohm, "Ohms inside (0 if stiff)"),
  ],
  note: (supply) => makeOf(supply)?.note ?? null,
  netlist: (_supply, around) => emfLines("supply", around),
  symbol: (supply, at) => {
    const make = makeOf(supply);
    const plate = [`${at.print(supply.voltage_V)} V`, `${at.print(supply.maxCurrent_A)} A`] as const;
    return [...boxSign(plate, make?.called ?? "supply", at), ...(make?.lines?.() ?? [])];
  },
  never: (supply) => [makeOf(supply)?.never].filter((words) => words !== undefined),
  always: (supply) => [makeOf(supply)?.always].filter((words) => words !== undefined),
  tried: { voltage_V: [0.5, 60], maxCurrent_A: [0.2, 25], internal_ohm: [0, 2], make: [undefined, ...DC_MAKES] },
};

/** The other lines of a computer supply, above the circuit: the one that must be held to ground, and two that can drive a lamp. */
function computerLines(): Shape[] {
  const from = 62;
  const to = 112;
  const row = (y: number, name: string, words: string, between: Shape[]) => [
    text(from - 2, y + 1.3, name, { size: 3.4, anchor: "end" }),
    ...between,
    path(`M${to} ${y - 2.4}v4.800M${to + 1.6} ${y - 1.5}v3M${to + 3.2} ${y - 0.6}v1.200`),
    text(to + 6, y + 1.3, words, { size: 3.2, anchor: "start", ink: "soft" }),
  ];
  const lamp = (y: number) => [
    path(`M${from} ${y}h6`),
    box(from + 6, y - 1.8, 14, 3.6),
    text(from + 13, y - 3, `${LAMP_OHM} ohm`, { size: 2.8 }),
    path(`M${from + 20} ${y}h8`),
    path(`M${from + 28} ${y - 2.4}v4.800l4.400 -2.400zM${from + 32.4} ${y - 2.4}v4.800M${from + 32.4} ${y}H${to}`),
  ];
  return [
    ...row(5, "power-on", "held to ground, or nothing comes out", [
      path(`M${from} 5h14l12 -4.500M${from + 28} 5H${to}`, { stroke: "ember" }),
      dot(from + 14, 5),
      dot(from + 28, 5),
    ]),
    ...row(14, "standby, 5 V", "lamp: plugged in", lamp(14)),
    ...row(23, "power good, 5 V", "lamp: running", lamp(23)),
  ];
}
