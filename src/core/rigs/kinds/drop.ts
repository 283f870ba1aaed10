import { boundsOf, type Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";
import { bisect } from "../../numerics/bisection";
import { PULLED, pulledFeed } from "../../physics/cut/lag";
import { number, plain, rows, startOf, type ValuesOf } from "../../units/field";
import { kerfAt, type RigSurroundings, topFeedAt } from "../around";
import { bestOrder } from "../cutOrder";
import { steadiness } from "../feel";
import { figureOf, type RigNote, type RigRecord } from "../record";
import { Sketch } from "../sketch";

const BOW = "bow and block";
const BOARD = "board";
const fields = [
  number(BOW, "weight_N", "Weight of the bow or bar", "force", [0.1, 2000], 6, { decimals: 1 }),
  number(BOW, "width_mm", "Width of the foam on the wire", "length", [1, 20_000], 600),
  number(BOW, "height_mm", "Height of the block", "length", [1, 3000], 100),
  number(BOW, "wanted_mm_s", "Speed wanted", "feed", [0.1, 200], 6),
  number(BOARD, "board_mm", "Board, long", "length", [50, 5000], 1200),
  number(BOARD, "boardWide_mm", "Board, wide", "length", [50, 5000], 550),
  number(BOARD, "batten_mm", "Batten under its one end", "length", [0, 500], 20, { decimals: 1 }),
  plain(BOARD, "friction", "Friction on the guides", "of 1", [0, 1], 0.2, { hint: "waxed timber about 0.2" }),
  number(BOARD, "leads_N", "Leads pull aside with", "force", [0, 100], 0.05, { decimals: 2 }),
  number(BOARD, "gap_mm", "Gap between two halves, one turned round", "kerf", [-50, 50], 0, { hint: "nothing where it is square" }),
  number("plan form", "blankLong_mm", "Blank, long", "length", [1, 5000], 600),
  number("plan form", "blankWide_mm", "Blank, wide", "length", [1, 5000], 300),
  rows(
    "plan form",
    "outline_mm",
    "Corners of the outline in its blank, one a line",
    [
      { label: "along", min: 0, max: 5000 },
      { label: "across", min: 0, max: 5000 },
    ],
    12,
    [
      [40, 0],
      [560, 0],
      [600, 120],
      [430, 300],
      [170, 300],
      [0, 120],
    ],
  ),
];
export type DropRig = { kind: "drop" } & ValuesOf<typeof fields>;

const start: DropRig = startOf("drop", fields);

export const DROP: Relation = {
  ...PULLED,
  id: "drop",
  title: "Sinking by its own weight",
  formula: "v = v_max W'/(W' + F_ref L), W' = W (cos tilt - mu sin tilt)",
  words: "A bow that is let go sinks at the speed at which the foam's drag holds its weight; the tilt that keeps it on its guides takes a little of it.",
};

/** Slower than this it does not sink but burns where it lies, mm/s (this project's judgement). */
export const BEGINS_MM_S = 0.5;

/** No hotter than so many times the least is what the drop school aims for (this project's judgement). */
const COOL_ENOUGH = 1.6;

const tiltOf = ({ batten_mm, board_mm }: DropRig) => Math.asin(Math.min(0.9, batten_mm / board_mm));
const netN = (rig: DropRig) => rig.weight_N * (Math.cos(tiltOf(rig)) - rig.friction * Math.sin(tiltOf(rig)));

/** Speed at a top feed, mm/s. */
const sinks = (rig: DropRig, { cut }: RigSurroundings, topMmS: number) =>
  pulledFeed(Math.max(0, netN(rig)), topMmS / 1000, cut.referenceDragNPerM, rig.width_mm / 1000) * 1000;

/** Heats that are tried, W/m. */
const HEATS_W_PER_M = [0.5, 400] as const;

/** The heat at which it sinks at a speed, W/m: more heat sinks faster. Null without a cutter, or where no heat within reason does. */
export function heatFor(rig: DropRig, around: RigSurroundings, mmS: number): number | null {
  if (!around.cutter) return null;
  const tooSlow = (wPerM: number) => sinks(rig, around, topFeedAt(around, wPerM)) < mmS;
  return tooSlow(HEATS_W_PER_M[1]) ? null : bisect(tooSlow, ...HEATS_W_PER_M, 40).high;
}

/** What a drop board comes to: its speed, what it takes for another, and what the board does. */
export function dropped(rig: DropRig, around: RigSurroundings) {
  const speed = sinks(rig, around, around.cut.maxFeedMmS);
  const x = rig.wanted_mm_s / around.cut.maxFeedMmS;
  const share = Math.cos(tiltOf(rig)) - rig.friction * Math.sin(tiltOf(rig));
  return {
    speed,
    seconds: rig.height_mm / speed,
    kerfMm: kerfAt(around.cut, speed),
    tiltDeg: (tiltOf(rig) * 180) / Math.PI,
    leastTiltDeg: (Math.asin(Math.min(1, rig.leads_N / rig.weight_N)) * 180) / Math.PI,
    leastHeat: heatFor(rig, around, BEGINS_MM_S),
    heatForWanted: heatFor(rig, around, rig.wanted_mm_s),
    weightForWanted: x < 1 && share > 0 ? (around.cut.referenceDragNPerM * (rig.width_mm / 1000) * x) / (1 - x) / share : null,
    /** Both halves lean by it, one each way. */
    outOfSquareDeg: (Math.atan(rig.gap_mm / (2 * rig.height_mm)) * 180) / Math.PI,
  };
}

const blankOf = ({ blankLong_mm: l, blankWide_mm: w }: DropRig): Point[] => [
  [0, 0],
  [l, 0],
  [l, w],
  [0, w],
];

export const dropRig: RigRecord<DropRig> = {
  kind: "drop",
  title: "Drop board",
  purpose: "The bow sinks through the block by its own weight between two upright guides: straight, square cuts without a hand on it.",
  fields,
  start,
  sized: (started, { width_mm, thickness_mm }) => ({ ...started, width_mm, height_mm: Math.max(1, thickness_mm) }),
  takesPlan: false,
  onWire: (rig) => ({ mm: rig.width_mm, field: "width_mm" }),
  laws: [DROP],
  solve: (rig, around, show) => {
    const found = dropped(rig, around);
    const order = rig.outline_mm.length >= 3 ? bestOrder(rig.outline_mm, blankOf(rig), "outline_mm") : null;
    const notes: RigNote[] = [
      ...(found.speed < BEGINS_MM_S
        ? [
            {
              code: "stands",
              severity: "danger",
              words: "It hardly sinks: a wire that stops burns a hollow. More heat before more weight.",
              basis: "estimate",
              field: "weight_N",
            } as const,
          ]
        : []),
      ...(found.tiltDeg < found.leastTiltDeg
        ? [
            {
              code: "leaves-guides",
              severity: "caution",
              words: `The leads pull harder than the tilt presses: the wire leaves its guides. Tilt at least ${show("angle", found.leastTiltDeg, 1)}, or hang the leads straight.`,
              basis: "published",
              field: "batten_mm",
              cure: {
                words: "a batten that holds it there",
                change: { batten_mm: Math.ceil(rig.board_mm * Math.sin((found.leastTiltDeg * 1.5 * Math.PI) / 180)) },
              },
            } as const,
          ]
        : []),
      ...(Math.abs(found.outOfSquareDeg) > 0.05
        ? [
            {
              code: "not-square",
              severity: "caution",
              words: `The guides lean by ${show("angle", Math.abs(found.outOfSquareDeg), 2)}: pack the ${rig.gap_mm > 0 ? "foot" : "head"} of each guide by ${show("kerf", (Math.abs(rig.gap_mm) / (2 * rig.height_mm)) * 300)} in ${show("length", 300)} of its height.`,
              basis: "published",
              field: "gap_mm",
            } as const,
          ]
        : []),
      {
        code: "offcut",
        severity: "note",
        words: "Support the offcut as it parts, the block in the middle under the bow, a peg below that catches the bow.",
        basis: "common practice",
      },
    ];
    return {
      says: `It sinks at ${show("feed", found.speed)}: ${found.seconds.toFixed(0)} s through the block, a kerf of ${show("kerf", found.kerfMm)}.`,
      figures: [
        figureOf("speed", "Speed", "feed", found.speed, { decimals: 2, why: DROP }),
        { id: "time", label: "Through the block", value: `${found.seconds.toFixed(1)} s` },
        figureOf("kerf", "Kerf", "kerf", found.kerfMm),
        ...(found.leastHeat === null ? [] : [figureOf("least-heat", "Begins to sink at", "heat", found.leastHeat, { decimals: 1, why: DROP })]),
        ...(found.weightForWanted === null
          ? []
          : [figureOf("weight-for", `Weight for ${show("feed", rig.wanted_mm_s)} at this heat`, "force", found.weightForWanted, { decimals: 1 })]),
        ...(found.heatForWanted === null
          ? []
          : [figureOf("heat-for", `Heat for ${show("feed", rig.wanted_mm_s)} at this weight`, "heat", found.heatForWanted, { decimals: 1 })]),
        figureOf("tilt", "The board tilts by", "angle", found.tiltDeg, { decimals: 2 }),
        figureOf("least-tilt", "Least that holds it on its guides", "angle", found.leastTiltDeg, { decimals: 2 }),
        ...(order ? [figureOf("order-way", "Way of all cuts of the outline", "length", order.totalMm)] : []),
      ],
      curves: [
        {
          id: "speeds",
          title: "Speed by weight",
          x: { label: "weight", quantity: "force" },
          y: { label: "speed", quantity: "feed" },
          points: Array.from({ length: 40 }, (_, i): Point => {
            const weight = ((i + 1) / 40) * Math.max(20, 2 * rig.weight_N);
            return [weight, sinks({ ...rig, weight_N: weight }, around, around.cut.maxFeedMmS)];
          }),
        },
      ],
      tables: order
        ? [
            {
              id: "order",
              title: "Cuts of the outline, in the order of the least way",
              columns: ["cut", "turn the block", "along", "takes"],
              rows: order.cuts.map(({ edge, lengthMm, turnDeg }, i) => [
                `${i + 1}: side ${edge + 1}`,
                i === 0 && turnDeg === 0 ? "as it lies" : { quantity: "angle", value: turnDeg, decimals: 1 },
                { quantity: "length", value: lengthMm },
                `${found.seconds.toFixed(0)} s`,
              ]),
            },
          ]
        : [],
      notes,
    };
  },
  draw: (rig, _around, show) => {
    const size = Math.max(rig.board_mm, rig.height_mm * 2, rig.blankLong_mm * 1.5);
    const sketch = new Sketch(size);
    const tilt = tiltOf(rig);
    // From the side: the board on its batten, guides square to it, the block, the bow above.
    const turn = ([x, y]: Point): Point => [x * Math.cos(tilt) - y * Math.sin(tilt), x * Math.sin(tilt) + y * Math.cos(tilt)];
    const poly = (points: Point[]) => points.map(turn);
    sketch.line(
      "wood",
      poly([
        [0, 0],
        [rig.board_mm, 0],
        [rig.board_mm, -18],
        [0, -18],
      ]),
      true,
    );
    const middle = rig.board_mm / 2;
    const blockWide = Math.min(rig.blankWide_mm, rig.board_mm * 0.5);
    sketch.line(
      "foam",
      poly([
        [middle - blockWide / 2, 0],
        [middle + blockWide / 2, 0],
        [middle + blockWide / 2, rig.height_mm],
        [middle - blockWide / 2, rig.height_mm],
      ]),
      true,
    );
    sketch.line(
      "wood",
      poly([
        [middle - 12, 0],
        [middle - 12, rig.height_mm * 1.5 + 100],
        [middle - 34, rig.height_mm * 1.5 + 100],
        [middle - 34, 0],
      ]),
      true,
    );
    const wire = turn([middle, rig.height_mm * 0.6]);
    sketch.arc("wire", wire, size / 160);
    sketch.line("ways", [turn([middle, 0]), turn([middle, rig.height_mm * 1.5 + 100])]);
    sketch.line("wire", [turn([middle, rig.height_mm]), turn([middle, rig.height_mm * 0.6])]);
    if (rig.batten_mm > 0) sketch.box("wood", rig.board_mm * Math.cos(tilt) - 40, -18, 30, rig.batten_mm);
    sketch.line("ways", [
      [0, -18],
      [rig.board_mm * 1.05, -18],
    ]);
    sketch.measure(turn([middle + blockWide / 2, 0]), turn([middle + blockWide / 2, rig.height_mm]), -size / 25, show("length", rig.height_mm));
    sketch.measure([0, -18], [rig.board_mm, -18], -size / 14, show("length", rig.board_mm));
    sketch.words(turn([middle - 60, rig.height_mm * 1.5 + 60]), "guide", "end");
    sketch.words([rig.board_mm - 30, rig.batten_mm + size / 30], `tilt ${show("angle", (tilt * 180) / Math.PI, 1)}`, "end");
    sketch.words([0, rig.height_mm * 1.5 + 100], "from the side", "start");
    // From above, under it: the blank with its outline and the cuts in their order.
    if (rig.outline_mm.length >= 3) {
      const { cuts } = bestOrder(rig.outline_mm, blankOf(rig), "outline_mm");
      const down = -size * 0.16 - rig.blankWide_mm;
      const right = (rig.board_mm - rig.blankLong_mm) / 2;
      const put = ([x, y]: Point): Point => [x + right, y + down];
      sketch.line("ways", blankOf(rig).map(put), true);
      sketch.line(
        "foam",
        rig.outline_mm.map((each) => put(each)),
        true,
      );
      const { minX, maxX, minY, maxY } = boundsOf(rig.outline_mm);
      for (const [i, { from, to }] of cuts.entries()) {
        sketch.line("wire", [put(from), put(to)]);
        const at: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
        const away = Math.hypot(at[0] - (minX + maxX) / 2, at[1] - (minY + maxY) / 2) || 1;
        sketch.words(
          put([
            at[0] + ((at[0] - (minX + maxX) / 2) / away) * sketch.wordsMm,
            at[1] + ((at[1] - (minY + maxY) / 2) / away) * sketch.wordsMm - sketch.wordsMm / 3,
          ]),
          String(i + 1),
          "middle",
        );
      }
      sketch.words(put([0, rig.blankWide_mm + sketch.wordsMm * 0.6]), "from above: cuts in their order", "start");
    }
    return sketch.done("Drop board");
  },
  build: (rig, _around, show) => [
    {
      of: "wood",
      words: `A slick board ${show("length", rig.board_mm)} by ${show("length", rig.boardWide_mm)}, waxed, with a slot across its middle as wide as the kerf and a finger more, so that the wire falls clear.`,
    },
    { of: "wood", words: "Two guides, straight and square to the board both ways, at both ends of the slot." },
    { of: "wood", words: `A batten of ${show("length", rig.batten_mm, 1)} under one end.` },
    { of: "wood", words: `A peg below the board that catches the bow ${show("length", 10)} under the slot.` },
    { of: "hardware", words: `Bow or bar of ${show("force", rig.weight_N, 1)}; weights that clip on over its middle.` },
    { of: "wiring", words: "Leads hang straight down from above the bow's middle: hanging to one side they twist it." },
  ],
  feel: (rig, around) => {
    const least = heatFor(rig, around, BEGINS_MM_S) ?? 10;
    const most = Math.max(3 * least, 1.5 * (around.cutter?.heatWPerM ?? 40));
    const habit = around.cutter?.heatWPerM ?? 40;
    const topAt = (heat: number) => (around.cutter ? topFeedAt(around, heat) : (around.cut.maxFeedMmS * heat) / habit);
    return {
      title: "Turn up until it sinks",
      brief: "Let the bow lie on the block, turn the heat up slowly, and stop where it begins to sink on its own: as cool as still cuts is right.",
      pathMm: rig.height_mm,
      knob: { label: "Heat", quantity: "heat", min: 0.5, max: most, step: most / 120, start: 0.5 },
      holdN: null,
      wantedMmS: rig.wanted_mm_s,
      speed: (_alongMm, heat) => {
        const speed = sinks(rig, around, topAt(heat));
        return speed < BEGINS_MM_S ? 0 : speed;
      },
      judge: (trail, heat) => {
        const run = steadiness(trail, rig.wanted_mm_s);
        const over = heat / least;
        const good = over <= COOL_ENOUGH;
        return {
          good,
          words: good
            ? "As cool as still cuts: an even, matt face."
            : `It ended at ${over.toFixed(1)} times the heat at which it begins to sink: wider, and rounder at its edges.`,
          rows: [
            ["heat at the end", { quantity: "heat", value: heat, decimals: 1 }],
            ["begins to sink at", { quantity: "heat", value: least, decimals: 1 }],
            ["fastest", { quantity: "feed", value: run.fastest }],
            ["lay and burnt for", `${run.stoppedS.toFixed(1)} s`],
          ],
        };
      },
    };
  },
  logged: [
    { key: "seconds", label: "Through the block, s", quantity: null, min: 0, max: 86_400 },
    { key: "weight_N", label: "Weight", quantity: "force", min: 0, max: 2000 },
    { key: "gap_mm", label: "Gap, one half turned round", quantity: "kerf", min: -50, max: 50 },
  ],
  example: {
    name: "Drop board for the lantern blanks",
    cutter: "Long Tom",
    notes: "Squares the blanks before anything else is cut of them.",
    rig: { ...start, weight_N: 9 },
  },
};
