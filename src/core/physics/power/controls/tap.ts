import { limited } from "../../../units/field";
import { type ControlRecord, fallsShort, straight, usual } from "./record";

/** A share of a transformer's winding. */
export interface TapControl {
  kind: "tap";
  fraction: number;
}

const STEP = 0.01;
/** Least share a variable transformer is turned to here. */
export const LEAST_TAP = 0.05;
/** A transformer's taps lie far apart, however finely a share of it could be named (common practice). */
const TAP_STEPS = 5;

export const tap: ControlRecord<TapControl> = {
  ...usual,
  kind: "tap",
  title: "Winding tap",
  words: "a few fixed steps of a transformer's volts",
  called: "winding's tap",
  part: "tapped winding",
  mainsSide: true,
  fields: { fraction: limited("fraction") },
  suits: "alternating",
  misfit: "needs a transformer: only a winding has taps",
  cost: 4,
  start: () => ({ kind: "tap", fraction: 0.5 }),
  fullyUp: () => ({ kind: "tap", fraction: 1 }),
  knob: {
    id: "fraction",
    field: "fraction",
    name: "Tap, share of the winding",
    unit: "%",
    scale: 100,
    decimals: 0,
    step: STEP,
    rising: true,
    range: () => ({ min: LEAST_TAP, max: 1 }),
    card: (fraction) => `tap ${Math.round(fraction * 100)} %`,
    label: "Share of the winding",
    quantity: "duty",
  },
  chops: () => true,
  drive: ({ fraction }, source, load) => straight(source, source.emfV * fraction, source.insideOhm * fraction ** 2, load.ohm),
  winding: ({ fraction }) => fraction,
  setFor: ({ currentA, outsideOhm, band }, source) => {
    const { emfV, insideOhm } = source;
    const needV = currentA * (outsideOhm + insideOhm);
    // The winding's ohms go with the square of the turns in use: E f = I (R + r f^2), the smaller root.
    const square = emfV * emfV - 4 * insideOhm * currentA ** 2 * outsideOhm;
    if (square < 0) return fallsShort(source, needV);
    const fraction = insideOhm === 0 ? needV / emfV : (emfV - Math.sqrt(square)) / (2 * insideOhm * currentA);
    if (fraction > 1) return fallsShort(source, needV);
    if (fraction < LEAST_TAP) return { why: "too-hot", say: () => `too hot: it would have to be turned down to ${(100 * fraction).toFixed(1)} %` };
    return {
      control: { kind: "tap", fraction },
      setting: fraction,
      supplyA: currentA,
      steps: Math.min(TAP_STEPS, (fraction * band) / 2 / STEP),
      reach: (straight(source, emfV, insideOhm, outsideOhm).rmsA / currentA) ** 2,
    };
  },
  turn: ({ fraction }) => fraction,
  sentence: ({ fraction }) => `a tap at ${Math.round(fraction * 100)} %`,
  short: (fraction) => `tap ${Math.round(fraction * 100)} %`,
  cure: (_from, to) => `tap at ${Math.round(to * 100)} %`,
  netlist: ({ fraction }, print) => ({ ...(fraction < 1 ? { remark: `, tap at ${print(fraction * 100)} %` } : {}), share: fraction }),
  tried: { fraction: [0.05, 1] },
};
