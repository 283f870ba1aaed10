import { type ControlRecord, fallsShort, type KnobRecord, straight, usual } from "./record";

/** The supply straight on the wire. */
export interface DirectControl {
  kind: "direct";
}

export const direct: ControlRecord<DirectControl> = {
  ...usual,
  kind: "direct",
  title: "No control",
  words: "the supply straight on the wire; a bench supply's own knobs serve",
  called: "no control",
  part: null,
  owned: false,
  fields: {},
  cost: 0,
  start: () => ({ kind: "direct" }),
  fullyUp: () => ({ kind: "direct" }),
  knob: null,
  drive: (_control, source, load) => straight(source, source.emfV, source.insideOhm, load.ohm),
  // What is set is the supply's own knob; a supply without one is what it is, and the search computes that on its own.
  setFor: ({ currentA, outsideOhm, band }, source) => {
    const needV = currentA * (outsideOhm + source.insideOhm);
    if (needV > source.emfV) return fallsShort(source, needV);
    const reach = Math.min((source.emfV / needV) ** 2, (source.plateA / currentA) ** 2);
    return { control: { kind: "direct" }, setting: needV, supplyA: currentA, steps: (needV * band) / 2 / OWN_KNOB_STEP_V, reach };
  },
  turn: () => null,
  sentence: () => "no control",
  short: (volts) => `${volts.toFixed(1)} V`,
  cure: () => "no control",
  netlist: () => ({}),
  tried: {},
};

/** What a hand sets a supply's own volts knob to (common practice). */
const OWN_KNOB_STEP_V = 0.1;

/** The volts knob that some supplies have of their own: it is turned where nothing else is. */
export const ownVolts: Pick<KnobRecord<{ kind: string; voltage_V: number }>, "id" | "name" | "unit" | "scale" | "decimals" | "step" | "rising" | "card"> = {
  id: "voltage",
  name: "Volts knob",
  unit: "V",
  scale: 1,
  decimals: 1,
  step: OWN_KNOB_STEP_V,
  rising: true,
  card: (volts) => `${volts.toFixed(1)} V`,
};
