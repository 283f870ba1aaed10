import type { LessonText } from "../kernel/lesson";
import { deviationOf } from "../physics/string/traceError";
import type { Quantity } from "../units/units";
import type { Cut } from "./around";
import type { RigCell } from "./evaluation";
import { feedOn, type HauledFace, type Lever, STEEPEST_DEG } from "./haul";

/** A rig in the hand: it runs on its own, and a person has one thing to set and one to hold. */
export interface Feel extends Omit<LessonText, "id"> {
  pathMm: number;
  /** What is set, before and while it runs. */
  knob: { label: string; quantity: Quantity; min: number; max: number; step: number; start: number };
  /** What a hand that holds back takes from it, N; none where nothing can be held. */
  holdN: number | null;
  wantedMmS: number;
  /** Speed at a place of the way, mm/s. */
  speed: (alongMm: number, knob: number, held: boolean) => number;
  /** @param trail places and times, s, as it really went; the first at rest, the last at the end of the way */
  judge: (trail: readonly Passed[], knob: number) => FeelScore;
}

export interface Passed {
  atS: number;
  alongMm: number;
}

export interface FeelScore {
  good: boolean;
  words: string;
  rows: readonly (readonly [string, RigCell])[];
}

/** Within so much of the wanted speed is steady (this project's judgement). */
const STEADY = 0.25;
/** Slower than this it counts as stopped, mm/s. */
const STOPPED_MM_S = 0.3;
/** So much of the way at a steady speed is a good cut. */
const GOOD_SHARE = 0.8;

/** How steady a run was: share of the way within a quarter of the wanted speed, fastest, slowest, and how long it did not move. */
export function steadiness(trail: readonly Passed[], wantedMmS: number) {
  let [steady, movedMm, stoppedS, fastest] = [0, 0, 0, 0];
  let slowest = Number.POSITIVE_INFINITY;
  for (let i = 1; i < trail.length; i++) {
    const [a, b] = [trail[i - 1] as Passed, trail[i] as Passed];
    const long = b.atS - a.atS;
    const moved = b.alongMm - a.alongMm;
    if (long <= 0) continue;
    const speed = moved / long;
    movedMm += moved;
    if (Math.abs(speed / wantedMmS - 1) <= STEADY) steady += moved;
    if (speed < STOPPED_MM_S) stoppedS += long;
    fastest = Math.max(fastest, speed);
    slowest = Math.min(slowest, speed);
  }
  return { steady: movedMm > 0 ? steady / movedMm : 0, stoppedS, fastest, slowest: Number.isFinite(slowest) ? slowest : 0 };
}

/** A face hauled by one weight, held back or let go by hand. */
export function hauledFeel(face: HauledFace, ask: { cut: Cut; carriedN: number; lever: Lever; hungN: number; mostN: number; title: string }): Feel {
  const at = (mm: number) => face.stretches.find(({ toMm }) => mm < toMm) ?? face.stretches.at(-1);
  const levers = new Map(face.stretches.map(({ to, fromMm, toMm }) => [to, ask.lever((fromMm + toMm) / 2 / face.rootMm)]));
  const wantedMmS = ask.cut.feedMmS;
  const top = 0.9 * ask.cut.maxFeedMmS;
  return {
    title: ask.title,
    brief: "One weight cannot suit a nose and a tail: hold back where it wants to run, add where it tires, and never let it stand.",
    pathMm: face.rootMm,
    knob: { label: "Weight that hangs", quantity: "force", min: 0, max: ask.mostN, step: ask.mostN / 40, start: ask.hungN },
    holdN: 0.6,
    wantedMmS,
    speed: (alongMm, hungN, held) => {
      const stretch = at(alongMm);
      if (!stretch) return 0;
      // Too steep for a thread: the bow is led over by hand.
      if (Math.abs(stretch.slopeDeg) > STEEPEST_DEG) return wantedMmS;
      const pull = (levers.get(stretch.to)?.(hungN) ?? 0) - (held ? 0.6 : 0);
      return Math.min(top, feedOn(ask.cut, face.spanM, pull, ask.carriedN, stretch.slopeDeg));
    },
    judge: (trail) => {
      const run = steadiness(trail, wantedMmS);
      const deviationMm = face.paths ? deviationBy(face, trail) : null;
      const good = run.steady >= GOOD_SHARE && run.stoppedS < 0.5;
      return {
        good,
        words: good
          ? "Steady: the face is even."
          : run.stoppedS >= 0.5
            ? "It stopped: a groove is burnt across the part there."
            : "It ran and tired: wide where it was slow, dragged where it ran.",
        rows: [
          ["within a quarter of the wanted speed", `${(100 * run.steady).toFixed(0)} % of the way`],
          ["fastest", { quantity: "feed", value: run.fastest }],
          ["slowest", { quantity: "feed", value: run.slowest }],
          ["stopped for", `${run.stoppedS.toFixed(1)} s`],
          ["kerf where slowest", run.slowest > 0 ? { quantity: "kerf", value: (ask.cut.kerfMm * wantedMmS) / run.slowest } : "burnt"],
          ...(deviationMm === null ? [] : [["the wire deviates from the face by", { quantity: "kerf", value: deviationMm }] as const]),
        ],
      };
    },
  };
}

const COARSE = { nodes: 24, steps: 360 };

/** What the wire missed of a face at the times it really went. */
function deviationBy({ paths, rootMm }: HauledFace, trail: readonly Passed[]): number | null {
  const last = trail.at(-1);
  if (!paths || !last || last.alongMm < rootMm - 1e-6) return null;
  let along = 0;
  let k = 1;
  const timesS = paths.root.map(([x, y], i) => {
    const before = paths.root[i - 1];
    if (before) along += Math.hypot(x - before[0], y - before[1]);
    while (k < trail.length - 1 && (trail[k] as Passed).alongMm < along) k += 1;
    const [a, b] = [trail[k - 1] as Passed, trail[k] as Passed];
    const share = b.alongMm > a.alongMm ? Math.min(1, Math.max(0, (along - a.alongMm) / (b.alongMm - a.alongMm))) : 1;
    return a.atS + (b.atS - a.atS) * share;
  });
  const guided = { path: [...paths.root], tipPath: [...paths.tip], timesS };
  return deviationOf(paths.wire, guided, guided, COARSE);
}
