import { path, text, zigzag } from "../../../kernel/drawing";
import { limited } from "../../../units/field";
import { trim } from "../../../units/trim";
import { type ControlRecord, fallsShort, straight, usual } from "./record";

/** Ohms in series, of which a slider leaves so many. */
export interface RheostatControl {
  kind: "rheostat";
  ohm: number;
}

const STEP = 0.1;
/** End of the rheostat that people buy for this, ohm (common practice). */
export const RHEOSTAT_END_OHM = 25;

export const rheostat: ControlRecord<RheostatControl> = {
  ...usual,
  kind: "rheostat",
  title: "Rheostat",
  words: "simple, and throws its share away as heat",
  called: "rheostat",
  part: "rheostat",
  fields: { ohm: limited("rheostat_ohm") },
  cost: 8,
  reservation: "the rheostat throws its share away as heat",
  start: () => ({ kind: "rheostat", ohm: 2 }),
  fullyUp: () => ({ kind: "rheostat", ohm: 0 }),
  knob: {
    id: "rheostat",
    field: "ohm",
    name: "Rheostat",
    unit: "ohm",
    scale: 1,
    decimals: 1,
    step: STEP,
    rising: false,
    range: () => ({ min: 0, max: RHEOSTAT_END_OHM }),
    card: (ohm) => `${ohm.toFixed(1)} ohm`,
    label: "Ohms in series",
    quantity: "resistance",
  },
  drive: ({ ohm }, source, load) => {
    const through = straight(source, source.emfV, source.insideOhm + ohm, load.ohm);
    return { ...through, controlLossW: through.rmsA ** 2 * ohm };
  },
  seriesOhm: ({ ohm }) => ohm,
  setFor: ({ currentA, outsideOhm, band }, source) => {
    const load = outsideOhm + source.insideOhm;
    const needV = currentA * load;
    const ohm = source.emfV / currentA - load;
    if (ohm < 0) return fallsShort(source, needV);
    if (ohm > RHEOSTAT_END_OHM)
      return { why: "too-hot", say: () => `too hot: a rheostat of ${ohm.toFixed(0)} ohm would be needed, and they end near ${RHEOSTAT_END_OHM}` };
    return { control: { kind: "rheostat", ohm }, setting: ohm, supplyA: currentA, steps: ((load + ohm) * band) / 2 / STEP, reach: (source.emfV / needV) ** 2 };
  },
  turn: ({ ohm }) => 1 - ohm / RHEOSTAT_END_OHM,
  sentence: ({ ohm }, show) => `a rheostat at ${trim(show("resistance", ohm))}`,
  short: (ohm) => `${ohm.toFixed(1)} ohm`,
  cure: (_from, to, show) => `rheostat to ${show("resistance", to, 1)}`,
  symbol: ({ ohm }, { x, top, print }) => [
    path(`M${x - 2} ${top}h4`),
    path(zigzag(x + 2, top, 28, 5)),
    path(`M${x + 30} ${top}h8`),
    path(`M${x + 8} ${top + 8}l16 -16m0 0l-4 1m4 -1l-1 4`),
    text(x + 16, top + 14, "rheostat", { size: 3.8 }),
    text(x + 16, top + 19, `${print(ohm)} ohm`, { mono: true, size: 4 }),
  ],
  netlist: ({ ohm }) => ({ series: { name: "RHEOSTAT", ohm, words: "rheostat" } }),
  tried: { ohm: [0, 20] },
};
