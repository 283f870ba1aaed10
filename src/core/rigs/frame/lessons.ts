import type { Line, Point, Region } from "../../geometry/points";
import { lineLength } from "../../geometry/points";
import type { LessonText } from "../../kernel/lesson";
import { onePath } from "../../motion/path/onePath";
import { correctedSteps, stepsPerMm } from "../../motion/program/steps";
import { cornerDwell, midSpanLag } from "../../physics/cut/lag";
import { type TautWire, wireSurface } from "../../physics/string/tautWire";
import { traceError } from "../../physics/string/traceError";

/** Lessons on a simulated frame: each says whether the attempt is right, and what would happen. */
export const FRAME_LESSONS = [
  {
    id: "steps",
    title: "Steps put right",
    brief:
      "This frame's belt is not what its maker said. Ask for a move, lay the rule on it, work out what must be set. A long move shows more than a short one; coming back from beyond, it is off by what the belt gives when it turns round, and that is no matter of steps.",
  },
  {
    id: "island",
    title: "A hole and an island",
    brief:
      "A ring and a disc, to come out apart. The wire is always in the foam: it must cut into the ring to reach its hole, and through the waste to reach the disc. Put the slit where it harms least: press a place in the drawing, or a word below it.",
  },
  {
    id: "corner",
    title: "Round the corner",
    brief:
      "A wire is led round a square corner. Its ends turn at once; its middle comes later and cuts the corner off. Keep it within the tolerance, and do not take all day.",
  },
] as const satisfies readonly LessonText[];

/** A frame whose belt is not what its maker said: what it goes when so much is asked for. */
export interface CrookedFrame {
  setPerMm: number;
  /** truth that the lesson keeps to itself: travel for what is asked, and what is lost on turning round, mm */
  share: number;
  backlashMm: number;
}

/** @param seed any whole number: the same one makes the same frame */
export function crookedFrame(seed: number): CrookedFrame {
  // Two figures out of one number, each between 0 and 1 (Park and Miller's generator).
  const first = ((seed % 2147483646) + 1) * 48271;
  const [a, b] = [(first % 2147483647) / 2147483647, (((first % 2147483647) * 48271) % 2147483647) / 2147483647];
  return { setPerMm: stepsPerMm(200, 16, 40), share: 0.985 + 0.03 * a, backlashMm: 0.1 + 0.3 * b };
}

/** What a rule would say of a move: read to a tenth of a millimetre. @param back it was reached coming back towards home */
export const ruled = ({ share, backlashMm }: CrookedFrame, requestedMm: number, back: boolean): number =>
  Math.round((requestedMm * share + (back ? backlashMm : 0)) * 10) / 10;

/** Steps a millimetre that put a crooked frame right. */
export const rightSteps = ({ setPerMm, share }: CrookedFrame): number => correctedSteps(setPerMm, 1, share);

/** @returns whether a figure is as good as a rule over so long a move can make it, and what is still off over 500 mm */
export function stepsTried(frame: CrookedFrame, tried: number): { good: boolean; offMm: number } {
  const offMm = 500 * (tried / rightSteps(frame) - 1);
  return { good: Math.abs(offMm) <= 0.25, offMm };
}

const disc = (x: number, y: number, radius: number, points = 72): Point[] =>
  Array.from({ length: points }, (_, k) => [x + radius * Math.cos((2 * Math.PI * k) / points), y + radius * Math.sin((2 * Math.PI * k) / points)]);

/** A ring, thin below, and a disc next to it: a hole to come to, and an island. */
export const ISLAND_SCENE: readonly Region[] = [
  { outline: disc(60, 60, 50), holes: [disc(60, 50, 30).reverse()] },
  { outline: disc(150, 35, 22), holes: [] },
];
const ISLAND_KERF_MM = 1.2;

