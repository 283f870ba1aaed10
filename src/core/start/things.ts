import type { WireSpec } from "../physics/heat/wire";
import type { ControlKind } from "../physics/power/controls";
import type { Supply } from "../physics/power/supplies";

/** Something people commonly have lying about (common practice), to be ticked. */
export type Thing = { id: string; name: string; looks: string } & (
  | { kind: "wire"; wire: WireSpec }
  | { kind: "supply"; supply: Supply }
  | { kind: "control"; control: ControlKind }
);

export const THINGS: readonly Thing[] = [
  { id: "wall-12", kind: "supply", name: "12 V wall brick", looks: "12 V, 5 A on its label", supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 } },
  { id: "laptop-19", kind: "supply", name: "laptop brick", looks: "19 V, 4.7 A", supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 } },
  {
    id: "computer-12",
    kind: "supply",
    name: "computer supply",
    looks: "12 V rail, 18 A",
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 18, make: "computer" },
  },
  { id: "bench-30", kind: "supply", name: "bench supply", looks: "two knobs, 30 V and 5 A", supply: { kind: "bench", voltage_V: 30, current_A: 5 } },
  { id: "machine-24", kind: "supply", name: "24 V machine supply", looks: "24 V, 6 A", supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 6 } },
  {
    id: "train-old",
    kind: "supply",
    name: "train supply",
    looks: "an old one, 16 V and 1.5 A",
    supply: { kind: "dc", voltage_V: 16, maxCurrent_A: 1.5, make: "train" },
  },
  { id: "car", kind: "supply", name: "car battery", looks: "12 V, 40 Ah", supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 } },
  { id: "tool-18", kind: "supply", name: "tool battery", looks: "18 V, 4 Ah", supply: { kind: "battery", chemistry: "lithium-ion", cells: 5, capacity_Ah: 4 } },
  {
    id: "block-9",
    kind: "supply",
    name: "9 V block",
    looks: "the small square battery",
    supply: { kind: "battery", chemistry: "alkaline", cells: 6, capacity_Ah: 0.55 },
  },
  {
    id: "transformer-24",
    kind: "supply",
    name: "24 V transformer",
    looks: "24 V alternating, 100 VA",
    supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
  },
  { id: "pwm", kind: "control", name: "PWM module", looks: "a motor or light controller with a knob", control: "pwm" },
  { id: "buck", kind: "control", name: "buck converter", looks: "steps the volts down", control: "buck" },
  { id: "rheostat", kind: "control", name: "rheostat", looks: "a coil with a slider", control: "rheostat" },
  { id: "dimmer", kind: "control", name: "dimmer", looks: "made for transformers", control: "phase" },
  {
    id: "lock-041",
    kind: "wire",
    name: "lock wire, 0.41 mm",
    looks: "stainless, on a reel, stays bent: annealed",
    wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "annealed" },
  },
  {
    id: "lock-064",
    kind: "wire",
    name: "lock wire, 0.64 mm",
    looks: "stainless, on a reel, stays bent: annealed",
    wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "annealed" },
  },
  {
    id: "leader-041",
    kind: "wire",
    name: "fishing leader, one strand, 0.41 mm",
    looks: "stainless, springs out of its coil: hard-drawn",
    wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "spring" },
  },
  {
    id: "ss-unknown",
    kind: "wire",
    name: "stainless of unknown temper, 0.64 mm",
    looks: "counts as annealed until a bend test says more",
    wire: { alloy: "ss-304", diameter_mm: 0.64 },
  },
  {
    id: "leader",
    kind: "wire",
    name: "fishing trace, seven strands, 0.45 mm",
    looks: "stainless cable, hard-drawn",
    wire: { alloy: "ss-304", diameter_mm: 0.15, strands: 7, temper: "spring" },
  },
  { id: "nicr-26", kind: "wire", name: "nickel-chromium, 0.40 mm", looks: "26 AWG heating wire", wire: { alloy: "nicr-80-20", gauge_awg: 26 } },
  { id: "nicr-32", kind: "wire", name: "nickel-chromium, 0.20 mm", looks: "32 AWG, fine", wire: { alloy: "nicr-80-20", gauge_awg: 32 } },
];
