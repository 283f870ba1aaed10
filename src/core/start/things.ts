import type { WireSpec } from "../physics/heat/wire";
import { COMMON_CONTROLS, COMMON_SUPPLIES } from "../physics/power/common";
import type { ControlKind } from "../physics/power/controls";
import type { Supply } from "../physics/power/supplies";

/** Something people commonly have lying about (common practice), to be ticked. */
export type Thing = {
  id: string;
  name: string;
  looks: string;
  /** what it gives, and what to watch */
  watch?: string | undefined;
  /** why it must not be used */
  refused?: string | undefined;
} & ({ kind: "wire"; wire: WireSpec } | { kind: "supply"; supply: Supply } | { kind: "control"; control: ControlKind });

export const THINGS: readonly Thing[] = [
  ...COMMON_SUPPLIES.map(({ id, name, looks, supply, watch, refused }): Thing => ({ id, name, looks, kind: "supply", supply, watch, refused })),
  ...COMMON_CONTROLS.map(({ id, name, looks, control, watch }): Thing => ({ id, name, looks, kind: "control", control, watch })),
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
