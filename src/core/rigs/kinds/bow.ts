import type { Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";
import { number, onlyWhere, startOf, toggle, type ValuesOf } from "../../units/field";
import { feedUnder, type RigSurroundings } from "../around";
import { figureOf, type RigNote, type RigRecord } from "../record";
import { Sketch } from "../sketch";

const BOW = "bow";
const HANG = "hung on elastic";
const fields = [
  number(BOW, "mass_g", "Bow with its wire", "mass", [1, 100_000], 1900),
  number(BOW, "span_mm", "Wire, post to post", "length", [10, 20_000], 1300),
  number(BOW, "balance_mm", "Balances, right of the wire's middle", "length", [-5000, 5000], 20),
  number(BOW, "high_mm", "Its weight lies over the wire by", "length", [1, 3000], 220),
  number(BOW, "foam_mm", "Foam, wide", "length", [1, 20_000], 1100),
  number(BOW, "foamAt_mm", "Foam's middle, right of the wire's", "length", [-5000, 5000], 0),
  number(BOW, "leads_N", "Leads hang with", "force", [0, 50], 0.8, { decimals: 2 }),
  number(BOW, "leadsOff_mm", "to one side by", "length", [-2000, 2000], 60),
  toggle(HANG, "hung", "hung over the block on elastic", true),
  ...onlyWhere(
    "hung",
    true,
    number(HANG, "rate_N_per_mm", "Elastic", "springRate", [0.001, 10], 0.03),
    number(HANG, "slack_mm", "Its unstretched end over the bench", "length", [0, 5000], 900),
    number(HANG, "work_mm", "Bow's hook at work over the bench", "length", [0, 5000], 380),
  ),
];
export type BowRig = { kind: "bow" } & ValuesOf<typeof fields>;

const start: BowRig = startOf("bow", fields);

const GRAVITY = 9.80665;

export const BOW_BALANCE: Relation = {
  id: "bow-balance",
  title: "What the wire carries of its bow",
  formula: "on the wire G = W - k x; ends G (1/2 +- e/b); twist tan a = H s/(W h)",
  words:
    "Elastic over the block takes part of the bow off the wire. What is left lies on the foam, more on the side where the bow balances; leads that hang to one side turn the frame.",
  range: "elastic within its straight part; the wire on the foam over all of its width",
  basis: "published",
  source: "statics of a hung beam and of a pendulum with a side force",
};

export function balanced(rig: BowRig, { cut }: RigSurroundings) {
  const weightN = (rig.mass_g / 1000) * GRAVITY;
  const stretchMm = rig.hung ? Math.max(0, rig.slack_mm - rig.work_mm) : 0;
  const liftedN = Math.min(weightN, rig.rate_N_per_mm * stretchMm);
  const carriedN = weightN - liftedN;
  const offMm = rig.balance_mm - rig.foamAt_mm;
  const share = Math.min(0.5, Math.max(-0.5, offMm / rig.foam_mm));
  const halves = [carriedN * (0.5 - share), carriedN * (0.5 + share)] as const;
  // Each half of the foam's width sinks under what lies on it.
  const half = rig.foam_mm / 2000;
  const sinks = halves.map((each) => feedUnder(cut, each / half));
  return {
    weightN,
    stretchMm,
    liftedN,
    carriedN,
    shareOnWire: carriedN / weightN,
    offMm,
    halves,
    sinks,
    /** where it hangs on its own */
    restMm: rig.slack_mm - weightN / rig.rate_N_per_mm,
    twistDeg: (Math.atan2(rig.leads_N * rig.leadsOff_mm, weightN * rig.high_mm) * 180) / Math.PI,
    /** to be hung at the lighter end of the wire so that it balances over the foam */
    evenN: Math.abs((weightN * offMm) / (rig.span_mm / 2 + Math.sign(offMm) * rig.foamAt_mm)),
  };
}

/** Speeds of both halves that differ by more than this taper the cut (this project's judgement). */
const UNEVEN = 0.1;

export const bowRig: RigRecord<BowRig> = {
  kind: "bow",
  title: "Hand bow",
  purpose: "Where the bow balances, what of its weight the wire carries, and how it hangs: the figures that pull and drop ask for.",
  fields,
  start,
  takesPlan: false,
  laws: [BOW_BALANCE],
  solve: (rig, around, show) => {
    const found = balanced(rig, around);
    const [slow, fast] = [Math.min(...found.sinks), Math.max(...found.sinks)];
    const uneven = fast > 0 ? fast / Math.max(1e-6, slow) - 1 : 0;
    const notes: RigNote[] = [
      ...(uneven > UNEVEN && found.carriedN > 0
        ? [
            {
              code: "uneven",
              severity: "caution",
              words: `${found.offMm > 0 ? "Right" : "Left"} of the foam it sinks ${(100 * uneven).toFixed(0)} % faster: hang ${show("force", found.evenN, 2)} at the wire's ${found.offMm > 0 ? "left" : "right"} end, or set the foam under where it balances.`,
              basis: "published",
              field: "balance_mm",
              cure: { words: "foam under the balance", change: { foamAt_mm: rig.balance_mm } },
            } as const,
          ]
        : []),
      ...(Math.abs(found.twistDeg) > 1
        ? [
            {
              code: "twisted",
              severity: "caution",
              words: `The leads turn the frame by ${show("angle", Math.abs(found.twistDeg), 1)}: hang them straight down over the middle.`,
              basis: "published",
              field: "leadsOff_mm",
              cure: { words: "hang them straight", change: { leadsOff_mm: 0 } },
            } as const,
          ]
        : []),
      ...(rig.hung && found.carriedN < 0.05
        ? [
            {
              code: "floats",
              severity: "note",
              words: "The elastic carries all of it: the bow floats, and only the hand presses.",
              basis: "published",
              field: "rate_N_per_mm",
            } as const,
          ]
        : []),
    ];
    return {
      says: `The wire carries ${show("force", found.carriedN, 1)}, ${(100 * found.shareOnWire).toFixed(0)} % of the bow.`,
      figures: [
        figureOf("weight", "The bow weighs", "force", found.weightN, { decimals: 1 }),
        figureOf("lifted", "Elastic lifts", "force", found.liftedN, { decimals: 1, why: BOW_BALANCE }),
        figureOf("carried", "On the wire", "force", found.carriedN, { decimals: 1, why: BOW_BALANCE }),
        figureOf("left", "on its left half", "force", found.halves[0], { decimals: 2 }),
        figureOf("right", "on its right half", "force", found.halves[1], { decimals: 2 }),
        figureOf("sink-left", "Left half would sink at", "feed", found.sinks[0] ?? 0),
        figureOf("sink-right", "right half at", "feed", found.sinks[1] ?? 0),
        figureOf("twist", "Leads turn the frame by", "angle", found.twistDeg, { decimals: 2, why: BOW_BALANCE }),
        ...(rig.hung
          ? [
              figureOf("stretch", "Elastic stretched at work", "length", found.stretchMm),
              figureOf("rest", "Let go, its hook rests over the bench", "length", found.restMm),
            ]
          : []),
      ],
      curves: rig.hung
        ? [
            {
              id: "carried",
              title: "On the wire, by the height of its hook",
              x: { label: "hook over the bench", quantity: "length" },
              y: { label: "on the wire", quantity: "force" },
              points: Array.from({ length: 41 }, (_, i): Point => {
                const work = (rig.slack_mm * i) / 40;
                return [work, Math.max(0, found.weightN - rig.rate_N_per_mm * (rig.slack_mm - work))];
              }),
            },
          ]
        : [],
      notes,
    };
  },
  draw: (rig, around, show) => {
    const found = balanced(rig, around);
    const size = rig.span_mm * 1.3;
    const sketch = new Sketch(size);
    const half = rig.span_mm / 2;
    const top = rig.high_mm * 1.6;
    sketch.box("foam", rig.foamAt_mm - rig.foam_mm / 2, -size / 8, rig.foam_mm, size / 8);
    sketch.line("wire", [
      [-half, 0],
      [half, 0],
    ]);
    for (const x of [-half, half]) sketch.bar("wood", [x, -size / 30], [x, top], size / 60);
    sketch.bar("wood", [-half, rig.high_mm], [half, rig.high_mm], size / 60);
    sketch.line("thread", [
      [-half, top],
      [half, top],
    ]);
    sketch.arc("metal", [rig.balance_mm, rig.high_mm], size / 90);
    sketch.words([rig.balance_mm + size / 50, rig.high_mm + size / 60], `balances here, ${show("length", rig.balance_mm)}`);
    const hang = top + size / 4;
    if (rig.hung) {
      const teeth = Array.from(
        { length: 13 },
        (_, i): Point => [rig.balance_mm + (i === 0 || i === 12 ? 0 : i % 2 ? size / 90 : -size / 90), top + ((hang - top) * i) / 12],
      );
      sketch.line("thread", [[rig.balance_mm, rig.high_mm], ...teeth]);
      sketch.line("wood", [
        [-half * 0.4, hang],
        [half * 0.4, hang],
      ]);
      sketch.words([rig.balance_mm + size / 40, (top + hang) / 2], `lifts ${show("force", found.liftedN, 1)}`);
    }
    sketch.line("metal", [
      [half, 0],
      [half + size / 12, -size / 20],
      [half + size / 9, size / 6],
    ]);
    sketch.words([half + size / 50, -size / 11], "leads");
    sketch.measure([-half, 0], [half, 0], -size / 5.5, show("length", rig.span_mm));
    sketch.measure([rig.foamAt_mm - rig.foam_mm / 2, -size / 8], [rig.foamAt_mm + rig.foam_mm / 2, -size / 8], -size / 40, show("length", rig.foam_mm));
    sketch.words([-half, top + size / 30], "from the front", "start");
    return sketch.done("Hand bow");
  },
  build: (rig, _around, show) => [
    { of: "wood", words: `Arms and spreader of straight-grained timber; the spreader ${show("length", rig.high_mm)} over the wire.` },
    { of: "hardware", words: "A hook on the spreader that slides and locks: find the balance with the leads on." },
    ...(rig.hung
      ? ([
          {
            of: "hardware",
            words: `Elastic of ${show("springRate", rig.rate_N_per_mm)} from a beam over the bench, ${show("length", rig.slack_mm)} over it unstretched; a safety cord next to it.`,
          },
        ] as const)
      : []),
    { of: "wiring", words: "Leads rise from the bow's middle and run along the beam; tie them so that they neither lift nor turn it." },
  ],
  logged: [
    { key: "mass_g", label: "Weighed", quantity: "mass", min: 1, max: 100_000 },
    { key: "balance_mm", label: "Balanced at", quantity: "length", min: -5000, max: 5000 },
  ],
  example: {
    name: "Long Tom on elastic",
    cutter: "Long Tom",
    notes: "Weighed in October with its leads on.",
    rig: { ...start },
  },
};
