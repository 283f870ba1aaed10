import type { Point } from "../../geometry/points";
import { number, numberList, onlyWhere, plain, startOf, toggle, type ValuesOf } from "../../units/field";
import type { RigSurroundings } from "../around";
import { hauledFeel } from "../feel";
import { faceOfPlan, fixedRun, type HauledFace, haulRows, type Lever, straightFace } from "../haul";
import { figureOf, type RigRecord } from "../record";
import { Sketch } from "../sketch";
import { HAUL } from "../sums";
import { faceField, haulNotes, haulTable, stepped } from "./swing";

const WAY = "what is drawn";
const PULL = "bow and weight";
const fields = [
  toggle(WAY, "fromPlan", "slopes from the plan's face"),
  ...onlyWhere("fromPlan", true, faceField(WAY)),
  ...onlyWhere(
    "fromPlan",
    false,
    number(WAY, "length_mm", "Length of the edge", "length", [1, 20_000], 330),
    number(WAY, "slope_deg", "Its slope, uphill positive", "angle", [-79, 79], 0),
    number(WAY, "span_mm", "Width of the foam", "length", [10, 20_000], 1100),
  ),
  number(PULL, "bow_N", "Weight of the bow", "force", [0, 1000], 18, { decimals: 1 }),
  plain(PULL, "share", "Share of it on the wire", "of 1", [0, 1], 0.2, { hint: "the rest hangs or is held; a hand bow's own sheet says it" }),
  number(PULL, "hung_N", "One weight that stays", "force", [0, 500], 4, { decimals: 1 }),
  numberList(PULL, "weights_N", "Weights owned", "force", [0.01, 500], 8, [0.5, 1, 2, 2, 5]),
  plain(PULL, "pulleyLoss", "Lost in the pulley", "of 1", [0, 0.8], 0.05, { hint: "a good small pulley loses about a twentieth" }),
];
export type PullRig = { kind: "pull" } & ValuesOf<typeof fields>;

const start: PullRig = startOf("pull", fields);

const faceFor = (rig: PullRig, around: RigSurroundings): HauledFace =>
  (rig.fromPlan ? faceOfPlan(around, rig.face) : null) ?? straightFace(rig.length_mm, rig.length_mm, rig.span_mm, rig.slope_deg);

/** No hand lets it run faster than this share of the top feed. */
const FASTEST_SHARE = 0.9;

