import { newPlan, type Plan } from "./plan";

/** The shelf of shapes of the demo's parade: every one cuts. Invented. */
export const DEMO_PLANS: readonly Plan[] = [
  newPlan("Carp's tail fin", {
    root: { shape: { kind: "naca4", code: "2415" }, chord_mm: 320 },
    tip: { shape: { kind: "naca4", code: "0012" }, chord_mm: 180 },
    part: { span_mm: 1100, sweep_mm: 60, washout_deg: 2, hands: "left and right" },
    template: { twist: true },
    cut: {},
  }),
  newPlan("Tide wave ribbon", {
    root: { shape: { kind: "wave", crests: 3, height_mm: 50 }, chord_mm: 600 },
    part: { span_mm: 80 },
    template: { faces: "single", material: "plywood", thickness_mm: 4 },
  }),
  newPlan("LANTERN lettering", {
    root: { shape: { kind: "text", text: "LANTERN", height_mm: 120 } },
    part: { span_mm: 50 },
    template: { faces: "single", material: "card" },
  }),
  newPlan("Bandstand column", {
    root: {
      shape: {
        kind: "column",
        passes: 8,
        profile_mm: [
          [0, 70],
          [30, 70],
          [42, 46],
          [330, 38],
          [342, 62],
          [380, 62],
        ],
      },
    },
    part: { span_mm: 150 },
    template: { faces: "flip", material: "plywood", thickness_mm: 4 },
  }),
  newPlan("Harbour buoy", {
    root: { shape: { kind: "superellipse", ratio: 1, power: 2.4 }, chord_mm: 240 },
    part: { span_mm: 240 },
    template: { faces: "single" },
  }),
  newPlan("Lantern rib", {
    root: { shape: { kind: "arc", ratio: 0.3, thickness_mm: 14 }, chord_mm: 420 },
    part: { span_mm: 40 },
    template: { faces: "single", material: "metal" },
  }),
];
