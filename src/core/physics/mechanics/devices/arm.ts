import { byRate, type TensionRecord } from "./record";

export const arm = {
  device: "arm",
  name: "flexed arm",
  short: "arm",
  words: "pre-bent and pulled straight: nearly constant",
  usualRateNPerMm: 0.8,
  rateLabel: "Rate at the wire",
  stretches: false,
  measured: false,
  showsStretch: false,
  model: (rate) => ({ kind: "arm", rateNPerM: rate * 1000 }),
  drawerNeeds: null,
  serves: byRate,
  part: () => "pre-bent arm",
  caution: null,
} as const satisfies TensionRecord;