export const pullRig: RigRecord<PullRig> = {
  kind: "pull",
  title: "Thread and weight",
  purpose: "A level thread over a pulley draws the bow along its templates by a weight that hangs.",
  fields,
  start,
  takesPlan: true,
  laws: [HAUL],
  solve: (rig, around, show) => {
    const face = faceFor(rig, around);
    const carriedN = rig.bow_N * rig.share;
    const lever: Lever = () => (hungN) => hungN * (1 - rig.pulleyLoss);
    const rows = haulRows(face, { cut: around.cut, feedMmS: around.cut.feedMmS, dragNPerM: around.cut.dragNPerM, carriedN, weightsN: rig.weights_N, lever });
    const fixed = fixedRun(face, { cut: around.cut, carriedN, hungN: rig.hung_N, lever, feedTopMmS: FASTEST_SHARE * around.cut.maxFeedMmS });
    const pulls = rows.flatMap(({ pullN }) => (pullN === null ? [] : [pullN]));
    const [least, most] = [Math.min(...pulls), Math.max(...pulls)];
    return {
      says:
        pulls.length === 0
          ? "This feed is over what the wire clears: no pull has a figure."
          : `It takes ${show("force", least, 2)}${most - least > 0.005 ? ` to ${show("force", most, 2)}` : ""} at ${show("feed", around.cut.feedMmS)}.`,
      figures: [
        ...(pulls.length > 0
          ? [
              figureOf("least", "Least pull", "force", least, { decimals: 2, why: HAUL }),
              figureOf("most", "Most pull", "force", most, { decimals: 2, why: HAUL }),
            ]
          : []),
        figureOf("carried", "Carried by the wire", "force", carriedN, { decimals: 1 }),
        ...(fixed.stallsBefore === null ? [{ id: "fixed", label: "Under the one weight, in all", value: `${fixed.totalS.toFixed(0)} s` }] : []),
        ...(fixed.deviationMm === null ? [] : [figureOf("fixed-miss", "and the wire deviates from the face by", "kerf", fixed.deviationMm)]),
      ],
      curves: [
        {
          id: "pull",
          title: "Pull along the face",
          x: { label: "way at the root", quantity: "length" },
          y: { label: "pull", quantity: "force" },
          points: rows.flatMap(({ fromMm, toMm, pullN }): Point[] =>
            pullN === null
              ? []
              : [
                  [fromMm, pullN],
                  [toMm, pullN],
                ],
          ),
        },
        {
          id: "fixed-pace",
          title: `Speed under ${show("force", rig.hung_N, 1)} that stays`,
          x: { label: "way at the root", quantity: "length" },
          y: { label: "speed", quantity: "feed" },
          points: stepped(fixed.rows, face),
        },
      ],
      tables: [haulTable(rows)],
      notes: [
        ...haulNotes(rows, fixed.stallsBefore, "share"),
        {
          code: "weight-falls",
          severity: "note",
          words: "A weight that hangs falls when a thread breaks: a box of sand under it.",
          basis: "common practice",
          field: "hung_N",
        },
      ],
    };
  },
  draw: (rig, around, show) => {
    const face = faceFor(rig, around);
    const long = face.rootMm;
    const size = long * 2.2;
    const sketch = new Sketch(size);
    // The edge from the side, slope by slope, with the pull on each.
    let at: Point = [0, 0];
    const edge: Point[] = [at];
    for (const { fromMm, toMm, slopeDeg } of face.stretches) {
      const phi = (slopeDeg * Math.PI) / 180;
      at = [at[0] + (toMm - fromMm) * Math.cos(phi), at[1] + (toMm - fromMm) * Math.sin(phi)];
      edge.push(at);
    }
    const low = Math.min(...edge.map(([, y]) => y));
    sketch.line("template", edge);
    sketch
      .line("template", [
        [0, low - size / 12],
        [0, 0],
      ])
      .line("template", [[0, low - size / 12], [at[0], low - size / 12], at]);
    const wire = edge[Math.min(edge.length - 1, 2)] as Point;
    const pulley: Point = [at[0] + size / 4, wire[1] + size / 40];
    sketch.arc("wire", [wire[0], wire[1] + size / 160], size / 160);
    sketch.line("thread", [
      [wire[0], wire[1] + size / 80],
      [pulley[0], pulley[1]],
    ]);
    sketch.arc("metal", [pulley[0], pulley[1] - size / 60], size / 60);
    const hook: Point = [pulley[0] + size / 60, pulley[1] - size / 60];
    sketch.line("thread", [hook, [hook[0], low - size / 8]]);
    sketch.box("weight", hook[0] - size / 50, low - size / 8 - size / 25, size / 25, size / 25);
    sketch.words([hook[0] + size / 40, low - size / 8 - size / 50], show("force", rig.hung_N, 1));
    sketch.words([pulley[0] - size / 16, pulley[1] + size / 30], "level thread", "end");
    sketch.words([at[0] / 2, low - size / 12 + size / 60], "template, from the side", "middle");
    sketch.words([at[0] / 2, low - size / 12 - size / 20 - 2.6 * sketch.wordsMm], `${show("length", long)} along its edge`, "middle", 0.85);
    sketch.measure([0, low - size / 12], [at[0], low - size / 12], -size / 20, show("length", at[0]));
    return sketch.done("Thread and weight");
  },
  build: (rig, around, show) => [
    { of: "wood", words: "A post for the pulley, clamped to the bench beyond the tail of the templates, its groove level with the wire." },
    {
      of: "hardware",
      words: `Two threads that do not stretch from the wire's ends to one ring, one thread on over the pulley; ${show("length", faceFor(rig, around).rootMm + 300)} of way for the weight to fall.`,
    },
    { of: "hardware", words: `Weights with hooks: ${rig.weights_N.map((each) => show("force", each, 1)).join(", ")}.` },
    { of: "wiring", words: "Leads hang from above in a loose bight: a lead that pulls is a weight that nobody counted." },
  ],
  feel: (rig, around) =>
    hauledFeel(faceFor(rig, around), {
      cut: around.cut,
      carriedN: rig.bow_N * rig.share,
      lever: () => (hungN) => hungN * (1 - rig.pulleyLoss),
      hungN: rig.hung_N,
      mostN: Math.max(1, 2 * rig.hung_N, ...rig.weights_N),
      title: "One thread, one weight",
    }),
  logged: [
    { key: "seconds", label: "Time in the face, s", quantity: null, min: 0, max: 86_400 },
    { key: "hung_N", label: "Weight that hung", quantity: "force", min: 0, max: 500 },
  ],
  example: {
    name: "Tail fin by a weight",
    cutter: "Long Tom",
    plan: "Carp's tail fin",
    notes: "The same fin without an arm: one ring, one thread, one weight.",
    rig: { ...start, fromPlan: true },
  },
};
