import { BAND_RETENTION } from "../tension";
import { byRate, type TensionRecord } from "./record";

export const band = {
  device: "band",
  name: "rubber band",
  short: "band",
  words: "for hair-thin wire only",
  usualRateNPerMm: 0.3,
  rateLabel: "Rate at the wire",
  stretches: true,
  measured: false,
  showsStretch: true,
  model: (rate) => ({ kind: "band", rateNPerM: rate * 1000 }),
  drawerNeeds: null,
  serves: byRate,
  part: () => "rubber bands",
  caution: {
    code: "band-fades",
    basis: "estimate",
    source: "stress relaxation of rubber, this project's estimate",
    words: () => `A rubber band keeps about ${Math.round(BAND_RETENTION * 100)} % of its pull after an hour and perishes near heat: for hair-thin wire only.`,
  },
} as const satisfies TensionRecord;
