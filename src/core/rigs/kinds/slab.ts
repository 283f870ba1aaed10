import type { Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";
import { midSpanLag } from "../../physics/cut/lag";
import { massKgPerM, resolveWire } from "../../physics/heat/wire";
import { pullLimits } from "../../physics/mechanics/tension";
import { number, startOf, type ValuesOf } from "../../units/field";
import type { RigSurroundings } from "../around";
import { figureOf, type RigNote, type RigRecord } from "../record";
import { Sketch } from "../sketch";
import { CALCULATION_SHEET } from "../sums";

const SLAB = "slab";
const WIRE = "wire";
const fields = [
  number(SLAB, "slab_mm", "Slab", "length", [0.5, 2000], 25, { decimals: 1 }),
  number(SLAB, "blockLong_mm", "Block, pushed through", "length", [1, 20_000], 1200),
  number(SLAB, "blockWide_mm", "Block, across the wire", "length", [1, 20_000], 1100),
  number(WIRE, "span_mm", "Support to support", "length", [10, 20_000], 1300),
  number(WIRE, "weight_N", "Weight that hangs on it", "force", [0.1, 500], 40, { decimals: 1 }),
  number(WIRE, "leftHigh_mm", "Left support, as measured over the bench", "length", [0, 3000], null, { decimals: 1, hint: "empty: as it is set below" }),
  number(WIRE, "rightHigh_mm", "Right support, as measured", "length", [0, 3000], null, { decimals: 1 }),
];
export type SlabRig = { kind: "slab" } & ValuesOf<typeof fields>;

const start: SlabRig = startOf("slab", fields);

export const SAG: Relation = {
  id: "sag",
  title: "Sag of the free wire",
  formula: "s = m g L^2/(8 T)",
  words: "A wire under its own weight hangs a little in the middle: four times as much for twice the span, half for twice the weight.",
  range: "sag small next to the span; exact is the catenary T/(m g) (cosh(m g L/(2 T)) - 1)",
  basis: "published",
  source: "statics of the shallow catenary",
};

const GRAVITY = 9.80665;

/** Small-sag figure, mm. @param weightPerM of the wire, N/m */
export const sagMm = (weightPerM: number, spanM: number, tensionN: number): number => (1000 * weightPerM * spanM * spanM) / (8 * tensionN);

export function slabbed(rig: SlabRig, { cut, cutter }: RigSurroundings) {
  const wire = cutter?.pair.wire ?? resolveWire({ alloy: "ss-304", diameter_mm: 0.64 });
  const spanM = rig.span_mm / 1000;
  const lost = (cut.kerfMm - cut.wireMm) / 2;
  const setMm = rig.slab_mm + lost;
  const [left, right] = [rig.leftHigh_mm ?? setMm, rig.rightHigh_mm ?? setMm];
  const wide = Math.min(rig.blockWide_mm, rig.span_mm) / 1000;
  // In the middle of the span the block: heights at its two edges.
  const edge = (side: number) => left + (right - left) * (0.5 + (side * wide) / (2 * spanM));
  const limits = cutter ? pullLimits(wire, Math.max(cutter.evaluation.circuit.wireC, cutter.evaluation.cut.wireC)) : null;
  return {
    wire,
    setMm,
    sag: sagMm(massKgPerM(wire) * GRAVITY, spanM, rig.weight_N),
    thinMm: [edge(-1) - lost, (left + right) / 2 - lost, edge(1) - lost] as const,
    lagMm: 1000 * midSpanLag(cut.dragNPerM, spanM, wide, rig.weight_N).lagM,
    pushN: cut.dragNPerM * wide,
    limits,
  };
}

/** A sag or a tilt over this shows in a slab, mm (this project's judgement). */
const SHOWS_MM = 0.3;

export const slabRig: RigRecord<SlabRig> = {
  kind: "slab",
  title: "Slabs over a bench",
  purpose: "A long wire level over a bench, a weight on its end: whole blocks are pushed through into slabs of even thickness.",
  fields,
  start,
  takesPlan: false,
  laws: [SAG, CALCULATION_SHEET],
  solve: (rig, around, show) => {
    const found = slabbed(rig, around);
    const [a, , b] = found.thinMm;
    const notes: RigNote[] = [
      ...(found.limits && rig.weight_N > found.limits.recommendedN
        ? [
            {
              code: "too-heavy",
              severity: rig.weight_N > found.limits.creepsN ? "danger" : "caution",
              words: `Hot, this wire withstands ${show("force", found.limits.recommendedN)} for long; ${show("force", rig.weight_N)} ${rig.weight_N > found.limits.creepsN ? "breaks it" : "stretches it"}.`,
              basis: "estimate",
              field: "weight_N",
              cure: { words: "hang what it bears", change: { weight_N: Math.floor(found.limits.recommendedN * 10) / 10 } },
            } as const,
          ]
        : []),
      ...(found.sag > SHOWS_MM
        ? [
            {
              code: "sags",
              severity: "caution",
              words: `Free, the wire hangs ${show("kerf", found.sag)} in the middle: the slab begins thinner there. A heavier weight, or a rest under the wire's middle until the foam carries it.`,
              basis: "published",
              field: "weight_N",
            } as const,
          ]
        : []),
      ...(Math.abs(a - b) > SHOWS_MM
        ? [
            {
              code: "not-level",
              severity: "caution",
              words: `One side comes out ${show("kerf", Math.abs(a - b))} thicker: level the supports.`,
              basis: "published",
              field: "leftHigh_mm",
              cure: { words: "set both alike", change: { leftHigh_mm: null, rightHigh_mm: null } },
            } as const,
          ]
        : []),
      ...(rig.blockWide_mm > rig.span_mm - 40
        ? [
            {
              code: "too-wide",
              severity: "danger",
              words: "The wire must be longer than the block is wide, a hand's breadth at each side.",
              basis: "common practice",
              field: "blockWide_mm",
            } as const,
          ]
        : []),
      {
        code: "weight-box",
        severity: "note",
        words: "The weight hangs in a box of sand: when the wire breaks it falls.",
        basis: "common practice",
        field: "weight_N",
      },
    ];
    return {
      says: `Both supports ${show("length", found.setMm, 1)} over the bench for a slab of ${show("length", rig.slab_mm, 1)}.`,
      figures: [
        figureOf("set", "Wire over the bench", "length", found.setMm, { decimals: 2, why: CALCULATION_SHEET }),
        figureOf("sag", "Free wire sags", "kerf", found.sag, { why: SAG }),
        figureOf("lag", "Middle trails by, level", "length", found.lagMm, { decimals: 1 }),
        figureOf("push", "Push", "force", found.pushN, { decimals: 1 }),
        { id: "time", label: "A slab takes", value: `${(rig.blockLong_mm / around.cut.feedMmS).toFixed(0)} s` },
        figureOf("left", "Comes out, left edge", "length", a, { decimals: 1 }),
        figureOf("right", "right edge", "length", b, { decimals: 1 }),
        ...(found.limits ? [figureOf("stands", "Hot, the wire withstands", "force", found.limits.recommendedN)] : []),
      ],
      curves: [
        {
          id: "sag-weight",
          title: "Sag by the weight",
          x: { label: "weight", quantity: "force" },
          y: { label: "sag", quantity: "kerf" },
          points: Array.from({ length: 40 }, (_, i): Point => {
            const weight = ((i + 2) / 40) * Math.max(20, 2 * rig.weight_N);
            return [weight, sagMm(massKgPerM(found.wire) * GRAVITY, rig.span_mm / 1000, weight)];
          }),
        },
      ],
      notes,
    };
  },
  draw: (rig, around, show) => {
    const found = slabbed(rig, around);
    const size = rig.span_mm * 1.35;
    const sketch = new Sketch(size);
    const half = rig.span_mm / 2;
    const blockHigh = Math.max(rig.slab_mm * 2.5, size / 12);
    const high = found.setMm;
    // From the front: bench, block, the wire over two supports, the weight past one.
    sketch.box("wood", -half * 1.25, -size / 30, half * 2.5, size / 30);
    sketch.box("foam", -rig.blockWide_mm / 2, 0, rig.blockWide_mm, blockHigh);
    for (const x of [-half, half]) sketch.box("metal", x - size / 160, 0, size / 80, high);
    sketch.line("wire", [
      [-half * 1.15, high - size / 20],
      [-half, high],
      [half, high],
      [half * 1.12, high],
    ]);
    sketch.arc("metal", [half * 1.12, high - size / 90], size / 90);
    sketch.line("thread", [
      [half * 1.12 + size / 90, high - size / 90],
      [half * 1.12 + size / 90, -size / 7],
    ]);
    sketch.box("weight", half * 1.12 - size / 120, -size / 7 - size / 18, size / 26, size / 18);
    sketch.words([half * 1.12 - size / 60, -size / 7 - size / 26], show("force", rig.weight_N, 1), "end");
    sketch.measure([-half, 0], [half, 0], -size / 16, show("length", rig.span_mm));
    sketch.measure([-rig.blockWide_mm / 2, blockHigh], [rig.blockWide_mm / 2, blockHigh], size / 30, show("length", rig.blockWide_mm));
    sketch.measure([-half, 0], [-half, high], size / 24, show("length", high, 1));
    sketch.words([-half, blockHigh + size / 11], "from the front", "start");
    return sketch.done("Slabs over a bench");
  },
  build: (rig, around, show) => {
    const found = slabbed(rig, around);
    return [
      {
        of: "wood",
        words: `A bench ${show("length", rig.span_mm + 300)} wide and twice as long as the block, flat to ${show("kerf", 0.3)}: look along a straight edge.`,
      },
      {
        of: "hardware",
        words: `Two supports of threaded rod with a groove for the wire, both ${show("length", found.setMm, 1)} over the bench; shims of card at their feet.`,
      },
      { of: "hardware", words: `A pulley past one support and ${show("force", rig.weight_N, 1)} on a hook; the other end to a post, on an insulator.` },
      { of: "wiring", words: "Clips on the wire outside both supports; the supports are insulated from the bench and from each other." },
    ];
  },
  logged: [
    { key: "left_mm", label: "Left edge measured", quantity: "length", min: 0, max: 3000 },
    { key: "middle_mm", label: "Middle measured", quantity: "length", min: 0, max: 3000 },
    { key: "right_mm", label: "Right edge measured", quantity: "length", min: 0, max: 3000 },
  ],
  example: {
    name: "Slabs for the harbour wall",
    cutter: "Long Tom",
    notes: "Long Tom's wire without its frame, level over the long bench.",
    rig: { ...start },
  },
};
