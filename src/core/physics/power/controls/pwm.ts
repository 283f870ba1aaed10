import { path, text } from "../../../kernel/drawing";
import type { Relation } from "../../../kernel/provenance";
import { limited } from "../../../units/field";
import { chopper } from "./chopper";
import { type ControlRecord, fallsShort, straight, usual } from "./record";

/** Chopped current: on for its duty of the time. */
export interface PwmControl {
  kind: "pwm";
  duty: number;
}

const STEP = 0.01;

export const PWM_LAW: Relation = {
  id: "pwm",
  title: "Chopped current (PWM)",
  formula: "I_rms = I_on sqrt(D); heat goes with D; the supply sees I_on",
  words: "The switch is either on or off: half the duty is half the heat, but the supply must still stand the full on-current.",
  range: "period short against the wire's warm-up; supply without a filter that would smooth it",
  basis: "published",
  source: "definition of the root mean square",
};

export const pwm: ControlRecord<PwmControl> = {
  ...usual,
  kind: "pwm",
  title: "PWM control",
  words: "chops the current: heat goes with duty, the supply still meets the full on-current",
  called: "PWM module",
  part: "PWM module",
  fields: { duty: limited("duty") },
  suits: "direct",
  misfit: "needs direct current: a transformer gives alternating",
  cost: 3,
  start: () => ({ kind: "pwm", duty: 1 }),
  fullyUp: () => ({ kind: "pwm", duty: 1 }),
  knob: {
    id: "duty",
    field: "duty",
    name: "PWM duty",
    unit: "%",
    scale: 100,
    decimals: 0,
    step: STEP,
    rising: true,
    range: () => ({ min: 0, max: 1 }),
    card: (duty) => `PWM ${Math.round(duty * 100)} %`,
    label: "Duty",
    quantity: "duty",
    slider: true,
  },
  law: PWM_LAW,
  chops: ({ duty }) => duty < 1,
  duty: ({ duty }) => duty,
  onCurrentStays: true,
  drive: ({ duty }, source, load) => {
    const on = straight(source, source.emfV, source.insideOhm, load.ohm);
    return { ...on, rmsA: on.onA * Math.sqrt(duty) };
  },
  setFor: ({ currentA, outsideOhm, band }, source) => {
    const load = outsideOhm + source.insideOhm;
    const on = Math.min(source.emfV / load, source.holdsA);
    const duty = (currentA / on) ** 2;
    if (duty > 1)
      return on < source.emfV / load
        ? { why: "overload", say: () => `overload: ${currentA.toFixed(1)} A asked, limited to ${on.toFixed(1)} A`, ease: 1 / duty }
        : { ...fallsShort(source, currentA * load), ease: 1 / duty };
    return { control: { kind: "pwm", duty }, setting: duty, supplyA: on, steps: (duty * band) / STEP, reach: 1 / duty };
  },
  turn: ({ duty }) => duty,
  sentence: ({ duty }) => `PWM at ${Math.round(duty * 100)} %`,
  short: (duty) => `PWM ${Math.round(duty * 100)} %`,
  cure: (from, to) => `duty ${to > from ? "up" : "down"} to ${Math.round(to * 100)} %`,
  bothRails: true,
  symbol: ({ duty }, { x, top, bottom }) =>
    chopper(x, top, bottom, path(`M${x + 7} ${top + 22}v-8h4v8h8v-8h4v8`, { stroke: "amber", width: 0.9 }), [
      text(x + 17, top + 34, "PWM", { bold: true }),
      text(x + 17, top + 41, `${Math.round(duty * 100)} %`, { mono: true }),
    ]),
  never: ["Never let the control's input and output share a lead: both its outputs go to the wire, neither to the frame."],
  netlist: ({ duty }, print) => ({ comment: `* PWM, switched on; at work it is on for ${print(duty * 100)} % of the time` }),
  tried: { duty: [0, 1] },
};
