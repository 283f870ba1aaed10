import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { type CutFace, entrySchema, type LogEntry } from "./entries";

/** A test cut of the demo: day, volts, feed, what was measured, and the face. */
interface DemoCut {
  at: string;
  volts: number;
  heat: number;
  feed: number;
  amps?: number;
  kerf?: number;
  bow?: number;
  face: CutFace;
  note?: string;
}

const CUTS: readonly DemoCut[] = [
  { at: "2026-10-03T09:12:00Z", volts: 17.5, heat: 59.8, feed: 4.5, amps: 4.43, kerf: 2.04, face: "glossy", note: "first try, smells" },
  { at: "2026-10-03T09:40:00Z", volts: 14.4, heat: 43.7, feed: 5.5, amps: 4.01, kerf: 1.18, bow: 7.2, face: "matt", note: "fin offcut as wide as the job" },
  { at: "2026-10-10T10:05:00Z", volts: 12, heat: 32.3, feed: 7.5, amps: 3.52, face: "ridged", note: "tore the last third" },
  { at: "2026-10-10T10:30:00Z", volts: 13, heat: 36.5, feed: 5, amps: 3.68, kerf: 1.01, bow: 11.2, face: "thin-middle" },
  { at: "2026-10-24T09:20:00Z", volts: 15.5, heat: 50.1, feed: 6.5, kerf: 1.19, bow: 6.5, face: "matt" },
  { at: "2026-11-14T10:15:00Z", volts: 14.4, heat: 43.1, feed: 5, amps: 3.87, kerf: 1.35, bow: 4.7, face: "grooved", note: "stopped to move the lamp" },
];

/** Invented entries of Long Tom's autumn: what a shed that keeps a log would have by now. */
export function demoLog(): LogEntry[] {
  const tom = designSchema.parse(DEMO_CUTTERS[0]);
  const { length_mm, ...wire } = tom.wire;
  const { supply, leads } = tom;
  const foam = { family: "eps", density_kg_m3: 18 };
  const cuts = CUTS.map(({ at, volts, heat, feed, amps, kerf, bow, face, note }) => ({
    kind: "test-cut",
    at,
    foam,
    width_mm: 1100,
    wire,
    wire_length_mm: length_mm,
    supply: supply.kind === "bench" ? { ...supply, voltage_V: volts } : supply,
    control: tom.control,
    leads,
    ambient_C: tom.ambient_C,
    tension_N: tom.tension.hot_N,
    setting: `bench supply at ${volts} V, limit 8 A`,
    heat_W_per_m: heat,
    feed_mm_s: feed,
    ...(amps === undefined ? {} : { current_A: amps }),
    ...(kerf === undefined ? {} : { kerf_mm: kerf }),
    ...(bow === undefined ? {} : { lag_mm: bow }),
    face,
    note: note ?? "",
  }));
  const others = [
    { kind: "wire-change", at: "2026-10-03T08:30:00Z", why: "first", wire, spool: "Rib wire, hard-drawn", cut_mm: 1482, note: "" },
    { kind: "tension-check", at: "2026-10-03T08:50:00Z", tension_N: 81, how: "spring", hot: false, note: "" },
    {
      kind: "run",
      at: "2026-10-04T09:00:00Z",
      foam,
      width_mm: 1100,
      setting: "14.4 V",
      feed_mm_s: 5.5,
      pieces: 4,
      cut_m: 5.2,
      hot_min: 38,
      note: "tail fin ribs",
    },
    { kind: "tension-check", at: "2026-10-06T09:00:00Z", tension_N: 74, how: "spring", hot: false, note: "timber has settled" },
    { kind: "wire-change", at: "2026-10-24T08:40:00Z", why: "broke", wire, spool: "Rib wire, hard-drawn", cut_mm: 1480, note: "kinked at the bolt" },
    {
      kind: "diagnosis",
      at: "2026-10-10T10:35:00Z",
      fault: "thin-middle",
      cause: "too fast",
      change: "slower: 4.3 mm/s in place of 5.0 mm/s",
      outcome: "helped",
      note: "",
    },
    {
      kind: "rig-cut",
      at: "2026-10-24T15:30:00Z",
      rig: "swing",
      name: "Long Tom on the swing arm",
      figures: [
        { key: "seconds", label: "Time in the face, s", value: 52 },
        { key: "hung_N", label: "Weight that hung", quantity: "force", value: 0.5 },
        { key: "early_mm", label: "One end early by", quantity: "length", value: 1 },
      ],
      note: "held back over the tail",
    },
    { kind: "finish", at: "2026-10-24T18:00:00Z", part: "Carp's tail fin", pieces: 1, done: ["cool", "hairs", "check"], note: "150 grit, along the span" },
    { kind: "run", at: "2026-10-25T09:00:00Z", foam, width_mm: 1100, setting: "15.0 V", feed_mm_s: 6, pieces: 6, cut_m: 7.4, hot_min: 55, note: "" },
  ];
  return [...cuts, ...others].map((entry) => entrySchema.parse(entry));
}
