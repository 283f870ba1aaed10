import { byRate, type TensionRecord } from "./record";

/** Beyond what the wire grows a spring keeps this much travel in hand, mm. */
const IN_HAND_MM = 10;

export const spring = {
  device: "spring",
  name: "extension spring",
  short: "spring",
  words: "nearly constant; bridge it with a jumper, never run the current through it",
  usualRateNPerMm: 1.2,
  rateLabel: "Spring rate",
  stretches: true,
  measured: true,
  showsStretch: true,
  model: (rate) => ({ kind: "spring", rateNPerM: rate * 1000 }),
  drawerNeeds: "rate_N_per_mm",
  serves: byRate,
  part: ({ rate_N_per_mm: rate }, travelMm, show) =>
    `extension spring, ${rate === undefined ? "soft" : show("springRate", rate)}, ${show("length", Math.max(IN_HAND_MM, travelMm + IN_HAND_MM))} of travel in hand`,
  caution: null,
} as const satisfies TensionRecord;
