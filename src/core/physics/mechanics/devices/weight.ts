import type { TensionRecord } from "./record";

export const weight = {
  device: "weight",
  name: "hanging weight",
  short: "weight",
  words: "constant, however much the wire grows",
  usualRateNPerMm: null,
  rateLabel: "",
  stretches: false,
  measured: false,
  showsStretch: true,
  model: () => ({ kind: "weight" }),
  drawerNeeds: "force_N",
  serves: (thing, { hot_N }, near) => near(thing.force_N ?? 0, hot_N),
  part: ({ hot_N }, _travel, show) => `weight of ${show("force", hot_N)} over a pulley`,
  caution: null,
} as const satisfies TensionRecord;
