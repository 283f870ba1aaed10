import type { Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";
import { resolveWire } from "../../physics/heat/wire";
import { storedEnergyJ, WHIP } from "../../physics/mechanics/springs";
import { wireStiffnessNPerM } from "../../physics/mechanics/tension";
import { choice, number, plain, startOf, type ValuesOf } from "../../units/field";
import { dragAt, kerfAt, type RigSurroundings } from "../around";
import { figureOf, type RigRecord } from "../record";
import { Sketch } from "../sketch";
import { ANCHOR, anchorMm } from "../sums";

const PART = "the part";
const RIG = "the fixed end";
const fields = [
  number(PART, "span_mm", "Template to far face", "length", [10, 20_000], 900),
  plain(PART, "ratio", "Size at the far face", "of 1", [0.05, 0.98], 0.6),
  number(PART, "chord_mm", "Chord at the template", "length", [5, 5000], 260),
  choice(
    PART,
    "keep",
    "Line kept straight",
    [
      ["quarter", "quarter chord"],
      ["leading", "leading edge"],
      ["trailing", "trailing edge"],
    ],
    "quarter",
  ),
  number(PART, "sweep_mm", "That line aft at the far face", "length", [-5000, 5000], 0),
  choice(
    RIG,
    "rightAt",
    "Template allows for the kerf",
    [
      ["near", "at the template"],
      ["middle", "half way"],
      ["far", "at the far face"],
    ],
    "middle",
  ),
  number(RIG, "ramp_mm", "Run-in before the nose", "length", [0, 1000], 75),
  number(RIG, "tail_mm", "Run-out past the tail", "length", [0, 1000], 25),
  number(RIG, "rate_N_per_mm", "Spring at the anchor", "springRate", [0.01, 100], 1.2),
  number(RIG, "table_mm", "Bench, long", "length", [100, 30_000], 2400),
];
export type AnchorRig = { kind: "anchor" } & ValuesOf<typeof fields>;

const start: AnchorRig = startOf("anchor", fields);

const STORED = { quarter: 0.25, leading: 0, trailing: 1 } as const;
const SHARES = 41;

export const ANCHORED_KERF: Relation = {
  id: "anchored-kerf",
  title: "Kerf toward a fixed end",
  formula: "v(z) = v (1 - z/A), w(z) = w/(1 - z/A); allowance right at z: w/(2 (1 - z/A)^2) - d/2",
  words:
    "Nearer the fixed end the same wire goes slower and melts wider, while the template's allowance shrinks with the part: it can be right at one place only.",
  range: "the same heat all along; feed above nothing",
  basis: "estimate",
  source: "similar triangles with the kerf as the feed's inverse",
};

/** Everything an anchored wire comes to. */
export function anchored(rig: AnchorRig, { cut }: RigSurroundings) {
  const awayMm = anchorMm(rig.span_mm, rig.ratio);
  const share = STORED[rig.keep];
  // The fixed point lies on the line that is kept straight, drawn on.
  const anchorX = share * rig.chord_mm + (rig.sweep_mm * awayMm) / rig.span_mm;
  const at = (z: number) => 1 - z / awayMm;
  const feed = (z: number) => cut.feedMmS * at(z);
  const kerf = (z: number) => kerfAt(cut, feed(z));
  const rightZ = { near: 0, middle: rig.span_mm / 2, far: rig.span_mm }[rig.rightAt];
  const allowanceMm = cut.kerfMm / (2 * at(rightZ) ** 2) - cut.wireMm / 2;
  /** how much a face is offset from where it was wanted, mm: positive is left over */
  const off = (z: number) => at(z) * (allowanceMm + cut.wireMm / 2) - kerf(z) / 2;
  const lengths = [-rig.ramp_mm, rig.chord_mm + rig.tail_mm, Math.min(rig.chord_mm + rig.tail_mm, Math.max(-rig.ramp_mm, anchorX))].map((x) =>
    Math.hypot(awayMm, x - anchorX),
  );
  const travelMm = Math.max(...lengths) - Math.min(...lengths);
  // Moments about the fixed point: drag on each metre of foam, at its own feed.
  let moment = 0;
  for (let i = 0; i < SHARES; i++) {
    const z = (rig.span_mm * (i + 0.5)) / SHARES;
    const drag = dragAt(cut, feed(z));
    if (drag === null) return { awayMm, anchorX, allowanceMm, feed, kerf, off, travelMm, longestMm: Math.max(...lengths), dragN: null, sidewaysN: 0 };
    moment += (drag * (rig.span_mm / SHARES) * (awayMm - z)) / 1000;
  }
  const aside = Math.max(Math.abs(-rig.ramp_mm - anchorX), Math.abs(rig.chord_mm + rig.tail_mm - anchorX));
  return {
    awayMm,
    anchorX,
    allowanceMm,
    feed,
    kerf,
    off,
    travelMm,
    longestMm: Math.max(...lengths),
    dragN: moment / awayMm,
    sidewaysN: (cut.tensionN + rig.rate_N_per_mm * travelMm) * (aside / Math.max(...lengths)),
  };
}

/** A face off by more than this shows, mm (this project's judgement). */
const SHOWS_MM = 0.3;

export const anchorRig: RigRecord<AnchorRig> = {
  kind: "anchor",
  title: "Anchored wire",
  purpose: "One template only: the wire's far end is tied to a fixed point, and the part tapers toward it.",
  fields,
  start,
  takesPlan: false,
  laws: [ANCHOR, ANCHORED_KERF],
  solve: (rig, around, show) => {
    const found = anchored(rig, around);
    const { cut, cutter } = around;
    const wire = cutter?.pair.wire ?? resolveWire({ alloy: "ss-304", diameter_mm: 0.64 });
    const stored = storedEnergyJ({
      tensionN: cut.tensionN + rig.rate_N_per_mm * found.travelMm,
      rateNPerM: rig.rate_N_per_mm * 1000,
      wireStiffnessNPerM: wireStiffnessNPerM(wire, found.longestMm / 1000),
    });
    const energy = stored.deviceJ + stored.wireJ;
    const places = Array.from({ length: SHARES }, (_, i) => (rig.span_mm * i) / (SHARES - 1));
    const farOff = found.off(rig.span_mm);
    const worst = Math.max(...places.map((z) => Math.abs(found.off(z))));
    const tailKerf = found.kerf(rig.span_mm);
    return {
      says: `Tie the wire ${show("length", found.awayMm)} from the template, ${show("length", Math.abs(found.anchorX))} ${found.anchorX < 0 ? "before" : "aft of"} the leading edge.`,
      figures: [
        figureOf("away", "Template to the fixed point", "length", found.awayMm, { why: ANCHOR }),
        figureOf("aft", "Fixed point aft of the leading edge", "length", found.anchorX),
        figureOf("allowance", "Template is outside the part by", "kerf", found.allowanceMm, { why: ANCHORED_KERF }),
        figureOf("far-kerf", "Kerf at the far face", "kerf", tailKerf, { why: ANCHORED_KERF }),
        figureOf("far-feed", "Feed at the far face", "feed", found.feed(rig.span_mm)),
        figureOf("far-off", "Far face is off by", "kerf", farOff),
        figureOf("wire", "Hot wire, post to hand", "length", found.longestMm),
        figureOf("travel", "The spring gives and takes", "length", found.travelMm, { decimals: 1 }),
        ...(found.dragN === null ? [] : [figureOf("hand", "Hand's pull against the foam", "force", found.dragN, { decimals: 1 })]),
        figureOf("sideways", "and sideways against the wire", "force", found.sidewaysN, { decimals: 1 }),
        { id: "energy", label: "Held by spring and wire", value: `${energy.toFixed(2)} J`, why: WHIP },
      ],
      curves: [
        {
          id: "kerf",
          title: "Kerf from the template to the far face",
          x: { label: "from the template", quantity: "length" },
          y: { label: "kerf", quantity: "kerf" },
          points: places.map((z): Point => [z, found.kerf(z)]),
        },
        {
          id: "off",
          title: "How far a face is off, both sides alike",
          x: { label: "from the template", quantity: "length" },
          y: { label: "left over", quantity: "kerf" },
          points: places.map((z): Point => [z, found.off(z)]),
        },
      ],
      notes: [
        {
          code: "whip",
          severity: energy > 0.5 ? "caution" : "note",
          words: `A long wire that breaks whips: ${energy.toFixed(1)} J go into its loose ends. Eye protection, a cloth over the wire beyond the far face, nobody in line with it.`,
          basis: "common practice",
          field: "rate_N_per_mm",
        },
        ...(found.awayMm > rig.table_mm - 100
          ? [
              {
                code: "bench-short",
                severity: "caution",
                words: `The fixed point is beyond the bench: ${show("length", found.awayMm + 100)} is wanted. On this bench a far face of ${Math.max(0.05, 1 - rig.span_mm / Math.max(1, rig.table_mm - 100)).toFixed(2)} is the largest at this span.`,
                basis: "published",
                field: "table_mm",
              } as const,
            ]
          : []),
        ...(worst > SHOWS_MM
          ? [
              {
                code: "one-place",
                severity: "caution",
                words: `The allowance is right at one place only: elsewhere a face is off by up to ${show("kerf", worst)}. Half way is usually least; less heat, or less taper, makes it smaller.`,
                basis: "estimate",
                field: "rightAt",
                ...(rig.rightAt === "middle" ? {} : { cure: { words: "allow for the kerf half way", change: { rightAt: "middle" } } }),
              } as const,
            ]
          : []),
        ...(found.dragN === null
          ? [
              {
                code: "too-fast",
                severity: "danger",
                words: "At the template the wire is led faster than it clears: slower, or more heat.",
                basis: "estimate",
              } as const,
            ]
          : []),
        {
          code: "squeeze",
          severity: "note",
          words:
            "More taper: push the block toward the fixed point and put the template with it. Lift the wire's far end and it must lift the same at the template.",
          basis: "common practice",
          field: "ratio",
        },
      ],
    };
  },
  draw: (rig, around, show) => {
    const found = anchored(rig, around);
    const { awayMm, anchorX } = found;
    const size = Math.max(awayMm, rig.chord_mm * 2) * 1.1;
    const sketch = new Sketch(size);
    // From above: the wire's way to the right, the chord upward from the leading edge.
    const k = rig.ratio;
    const far = (x: number): Point => [rig.span_mm, anchorX + (x - anchorX) * k];
    sketch.line(
      "foam",
      [
        [0, -20],
        [0, rig.chord_mm + 20],
        [rig.span_mm, Math.max(far(rig.chord_mm)[1], far(0)[1]) + 20],
        [rig.span_mm, far(0)[1] - 20],
      ],
      true,
    );
    sketch.line(
      "template",
      [
        [-6, -rig.ramp_mm],
        [-6, rig.chord_mm + rig.tail_mm],
        [0, rig.chord_mm + rig.tail_mm],
        [0, -rig.ramp_mm],
      ],
      true,
    );
    sketch.line("ways", [[0, 0], far(0)]).line("ways", [[0, rig.chord_mm], far(rig.chord_mm)]);
    const saved = STORED[rig.keep] * rig.chord_mm;
    sketch.line("ways", [
      [0, saved],
      [awayMm, anchorX],
    ]);
    for (const x of [-rig.ramp_mm, rig.chord_mm * 0.6, rig.chord_mm + rig.tail_mm])
      sketch.line(x === rig.chord_mm * 0.6 ? "wire" : "ways", [
        [-20, x],
        [awayMm, anchorX],
      ]);
    sketch.arc("metal", [awayMm, anchorX], size / 150);
    sketch.words([awayMm, anchorX + size / 50], "fixed point", "middle");
    sketch.words([-size / 60, rig.chord_mm * 0.6], "hand", "end");
    sketch.words([rig.span_mm * 0.3, Math.max(rig.chord_mm, far(rig.chord_mm)[1]) + size / 30], "foam, from above", "start");
    const low = Math.min(-rig.ramp_mm, anchorX, far(0)[1]) - size / 30;
    sketch.measure([0, low], [rig.span_mm, low], -size / 40, show("length", rig.span_mm));
    sketch.measure([0, low], [awayMm, low], -size / 14, show("length", awayMm));
    sketch.measure([0, 0], [0, rig.chord_mm], size / 11, show("length", rig.chord_mm));
    sketch.measure([awayMm, 0], [awayMm, anchorX], -size / 40, show("length", anchorX));
    return sketch.done("Anchored wire");
  },
  build: (rig, around, show) => {
    const { awayMm, travelMm, longestMm } = anchored(rig, around);
    return [
      { of: "wood", words: `A post on the bench ${show("length", awayMm)} from the template's face, as high as the wire lies; braced toward the template.` },
      { of: "wood", words: "A straight batten along the floor plan's line, so that block and post can be set by it." },
      {
        of: "hardware",
        words: `A spring of ${show("springRate", rig.rate_N_per_mm)} at the post with at least ${show("length", travelMm + 10)} of travel in hand, on an insulator.`,
      },
      { of: "hardware", words: "One template with its ramp and run-out; a handle with a guard for the hand." },
      { of: "wiring", words: `Hot wire ${show("length", longestMm)} long and a little for its ends: choose the supply for all of it, foam or not.` },
      { of: "wiring", words: "A jumper round the spring, or the spring heats and goes soft." },
    ];
  },
  logged: [
    { key: "far_mm", label: "Far face, thickness measured", quantity: "length", min: 0, max: 5000 },
    { key: "near_mm", label: "Near face, thickness measured", quantity: "length", min: 0, max: 5000 },
  ],
  example: {
    name: "Heron's feather from one end",
    cutter: "Long Tom",
    notes: "The heron's long feather tapers to six tenths: one template, the far end tied to a post.",
    rig: { ...start, span_mm: 900, ratio: 0.6 },
  },
};
