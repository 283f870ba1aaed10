import { path, text } from "../../../kernel/drawing";
import { bisect } from "../../../numerics/bisection";
import { limited } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import { trim } from "../../../units/trim";
import { chopper } from "./chopper";
import { type ControlRecord, type PowerSource, usual, voltsCure, type WireDrive } from "./record";

/** A converter that steps direct volts down and holds its output. */
export interface BuckControl {
  kind: "buck";
  voltage_V: number;
  efficiency?: number | undefined;
}

const STEP = 0.1;

/** Usual efficiency of a small buck module (common practice). */
export const BUCK_EFFICIENCY = 0.92;

/** It holds its output where its input lets it; what it draws follows from the power. */
function drive(control: BuckControl, { emfV, insideOhm, holdsA }: PowerSource, loadOhm: number): WireDrive {
  const efficiency = control.efficiency ?? BUCK_EFFICIENCY;
  const input = (outV: number) => {
    // P/eff = I (E - I R): the smaller root, undefined beyond the most the supply can hand over.
    const power = outV ** 2 / loadOhm / efficiency;
    const square = emfV * emfV - 4 * insideOhm * power;
    if (square < 0) return undefined;
    const amperes = insideOhm === 0 ? power / emfV : (emfV - Math.sqrt(square)) / (2 * insideOhm);
    // It only steps down: its input must stay at or above its output.
    return emfV - amperes * insideOhm >= outV ? amperes : undefined;
  };
  const wanted = input(control.voltage_V);
  let outV = control.voltage_V;
  let amperes = wanted;
  if (amperes === undefined || amperes > holdsA) {
    const serves = (volts: number) => {
      const tried = input(volts);
      return tried !== undefined && tried <= holdsA;
    };
    outV = bisect(serves, 0, control.voltage_V, 60).low;
    amperes = input(outV) ?? 0;
  }
  const wireA = outV / loadOhm;
  return {
    onA: wireA,
    rmsA: wireA,
    supplyA: amperes,
    limited: wanted !== undefined && wanted > holdsA,
    controlLossW: (wireA * outV * (1 - efficiency)) / efficiency,
  };
}

export const buck: ControlRecord<BuckControl> = {
  ...usual,
  kind: "buck",
  title: "Buck converter",
  words: "steps the volts down smoothly and draws less than it gives",
  called: "buck converter",
  part: "step-down converter",
  fields: { voltage_V: limited("voltage_V"), efficiency: limited("efficiency", { optional: true }) },
  suits: "direct",
  misfit: "needs direct current: a transformer gives alternating",
  cost: 4,
  start: ({ emfV }) => ({ kind: "buck", voltage_V: Number(Math.min(LIMITS.voltage_V.max, emfV / 2).toFixed(4)) }),
  fullyUp: ({ emfV }) => ({ kind: "buck", voltage_V: emfV }),
  knob: {
    id: "buck",
    field: "voltage_V",
    name: "Buck converter, volts out",
    unit: "V",
    scale: 1,
    decimals: 1,
    step: STEP,
    rising: true,
    range: ({ emfV }) => ({ min: 0.1, max: emfV }),
    card: (volts) => `buck ${volts.toFixed(1)} V`,
    label: "Volts out",
    quantity: "voltage",
  },
  drive: (control, source, load) => drive(control, source, load.ohm),
  hidesSource: true,
  setFor: ({ currentA, outsideOhm, band, leastReach }, source) => {
    const outV = currentA * outsideOhm;
    const control: BuckControl = { kind: "buck", voltage_V: outV };
    const driven = drive(control, source, outsideOhm);
    if (driven.rmsA < currentA * (1 - 1e-6))
      return {
        why: driven.limited ? "overload" : "too-cold",
        say: () => `the supply gives the converter enough for ${driven.rmsA.toFixed(1)} A in the wire, and ${currentA.toFixed(1)} A are needed`,
        ease: (driven.rmsA / currentA) ** 2,
      };
    // A converter steps down only: what its supply's volts leave above its output is all the way it has.
    const most = drive({ kind: "buck", voltage_V: Math.min(source.emfV, outV * Math.sqrt(2 * leastReach)) }, source, outsideOhm);
    return { control, setting: outV, supplyA: driven.supplyA, steps: (outV * band) / 2 / STEP, reach: (most.rmsA / currentA) ** 2 };
  },
  turn: ({ voltage_V }, emfV) => voltage_V / emfV,
  sentence: ({ voltage_V }, show) => `a buck converter at ${trim(show("voltage", voltage_V))}`,
  short: (volts) => `buck ${volts.toFixed(1)} V`,
  cure: voltsCure,
  bothRails: true,
  symbol: ({ voltage_V }, { x, top, bottom, print }) =>
    chopper(x, top, bottom, path(`M${x + 7} ${top + 14}h8v6h9`, { stroke: "amber", width: 0.9 }), [
      text(x + 17, top + 34, "buck", { bold: true }),
      text(x + 17, top + 41, `${print(voltage_V)} V`, { mono: true }),
    ]),
  never: ["Never let the control's input and output share a lead: both its outputs go to the wire, neither to the frame."],
  netlist: ({ voltage_V, efficiency = BUCK_EFFICIENCY }, print) => ({
    block: (node) => ({
      lines: [
        `* buck converter: holds its output, draws its power over its efficiency`,
        `BOUT b1 0 V = ${print(voltage_V)}`,
        `BIN ${node} 0 I = V(b1)*I(VWIRE)/(${print(efficiency)}*V(${node}))`,
      ],
      node: "b1",
    }),
  }),
  tried: { voltage_V: [0.1, 40] },
};
