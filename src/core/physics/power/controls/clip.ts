import { limited } from "../../../units/field";
import { trim } from "../../../units/trim";
import { type ControlRecord, straight, usual } from "./record";

/** A clip on the wire that leaves part of it live. */
export interface ClipControl {
  kind: "clip";
  live_mm: number;
}

export const clip: ControlRecord<ClipControl> = {
  ...usual,
  kind: "clip",
  title: "Sliding clip",
  words: "changes the live length of the wire",
  called: "sliding clip",
  part: null,
  owned: false,
  searched: false,
  fields: { live_mm: limited("length_mm") },
  cost: 4,
  start: ({ wireMm }) => ({ kind: "clip", live_mm: wireMm }),
  fullyUp: () => null,
  knob: {
    id: "live",
    field: "live_mm",
    name: "Clip, live wire",
    unit: "mm",
    scale: 1,
    decimals: 0,
    step: 5,
    rising: false,
    range: ({ wireMm, foamMm }) => {
      const least = Math.min(foamMm, wireMm);
      return { min: least, max: Math.max(wireMm, least + 1) };
    },
    card: (liveMm, show) => `clip at ${show("length", liveMm)}`,
    label: "Live wire",
    quantity: "length",
  },
  drive: (_control, source, load) => straight(source, source.emfV, source.insideOhm, load.ohm),
  shortens: true,
  liveMm: ({ live_mm }) => live_mm,
  setFor: () => ({ why: "mismatch", say: () => "a sliding clip shortens the wire; the search keeps the whole of it live" }),
  turn: () => null,
  sentence: ({ live_mm }, show) => `a clip leaving ${trim(show("length", live_mm))} live`,
  short: () => "clip",
  cure: (_from, to, show) => `clip at ${show("length", to)} of live wire`,
  netlist: () => ({}),
  tried: {},
};