/** A path for the ring and the disc with its slit wanted somewhere, and what is to be said of it. */
export function islandTried(slitAt: Point | null, join: "apart" | "joined"): { path: Line; slit: Line | null; slitMm: number; good: boolean; words: string } {
  const found = onePath({
    shapes: ISLAND_SCENE,
    kerfMm: ISLAND_KERF_MM,
    join,
    barMm: 8,
    start: [0, 60],
    slitsAt: slitAt ? [slitAt] : [],
  });
  const slit = found.slits[0] ?? null;
  const slitMm = slit ? lineLength(slit) : 0;
  const below = slit?.every(([, y]) => y < 45) ?? false;
  if (join === "joined")
    return {
      path: found.path,
      slit,
      slitMm,
      good: false,
      words: "Joined, the disc hangs on the ring by a bar that must be sawn off. These two are to come out apart.",
    };
  if (!below)
    return {
      path: found.path,
      slit,
      slitMm,
      good: false,
      words: `The slit is ${slitMm.toFixed(0)} mm long and shows: the ring is thinnest below, where it also is on the float.`,
    };
  return { path: found.path, slit, slitMm, good: true, words: `${slitMm.toFixed(0)} mm of seam, below, out of sight: glued in a moment.` };
}

/** The lesson's wire: a metre and a bit of thin wire in light foam. */
export const CORNER_WIRE: TautWire = { lengthM: 1.1, tensionN: 60, foamFromM: 0, foamToM: 1.1, referenceDragNPerM: 2.4, maxFeedMmS: 11 };
export const CORNER_TOLERANCE_MM = 0.5;
const LEG_MM = 60;

/** Round one square corner at a feed, with a wait at it. */
export function cornerTried(
  feedMmS: number,
  waitS: number,
): { path: Point[]; timesS: number[]; cut: Point[]; deviationMm: number; totalS: number; good: boolean; words: string } {
  const corner: Point = [LEG_MM, 0];
  const path: Point[] = [[0, 0], corner, ...(waitS > 0 ? [corner] : []), [LEG_MM, LEG_MM]];
  const leg = LEG_MM / feedMmS;
  const timesS = waitS > 0 ? [0, leg, leg + waitS, 2 * leg + waitS] : [0, leg, 2 * leg];
  const guided = { path, timesS };
  const { traces } = wireSurface(CORNER_WIRE, guided, [0.5], { nodes: 40, steps: 500 });
  const [middle] = traces;
  const deviationMm = middle ? traceError(middle).errorMm : 0;
  const cut = middle ? Array.from(middle.x, (x, i): Point => [x, middle.y[i] as number]) : [];
  const totalS = timesS.at(-1) as number;
  const quick = quickestCorner();
  const saved = deviationMm <= CORNER_TOLERANCE_MM;
  const good = saved && totalS <= 1.25 * quick;
  const words = !saved
    ? `The middle cuts the corner off by ${deviationMm.toFixed(1)} mm: wait longer, or come to it slower.`
    : good
      ? `Within ${deviationMm.toFixed(2)} mm in ${totalS.toFixed(1)} s.`
      : `Within ${deviationMm.toFixed(2)} mm, but ${totalS.toFixed(1)} s: it can be done in about ${quick.toFixed(1)} s, faster with a wait.`;
  return { path, timesS, cut, deviationMm, totalS, good, words };
}

/** About the least time round the corner within the tolerance: by the wait's own estimate over a range of feeds. */
function quickestCorner(): number {
  const { lengthM, tensionN, referenceDragNPerM, maxFeedMmS } = CORNER_WIRE;
  let best = Number.POSITIVE_INFINITY;
  for (let feed = 1; feed <= 0.9 * maxFeedMmS; feed += 0.25) {
    const x = feed / maxFeedMmS;
    const { lagM } = midSpanLag((referenceDragNPerM * x) / (1 - x), lengthM, lengthM, tensionN);
    const { dwellS } = cornerDwell({
      lagM,
      toleranceM: CORNER_TOLERANCE_MM / 1000,
      maxFeedMPerS: maxFeedMmS / 1000,
      referenceDragNPerM,
      spanM: lengthM,
      tensionN,
    });
    best = Math.min(best, (2 * LEG_MM) / feed + dwellS);
  }
  return best;
}
