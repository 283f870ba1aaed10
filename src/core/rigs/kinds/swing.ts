import type { Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { choice, number, numberList, onlyWhere, startOf, toggle, type ValuesOf } from "../../units/field";
import type { RigSurroundings } from "../around";
import { hauledFeel } from "../feel";
import { faceOfPlan, fixedRun, type HauledFace, type HaulRow, haulRows, type Lever, straightFace } from "../haul";
import { figureOf, type RigCurve, type RigNote, type RigRecord, type RigTable, type Show } from "../record";
import { Sketch } from "../sketch";
import { HAUL } from "../sums";
import { drawnMm, mismatchMm, radiusFor, SWING, type SwingArm, slackThreads, slackWords, swing } from "../swing";

/** Which face of its plan a rig draws. */
export const faceField = (group: string) =>
  choice(
    group,
    "face",
    "Face",
    [
      ["lower", "lower face"],
      ["upper", "upper face"],
      ["whole", "all round"],
    ],
    "lower",
  );

const WAY = "what is drawn";
const ARM = "arm and pulley";
const PULL = "weight";
const fields = [
  toggle(WAY, "fromPlan", "travels from the plan's guides"),
  ...onlyWhere("fromPlan", true, faceField(WAY)),
  ...onlyWhere(
    "fromPlan",
    false,
    number(WAY, "rootTravel_mm", "Root draws", "length", [1, 20_000], 330),
    number(WAY, "tipTravel_mm", "Tip draws", "length", [1, 20_000], 190),
    number(WAY, "span_mm", "Root to tip", "length", [10, 20_000], 1100),
  ),
  number(ARM, "pulleyX_mm", "Pulley, to the right of the pivot", "length", [-20_000, 20_000], 0),
  number(ARM, "pulleyY_mm", "Pulley, beyond the pivot", "length", [-20_000, 20_000], 300),
  number(ARM, "from_deg", "Arm from", "angle", [-180, 180], 60),
  number(ARM, "to_deg", "Arm to", "angle", [-180, 180], -60),
  number(ARM, "arm_mm", "Arm's length", "length", [10, 20_000], 900),
  number(ARM, "tableWide_mm", "Table, wide", "length", [50, 20_000], 1400),
  number(ARM, "tableDeep_mm", "Table, deep", "length", [50, 20_000], 900),
  choice(
    PULL,
    "plane",
    "The arm",
    [
      ["falls", "falls, and pulls by its own weight"],
      ["lies", "lies on the table, a weight over its edge"],
    ],
    "falls",
  ),
  number(PULL, "arm_N", "Arm's weight", "force", [0, 500], 6, { decimals: 1 }),
  number(PULL, "weightAt_mm", "Weight hangs at", "length", [1, 20_000], 700),
  number(PULL, "hung_N", "One weight that stays", "force", [0, 500], 4, { decimals: 1 }),
  number(PULL, "carried_N", "The bow's weight on the wire", "force", [0, 500], 1.5, { decimals: 1, hint: "a hand bow's own sheet says it" }),
  numberList(PULL, "weights_N", "Weights owned", "force", [0.01, 500], 8, [1, 2, 2, 5]),
  choice(
    "trial lift",
    "early",
    "At the trial lift",
    [
      ["neither", "both ends arrive together"],
      ["root", "the root's end is early"],
      ["tip", "the tip's end is early"],
    ],
    "neither",
  ),
  number("trial lift", "early_mm", "The other lacks then", "length", [0, 500], 0, { decimals: 1 }),
];
export type SwingRig = { kind: "swing" } & ValuesOf<typeof fields>;

const start: SwingRig = startOf("swing", fields);

const armOf = (rig: SwingRig): SwingArm => ({ pulleyMm: [rig.pulleyX_mm, rig.pulleyY_mm], fromDeg: rig.from_deg, toDeg: rig.to_deg, armMm: rig.arm_mm });

function faceFor(rig: SwingRig, around: RigSurroundings): HauledFace {
  const found = rig.fromPlan ? faceOfPlan(around, rig.face) : null;
  return found ?? straightFace(rig.rootTravel_mm, rig.tipTravel_mm, rig.span_mm, 0);
}

/** Radii beyond a tenth of this apart are two marks; nearer they are one place, mm. */
const ONE_PLACE_MM = 0.05;
/** Points of the curve along a swing. */
const ALONG = 120;

interface Solved {
  arm: SwingArm;
  face: HauledFace;
  rootTravelMm: number;
  tipTravelMm: number;
  rootRadiusMm: number;
  tipRadiusMm: number;
  worstMismatchMm: number;
  atDeg: number;
  curve: RigCurve;
  lever: Lever;
  /** angle of the arm at a share of the root's way, degrees */
  angleAt: (share: number) => number;
}

/** The last answer: figures, drawing and build sheet of one rig ask for it in turn. */
let last: { rig: SwingRig; around: RigSurroundings; found: Solved } | null = null;

function solved(rig: SwingRig, around: RigSurroundings): Solved {
  if (last?.rig !== rig || last.around !== around) last = { rig, around, found: solveSwing(rig, around) };
  return last.found;
}

function solveSwing(rig: SwingRig, around: RigSurroundings): Solved {
  if (Math.abs(rig.from_deg - rig.to_deg) < 1)
    throw new CoreError("out-of-range", "to_deg", "to_deg must lie at least 1 degree from from_deg: the arm must swing");
  const face = faceFor(rig, around);
  const arm = armOf(rig);
  const [rootTravelMm, tipTravelMm] = [face.rootMm, face.tipMm];
  const found = swing(arm, rootTravelMm, tipTravelMm);
  const ratio = tipTravelMm / rootTravelMm;
  const drawn: { deg: number; share: number }[] = [];
  const points = Array.from({ length: ALONG + 1 }, (_, i): Point => {
    const deg = arm.fromDeg + ((arm.toDeg - arm.fromDeg) * i) / ALONG;
    const share = Math.abs(drawnMm(arm, found.rootRadiusMm, deg)) / rootTravelMm;
    drawn.push({ deg, share });
    return [100 * share, mismatchMm(arm, found.rootRadiusMm, found.tipRadiusMm, ratio, deg)];
  });
  const angleAt = (share: number): number => {
    const i = Math.max(
      1,
      drawn.findIndex((each) => each.share >= share),
    );
    const [a, b] = [drawn[i - 1] ?? { deg: arm.fromDeg, share: 0 }, drawn[i] ?? { deg: arm.toDeg, share: 1 }];
    return b.share > a.share ? a.deg + ((b.deg - a.deg) * (share - a.share)) / (b.share - a.share) : a.deg;
  };
  const leverMm = (radius: number, deg: number) => Math.abs((drawnMm(arm, radius, deg + 0.05) - drawnMm(arm, radius, deg - 0.05)) / ((0.1 * Math.PI) / 180));
  const lever: Lever = (share) => {
    const deg = angleAt(share);
    // A falling arm turns by what hangs across it: most when it lies level.
    const level = rig.plane === "falls" ? Math.cos((deg * Math.PI) / 180) : 1;
    const own = rig.plane === "falls" ? rig.arm_N * (rig.arm_mm / 2) : 0;
    const arms = (leverMm(found.rootRadiusMm, deg) + leverMm(found.tipRadiusMm, deg)) / 2;
    return (hungN) => (arms > 0 ? Math.max(0, ((hungN * rig.weightAt_mm + own) * level) / arms) : 0);
  };
  return {
    arm,
    face,
    rootTravelMm,
    tipTravelMm,
    ...found,
    curve: {
      id: "mismatch",
      title: "The tip ahead of the root along the cut",
      x: { label: "drawn, % of the way", quantity: null },
      y: { label: "tip ahead", quantity: "kerf" },
      points,
    },
    lever,
    angleAt,
  };
}

/** How far to move a clamp so that an end that came early comes with the other, mm outward; null where neither did. */
export function clampMove(
  rig: SwingRig,
  found: Pick<Solved, "arm" | "rootTravelMm" | "tipTravelMm" | "rootRadiusMm" | "tipRadiusMm">,
): { end: "root" | "tip"; byMm: number } | null {
  if (rig.early === "neither" || rig.early_mm === 0) return null;
  const { early: end, early_mm: lacks } = rig;
  const [own, other] = end === "root" ? [found.rootTravelMm, found.tipTravelMm] : [found.tipTravelMm, found.rootTravelMm];
  if (lacks >= other) throw new CoreError("out-of-range", "early_mm", `early_mm must be less than the whole way of the other end, ${other.toFixed(0)} mm`);
  // It drew its whole while the other drew all but what it lacks: it is to draw so much less.
  const radius = radiusFor(found.arm, (own * (other - lacks)) / other, `${end}Travel_mm`);
  return { end, byMm: radius - (end === "root" ? found.rootRadiusMm : found.tipRadiusMm) };
}

const rowsOf = (rig: SwingRig, around: RigSurroundings, { face, lever }: Solved): HaulRow[] =>
  haulRows(face, {
    cut: around.cut,
    feedMmS: around.cut.feedMmS,
    dragNPerM: around.cut.dragNPerM,
    carriedN: rig.carried_N,
    weightsN: rig.weights_N,
    lever,
  });

export function haulTable(rows: readonly HaulRow[]): RigTable {
  return {
    id: "haul",
    title: "What to hang, number by number",
    columns: ["to", "slope", "pull", "hang", "runs at", "and"],
    rows: rows.map((row) => [
      row.to,
      { quantity: "angle", value: row.slopeDeg, decimals: 0 },
      row.pullN === null ? "" : { quantity: "force", value: row.pullN, decimals: 2 },
      { quantity: "force", value: row.hungN, decimals: 1 },
      row.byHand || row.feedMmS < 0.05 ? "" : { quantity: "feed", value: row.feedMmS },
      row.byHand
        ? "too steep for a thread: led by hand"
        : row.heldBack || row.tooMuch
          ? "hold the bow back"
          : row.feedMmS < 0.05
            ? "stands: more weight than is owned"
            : "",
    ]),
  };
}

/** What hauling says of a face, for every rig that hauls. */
export const haulNotes = (rows: readonly HaulRow[], stallsBefore: string | null, carriedField: string): RigNote[] => [
  ...(rows.some(({ heldBack, tooMuch }) => heldBack || tooMuch)
    ? [
        {
          code: "held-back",
          severity: "caution",
          words:
            "Where it takes less than nothing, or less than an arm pulls on its own, the bow runs away: hold it back there, hang the bow so that its wire carries less, or take a lighter arm.",
          basis: "published",
          field: carriedField,
        } as const,
      ]
    : []),
  ...(stallsBefore === null
    ? []
    : [
        {
          code: "stalls",
          severity: "caution",
          words: `Under the one weight it comes to rest before ${stallsBefore}: a wire that stops burns a groove. More weight, or add at that number.`,
          basis: "estimate",
          field: "hung_N",
        } as const,
      ]),
];

export const swingRig: RigRecord<SwingRig> = {
  kind: "swing",
  title: "Swing arm",
  purpose: "One arm draws both ends of the wire along their templates, each by its own length in the same time.",
  fields,
  start,
  takesPlan: true,
  laws: [SWING, HAUL],
  solve: (rig, around, show) => {
    const found = solved(rig, around);
    const parallel = Math.abs(found.rootRadiusMm - found.tipRadiusMm) < ONE_PLACE_MM;
    const spanMm = found.face.spanM * 1000;
    const skewDeg = (Math.atan(found.worstMismatchMm / spanMm) * 180) / Math.PI;
    const move = clampMove(rig, found);
    const rows = rowsOf(rig, around, found);
    const fixed = fixedRun(found.face, {
      cut: around.cut,
      carriedN: rig.carried_N,
      hungN: rig.hung_N,
      lever: found.lever,
      feedTopMmS: FASTEST_SHARE * around.cut.maxFeedMmS,
    });
    const room = moduleOf(rig);
    const notes: RigNote[] = [
      ...haulNotes(rows, fixed.stallsBefore, "carried_N"),
      ...slackThreads(armOf(rig), found.rootRadiusMm, found.tipRadiusMm).map(
        (slack): RigNote => ({ code: `slack-${slack.end}`, severity: "danger", words: slackWords(slack), basis: "published", field: "from_deg" }),
      ),
      ...(found.worstMismatchMm > NOTED_MM
        ? [
            {
              code: "out-of-step",
              severity: "caution",
              words: `On the way the tip is out of step by ${show("kerf", found.worstMismatchMm)}: find the pulley's best place, and it falls to a hair.`,
              basis: "published",
              field: "pulleyX_mm",
            } as const,
          ]
        : []),
      ...(rig.pulleyX_mm < room.minX || rig.pulleyX_mm > room.maxX || rig.pulleyY_mm < room.minY || rig.pulleyY_mm > room.maxY
        ? [
            {
              code: "off-table",
              severity: "caution",
              words: "The pulley is beyond the table: it needs a bracket of its own.",
              basis: "common practice",
              field: "pulleyX_mm",
            } as const,
          ]
        : []),
      ...(rig.fromPlan && !around.plan
        ? [
            {
              code: "no-plan",
              severity: "note",
              words: "No plan is named: the travels given here stand.",
              basis: "common practice",
              field: "fromPlan",
            } as const,
          ]
        : []),
      {
        code: "guard-arm",
        severity: "note",
        words: "Keep faces out of the arm's swing, and a stop at its end: a broken thread lets it fall.",
        basis: "common practice",
      },
    ];
    return {
      says: parallel
        ? `A parallel part: both threads at ${show("length", found.rootRadiusMm, 1)} from the pivot.`
        : `The root's thread at ${show("length", found.rootRadiusMm, 1)} from the pivot, the tip's at ${show("length", found.tipRadiusMm, 1)}; out of step by ${show("kerf", found.worstMismatchMm)} at most.`,
      figures: [
        figureOf("travel-root", "Root draws", "length", found.rootTravelMm, { decimals: 1 }),
        figureOf("travel-tip", "Tip draws", "length", found.tipTravelMm, { decimals: 1 }),
        figureOf("root", "Root's thread on the arm", "length", found.rootRadiusMm, { decimals: 1, why: SWING }),
        figureOf("tip", "Tip's thread on the arm", "length", found.tipRadiusMm, { decimals: 1 }),
        figureOf("mismatch", "Worst out of step", "kerf", found.worstMismatchMm, { why: SWING }),
        figureOf("at", "with the arm at", "angle", found.atDeg),
        figureOf("skew", "which turns the wire in the part by", "angle", skewDeg, { decimals: 2 }),
        ...(move ? [figureOf("clamp", `Move the ${move.end}'s clamp ${move.byMm < 0 ? "in" : "out"} by`, "length", Math.abs(move.byMm), { decimals: 1 })] : []),
        ...(fixed.stallsBefore === null ? [{ id: "fixed", label: "Under the one weight, in all", value: `${fixed.totalS.toFixed(0)} s` }] : []),
        ...(fixed.deviationMm === null ? [] : [figureOf("fixed-miss", "and the wire deviates from the face by", "kerf", fixed.deviationMm)]),
      ],
      curves: [
        found.curve,
        {
          id: "twist",
          title: "Which turns the wire out of its place, and the part's rulings with it, by",
          x: found.curve.x,
          y: { label: "turned", quantity: "angle" },
          points: found.curve.points.map(([at, ahead]): Point => [at, (Math.atan(ahead / spanMm) * 180) / Math.PI]),
        },
        {
          id: "fixed-pace",
          title: `Speed under ${show("force", rig.hung_N, 1)} that stays`,
          x: { label: "drawn at the root", quantity: "length" },
          y: { label: "speed", quantity: "feed" },
          points: stepped(fixed.rows, found.face),
        },
      ],
      tables: [marksTable(found), haulTable(rows)],
      notes,
    };
  },
  draw: (rig, around, show) => drawn(rig, around, show),
  handles: (rig) => [
    { id: "pulley", label: "the pulley", at: [rig.pulleyX_mm, rig.pulleyY_mm] },
    {
      id: "end",
      label: "the arm's end as it begins",
      at: [rig.arm_mm * Math.cos((rig.from_deg * Math.PI) / 180), rig.arm_mm * Math.sin((rig.from_deg * Math.PI) / 180)],
    },
  ],
  moved: (rig, handle, [x, y]) => {
    if (handle === "pulley") return { ...rig, pulleyX_mm: Math.round(x), pulleyY_mm: Math.round(y) };
    const deg = (Math.atan2(y, x) * 180) / Math.PI;
    return { ...rig, from_deg: Math.round(deg * 2) / 2, arm_mm: Math.max(10, Math.round(Math.hypot(x, y))) };
  },
  build: (rig, around, show) => {
    const found = solved(rig, around);
    return [
      {
        of: "wood",
        words: `Arm: straight-grained, ${show("length", rig.arm_mm + 40)} long, ${show("length", 45)} by ${show("length", 20)}; a hole for the pivot ${show("length", 20)} from one end.`,
      },
      { of: "wood", words: `Table ${show("length", rig.tableWide_mm)} by ${show("length", rig.tableDeep_mm)}, flat and waxed where the templates slide.` },
      { of: "hardware", words: `Pivot: a bolt with two washers and a lock nut; the arm swings without play.` },
      {
        of: "hardware",
        words: `Two pulleys on one axle (or one of two grooves), ${show("length", Math.abs(rig.pulleyX_mm))} to the ${rig.pulleyX_mm < 0 ? "left" : "right"} of the pivot and ${show("length", rig.pulleyY_mm)} beyond it.`,
      },
      {
        of: "hardware",
        words: `Two clamps that slide on the arm, marked R and T: R at ${show("length", found.rootRadiusMm, 1)}, T at ${show("length", found.tipRadiusMm, 1)} from the pivot. For the other hand of the part, change the threads over.`,
      },
      { of: "hardware", words: `Two threads that do not stretch (braided line), ${show("length", rig.arm_mm + rig.span_mm)} each, a hook at the wire's end.` },
      { of: "hardware", words: `Weights: ${rig.weights_N.map((each) => show("force", each, 1)).join(", ")}, with a hook each.` },
      {
        of: "wiring",
        words: "Leads hang from above the middle of the wire's way, so that they neither pull nor twist; a switch within reach of anyone who minds the arm.",
      },
      { of: "wiring", words: "The threads are tied to insulated ends of the bow: wet line conducts." },
    ];
  },
  feel: (rig, around) => {
    const { face, lever } = solved(rig, around);
    return hauledFeel(face, {
      cut: around.cut,
      carriedN: rig.carried_N,
      lever,
      hungN: rig.hung_N,
      mostN: Math.max(1, 2 * rig.hung_N, ...rig.weights_N),
      title: "The arm with one weight",
    });
  },
  logged: [
    { key: "seconds", label: "Time in the face, s", quantity: null, min: 0, max: 86_400 },
    { key: "hung_N", label: "Weight that hung", quantity: "force", min: 0, max: 500 },
    { key: "early_mm", label: "One end early by", quantity: "length", min: 0, max: 500 },
  ],
  example: {
    name: "Long Tom on the swing arm",
    cutter: "Long Tom",
    plan: "Carp's tail fin",
    notes: "For the tail fin: one hand on the arm, the other free for the switch.",
    rig: { ...start, fromPlan: true, pulleyX_mm: -214, pulleyY_mm: 250, arm_N: 0.8, weights_N: [0.2, 0.5, 0.5, 1, 2], hung_N: 0.5 },
  },
};

/** A hand that brakes keeps it under this share of the top feed. */
const FASTEST_SHARE = 0.9;
/** Out of step by more than this shows, mm (this project's judgement). */
const NOTED_MM = 1;

/** The room that the table gives the pulley, from the pivot at the middle of its near edge. */
export const moduleOf = ({ tableWide_mm, tableDeep_mm }: Pick<SwingRig, "tableWide_mm" | "tableDeep_mm">) => ({
  minX: -tableWide_mm / 2,
  maxX: tableWide_mm / 2,
  minY: 0,
  maxY: tableDeep_mm,
});

/** A pace as steps over the way. */
export function stepped(rows: readonly { to: string; feedMmS: number }[], face: HauledFace): Point[] {
  return rows.flatMap(({ feedMmS }, i): Point[] => {
    const stretch = face.stretches[i];
    return stretch
      ? [
          [stretch.fromMm, feedMmS],
          [stretch.toMm, feedMmS],
        ]
      : [];
  });
}

/** Marks to scribe on the arm: the left part's and the right one's change ends. */
function marksTable({ rootRadiusMm, tipRadiusMm }: Solved): RigTable {
  const at = (value: number) => ({ quantity: "length", value, decimals: 1 }) as const;
  return {
    id: "marks",
    title: "Marks on the arm, from the pivot",
    columns: ["part", "thread from the left end", "thread from the right end"],
    rows: [
      ["left (root at the left)", at(rootRadiusMm), at(tipRadiusMm)],
      ["right (root at the right)", at(tipRadiusMm), at(rootRadiusMm)],
    ],
  };
}

/** From above: pivot, arm at both ends of its swing, threads over the pulley. Next to it, from the side: the arm with its weight. */
function drawn(rig: SwingRig, around: RigSurroundings, show: Show) {
  const found = solved(rig, around);
  const { rootRadiusMm: root, tipRadiusMm: tip, arm } = found;
  const size = Math.max(rig.tableWide_mm, rig.tableDeep_mm, 1.6 * rig.arm_mm);
  const sketch = new Sketch(1.5 * size);
  const pulley: Point = [rig.pulleyX_mm, rig.pulleyY_mm];
  const on = (radius: number, deg: number): Point => [radius * Math.cos((deg * Math.PI) / 180), radius * Math.sin((deg * Math.PI) / 180)];
  const room = moduleOf(rig);
  sketch.box("wood", room.minX, room.minY, rig.tableWide_mm, rig.tableDeep_mm);
  const [low, high] = [Math.min(arm.fromDeg, arm.toDeg), Math.max(arm.fromDeg, arm.toDeg)];
  sketch.arc("ways", [0, 0], rig.arm_mm, low, high);
  sketch.bar("wood", [0, 0], on(rig.arm_mm, arm.fromDeg), size / 60);
  sketch.bar("ways", [0, 0], on(rig.arm_mm, arm.toDeg), size / 60);
  for (const [radius, name] of [
    [root, "R"],
    [tip, "T"],
  ] as const) {
    const [started, ended] = [on(radius, arm.fromDeg), on(radius, arm.toDeg)];
    sketch.arc("ways", [0, 0], radius, low, high);
    sketch.line("thread", [pulley, started]).line("ways", [pulley, ended]);
    sketch.arc("metal", started, size / 130);
    sketch.words([started[0] + size / 60, started[1] - size / 60], name, "start");
  }
  sketch.arc("metal", pulley, size / 60).arc("metal", pulley, size / 200);
  sketch.words([pulley[0], pulley[1] + size / 30], "pulley", "middle");
  sketch.arc("metal", [0, 0], size / 110);
  sketch.words([size / 40, -sketch.wordsMm * 1.2], "pivot", "start");
  // On the side of the arm that the pulley is not on.
  const side = Math.cos((arm.fromDeg * Math.PI) / 180) * pulley[1] - Math.sin((arm.fromDeg * Math.PI) / 180) * pulley[0] > 0 ? -1 : 1;
  sketch.measure([0, 0], on(root, arm.fromDeg), (side * size) / 4.5, show("length", root, 1));
  sketch.measure([0, 0], on(tip, arm.fromDeg), (side * size) / 18, show("length", tip, 1));
  sketch.measure([Math.min(0, pulley[0]), 0], [Math.max(0, pulley[0]), 0], -size / 18, show("length", Math.abs(pulley[0])));
  sketch.measure([pulley[0], Math.min(0, pulley[1])], [pulley[0], Math.max(0, pulley[1])], size / 14, show("length", Math.abs(pulley[1])));
  sketch.words([room.minX + size / 60, room.maxY - sketch.wordsMm * 1.6], "from above", "start");
  // From the side: the arm in the middle of its swing.
  const right = Math.max(room.maxX, rig.arm_mm) + size / 8;
  const foot = room.minY + size / 12;
  const middle = (arm.fromDeg + arm.toDeg) / 2;
  const tilt = rig.plane === "falls" ? middle : 0;
  const place = (radius: number): Point => [right + radius * Math.cos((tilt * Math.PI) / 180), foot + radius * Math.sin((tilt * Math.PI) / 180)];
  sketch.line("wood", [
    [right - size / 12, foot - size / 50],
    [right + rig.arm_mm * 1.05, foot - size / 50],
  ]);
  sketch.bar("wood", place(0), place(rig.arm_mm), size / 60);
  sketch.arc("metal", place(0), size / 110);
  const hook = place(Math.min(rig.weightAt_mm, rig.arm_mm));
  const drop = size / 7;
  sketch.line("thread", [hook, [hook[0], hook[1] - drop]]);
  sketch.box("weight", hook[0] - size / 45, hook[1] - drop - size / 22, size / 22, size / 22);
  sketch.words([hook[0] + size / 30, hook[1] - drop - size / 30], show("force", rig.hung_N, 1), "start");
  sketch.measure(place(0), [hook[0], place(0)[1]], size / 12, show("length", rig.weightAt_mm));
  sketch.words([right, foot + size / 4.5], rig.plane === "falls" ? "from the side, half way" : "from the side", "start");
  return sketch.done("Swing arm");
}
