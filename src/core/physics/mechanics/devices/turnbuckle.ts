import { byRate, type TensionRecord } from "./record";

export const turnbuckle = {
  device: "turnbuckle",
  name: "turnbuckle",
  short: "turnbuckle",
  words: "goes slack when the wire grows hot",
  usualRateNPerMm: null,
  rateLabel: "",
  stretches: false,
  measured: false,
  showsStretch: true,
  // It gives nothing.
  model: () => ({ kind: "rigid" }),
  drawerNeeds: null,
  serves: byRate,
  part: () => "turnbuckle, set hot",
  caution: {
    code: "goes-slack",
    basis: "published",
    source: "thermal expansion against a frame that does not give",
    words: ({ growthM, coldN, hot_N }, show) =>
      `A turnbuckle gives nothing: the wire grows ${show("kerf", growthM * 1000)} as it heats and goes slack unless it is set hot. For ${show("force", hot_N)} hot it would hold ${show("force", coldN)} cold. A spring or a weight keeps it straight.`,
  },
} as const satisfies TensionRecord;
