import type { Relation } from "../../../kernel/provenance";
import { limited } from "../../../units/field";
import { type ControlRecord, fallsShort, straight, usual } from "./record";

/** A dimmer ahead of a transformer: each half-wave let through from its delay angle on. */
export interface PhaseControl {
  kind: "phase";
  delay_deg: number;
}

const STEP = 1;

export const PHASE_LAW: Relation = {
  id: "phase",
  title: "Phase-angle control",
  formula: "V_rms/V = sqrt(1 - a/pi + sin(2a)/(2 pi))",
  words: "A dimmer lets each half-wave through from its delay angle on; most of the change sits in the middle of the knob.",
  range: "full-wave, resistive load, 0 <= a <= 180 degrees",
  basis: "published",
  source: "root mean square of a sine chopped at its delay angle",
};

/** Share of the rms voltage left by a delay angle in degrees. See {@link PHASE_LAW}. */
export function phaseShare(delayDeg: number): number {
  const a = (delayDeg * Math.PI) / 180;
  return Math.sqrt(Math.max(0, 1 - a / Math.PI + Math.sin(2 * a) / (2 * Math.PI)));
}

export const phase: ControlRecord<PhaseControl> = {
  ...usual,
  kind: "phase",
  title: "Dimmer",
  words: "chops each half-wave ahead of a transformer: coarse in the middle of its turn",
  called: "dimmer",
  part: "dimmer made for transformers",
  mainsSide: true,
  fields: { delay_deg: limited("delay_deg") },
  suits: "alternating",
  misfit: "needs a transformer: on direct current a dimmer never switches off",
  cost: 8,
  start: () => ({ kind: "phase", delay_deg: 90 }),
  fullyUp: () => ({ kind: "phase", delay_deg: 0 }),
  knob: {
    id: "delay",
    field: "delay_deg",
    name: "Dimmer, delay angle",
    unit: "°",
    scale: 1,
    decimals: 0,
    step: STEP,
    rising: false,
    range: () => ({ min: 0, max: 180 }),
    card: (delay) => `dimmer ${Math.round(delay)} degrees`,
    label: "Delay angle",
  },
  law: PHASE_LAW,
  chops: () => true,
  drive: ({ delay_deg }, source, load) => straight(source, source.emfV * phaseShare(delay_deg), source.insideOhm, load.ohm),
  setFor: ({ currentA, outsideOhm, band }, source) => {
    const needV = currentA * (outsideOhm + source.insideOhm);
    if (needV > source.emfV) return fallsShort(source, needV);
    let lo = 0;
    let hi = 180;
    for (let i = 0; i < 30; i++) {
      const mid = (lo + hi) / 2;
      if (phaseShare(mid) * source.emfV > needV) lo = mid;
      else hi = mid;
    }
    const half = STEP / 2;
    const slope = (phaseShare(lo + half) ** 2 - phaseShare(Math.max(0, lo - half)) ** 2) / phaseShare(lo) ** 2;
    return {
      control: { kind: "phase", delay_deg: lo },
      setting: lo,
      supplyA: currentA,
      steps: band / Math.max(1e-6, Math.abs(slope)),
      reach: (source.emfV / needV) ** 2,
    };
  },
  turn: ({ delay_deg }) => 1 - delay_deg / 180,
  sentence: ({ delay_deg }) => `a dimmer at ${Math.round(delay_deg)}° of delay`,
  short: (delay) => `dimmer ${Math.round(delay)}°`,
  cure: (_from, to) => `dimmer to ${Math.round(to)}° of delay`,
  never: ["Never put a dimmer on the secondary: it belongs ahead of the transformer, and must be made for transformers."],
  netlist: ({ delay_deg }, print) => ({ remark: `, dimmer at ${print(delay_deg)} degrees`, share: phaseShare(delay_deg) }),
  tried: { delay_deg: [0, 180] },
};
