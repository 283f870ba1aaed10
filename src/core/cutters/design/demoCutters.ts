import type { Design } from "./schema";
import { DESIGN_FORMAT, DESIGN_VERSION } from "./vocabulary";

const base = { format: DESIGN_FORMAT, version: DESIGN_VERSION, ambient_C: 16 } as const;

/** Long Tom's frame: ash arms on a timber spreader, cable across the top. */
export const DEMO_FRAME = {
  kind: "bow-saw",
  wire_arm_mm: 220,
  cable_arm_mm: 220,
  arm_material: "timber",
  arm: { shape: "bar", width_mm: 22, depth_mm: 38 },
  spreader_mm: 1280,
  spreader_material: "timber",
  spreader: { shape: "bar", width_mm: 28, depth_mm: 34 },
  ends: "pinned",
} as const satisfies NonNullable<Design["frame"]>;

/** When somebody of the shed looked at Long Tom's wiring. */
const LOOKED = { at: "2026-03-02T18:00:00.000Z", by: null };

/** The Saltmarsh Lantern Parade float shed: invented cutters, each met on a different kind of day. */
export const DEMO_CUTTERS: readonly Design[] = [
  {
    ...base,
    name: "Long Tom",
    kind: "bow",
    notes: "Two-hander for the carp's tail fin, 1.1 m across. Thread the jumper round the spring before switching on.",
    job: { foam: { family: "eps", density_kg_m3: 18 }, width_mm: 1100, thickness_mm: 120, feed_mm_s: 6.5, maxKerf_mm: 2.5 },
    wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "spring", length_mm: 1300 },
    supply: { kind: "bench", voltage_V: 14.4, current_A: 8, maxVoltage_V: 30, maxCurrent_A: 10 },
    control: { kind: "direct" },
    leads: { gauge_awg: 14, oneWay_m: 2 },
    tension: { device: "spring", hot_N: 65, rate_N_per_mm: 2.4, initial_N: 8, rest_mm: 95, travel_mm: 60 },
    frame: DEMO_FRAME,
    wiring: {
      isolation: "isolated",
      fuse_A: 7.5,
      switch: "foot",
      insulatedPost: true,
      jumper: true,
      answered: { isolation: LOOKED, fuse_A: LOOKED, switch: LOOKED, insulatedPost: LOOKED, jumper: LOOKED },
    },
  },
  {
    ...base,
    name: "Gatepost",
    kind: "table",
    notes: "Upright wire for tide-wave ribbons and lettering. It was last left far too hot.",
    job: { foam: { family: "eps", density_kg_m3: 15 }, width_mm: 300, thickness_mm: 600, feed_mm_s: 3.5, maxKerf_mm: 2.5 },
    wire: { alloy: "nicr-80-20", gauge_awg: 26, length_mm: 420 },
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 8 },
    control: { kind: "pwm", duty: 0.7 },
    leads: { gauge_awg: 16, oneWay_m: 1 },
    tension: { device: "weight", hot_N: 12 },
  },
  {
    ...base,
    name: "Thimble",
    kind: "slicer",
    notes: "Nine-volt slicer for lantern panes. Fine while the block is fresh.",
    job: { foam: { family: "xps", density_kg_m3: 29 }, width_mm: 180, thickness_mm: 3, feed_mm_s: 4, maxKerf_mm: 1.2 },
    wire: { alloy: "nicr-80-20", gauge_awg: 34, length_mm: 240 },
    supply: { kind: "dc", voltage_V: 9, maxCurrent_A: 1, internal_ohm: 1.6 },
    control: { kind: "direct" },
    leads: { gauge_awg: 22, oneWay_m: 0.3 },
    tension: { device: "spring", hot_N: 5, rate_N_per_mm: 0.4 },
  },
  {
    ...base,
    name: "Marionette",
    kind: "frame",
    notes: "Motorised frame, trying springy bead polypropylene for the buoys that get kicked about.",
    job: { foam: { family: "epp", density_kg_m3: 30 }, width_mm: 700, thickness_mm: 150, feed_mm_s: 3, maxKerf_mm: 2.5 },
    wire: { alloy: "ni-superalloy", diameter_mm: 0.3, length_mm: 900 },
    supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 6 },
    control: { kind: "pwm", duty: 0.4 },
    leads: { gauge_awg: 16, oneWay_m: 2.5 },
    tension: { device: "spring", hot_N: 45, rate_N_per_mm: 1 },
  },
  {
    ...base,
    name: "Limpet",
    kind: "loop",
    notes: "Hand loop for pockets under the bandstand columns. A car battery charger was the first idea.",
    job: { foam: { family: "xps", density_kg_m3: 35 }, width_mm: 45, thickness_mm: 20, feed_mm_s: 3, maxKerf_mm: 2 },
    wire: { alloy: "nicr-80-20", gauge_awg: 22, length_mm: 110 },
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 6 },
    control: { kind: "direct" },
    leads: { gauge_awg: 16, oneWay_m: 1.2 },
    tension: { device: "band", hot_N: 6 },
  },
];
