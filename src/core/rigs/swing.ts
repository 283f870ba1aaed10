import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";
import { bisect } from "../numerics/bisection";

export const SWING: Relation = {
  id: "swing",
  title: "Places on a swinging arm",
  formula: "travel = change of the distance from the pulley to a point of the arm; radii so that each draws its own length over the same swing",
  words:
    "A thread from each end of the wire goes over one pulley to a place of its own on one arm: farther out draws more. Both draw their whole length together; in between they differ a little, and that twists the part.",
  range: "a pulley that is small next to the arm; threads that do not stretch",
  basis: "published",
  source: "plane geometry; worst mismatch found by fine steps and closed in on",
};

/** A swinging arm about its pivot: a pulley that does not move, and the angles it turns between. */
export interface SwingArm {
  /** from the pivot, mm */
  pulleyMm: readonly [number, number];
  fromDeg: number;
  toDeg: number;
  armMm: number;
}

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** Thread drawn from the beginning of the swing to an angle by a place at a radius, mm; negative is let out. */
export function drawnMm(arm: SwingArm, radiusMm: number, deg: number): number {
  return away(arm, towards(arm, deg), radiusMm) - away(arm, towards(arm, arm.fromDeg), radiusMm);
}

/** How far the pulley lies out along the arm at an angle, mm: all that the angle has to do with a place's distance from it. */
const towards = ({ pulleyMm: [px, py] }: SwingArm, deg: number): number => px * Math.cos(rad(deg)) + py * Math.sin(rad(deg));
/** Distance from the pulley to a place at a radius, by the cosine rule; a square root, for it is asked for a few thousand times an answer. */
const away = ({ pulleyMm: [px, py] }: SwingArm, along: number, radius: number): number =>
  Math.sqrt(Math.max(0, px * px + py * py + radius * (radius - 2 * along)));

/** What a place at a radius draws over the whole swing, mm. */
export function drawnOver(arm: SwingArm): (radiusMm: number) => number {
  const [started, ended] = [towards(arm, arm.fromDeg), towards(arm, arm.toDeg)];
  return (radius) => Math.abs(away(arm, ended, radius) - away(arm, started, radius));
}

/** Places tried along the arm before one is closed in on. */
const PLACES = 2000;
const ANGLES = 2000;

/**
 * The place on an arm that draws a length over the whole swing: the one nearest to the pivot.
 * @throws CoreError `no-solution` with the most that the arm can draw
 */
export function radiusFor(arm: SwingArm, travelMm: number, field: string): number {
  const whole = drawnOver(arm);
  let most = 0;
  let before = 0;
  for (let i = 1; i <= PLACES; i++) {
    const radius = (arm.armMm * i) / PLACES;
    const here = whole(radius);
    most = Math.max(most, here);
    if (here >= travelMm) {
      return bisect((tried) => whole(tried) < travelMm, before, radius, 80).high;
    }
    before = radius;
  }
  throw new CoreError(
    "no-solution",
    field,
    `no place on this arm draws ${travelMm.toFixed(1)} mm: the most it can is ${most.toFixed(1)} mm. A longer arm, a wider swing, or the pulley elsewhere.`,
  );
}

/** A thread that goes slack on the way: its place on the arm passes the line through pivot and pulley, and comes back. */
export interface Slack {
  end: "root" | "tip";
  /** where it begins to go slack */
  atDeg: number;
  /** most thread that hangs loose, mm */
  slackMm: number;
}

/** Less slack than this is taken up by the knot, mm (this project's judgement). */
const SLACK_MM = 0.5;

/** Threads that go slack on the way, the worse one first. */
export function slackThreads(arm: SwingArm, rootRadiusMm: number, tipRadiusMm: number): Slack[] {
  return (
    [
      ["root", rootRadiusMm],
      ["tip", tipRadiusMm],
    ] as const
  )
    .flatMap(([end, radius]): Slack[] => {
      const path = Math.sign(drawnMm(arm, radius, arm.toDeg)) || 1;
      let [most, mostDeg, slack, atDeg] = [0, arm.fromDeg, 0, arm.fromDeg];
      for (let i = 1; i <= ANGLES; i++) {
        const deg = arm.fromDeg + ((arm.toDeg - arm.fromDeg) * i) / ANGLES;
        const drawn = path * drawnMm(arm, radius, deg);
        if (drawn > most) [most, mostDeg] = [drawn, deg];
        else if (most - drawn > slack) [slack, atDeg] = [most - drawn, mostDeg];
      }
      return slack > SLACK_MM ? [{ end, atDeg, slackMm: slack }] : [];
    })
    .sort((a, b) => b.slackMm - a.slackMm);
}

export const slackWords = ({ end, atDeg, slackMm }: Slack): string =>
  `The ${end}'s thread goes slack from ${atDeg.toFixed(0)} degrees on, by up to ${slackMm.toFixed(1)} mm: the arm passes the line from its pivot to the pulley. Begin or end the swing there, or move the pulley.`;

export interface Swing {
  rootRadiusMm: number;
  tipRadiusMm: number;
  /** largest difference along the swing between what the tip draws and what it should for what the root has drawn */
  worstMismatchMm: number;
  atDeg: number;
}

/** Mismatch at an angle: the tip's draw less its share of the root's, mm. */
export function mismatchMm(arm: SwingArm, rootRadiusMm: number, tipRadiusMm: number, ratio: number, deg: number): number {
  return Math.abs(drawnMm(arm, tipRadiusMm, deg)) - ratio * Math.abs(drawnMm(arm, rootRadiusMm, deg));
}

/** Both places on the arm for two travels, and how well they keep together. @throws CoreError as {@link radiusFor} */
export function swing(arm: SwingArm, rootTravelMm: number, tipTravelMm: number): Swing {
  const rootRadiusMm = radiusFor(arm, rootTravelMm, "rootTravel_mm");
  const tipRadiusMm = radiusFor(arm, tipTravelMm, "tipTravel_mm");
  const started = towards(arm, arm.fromDeg);
  const [rootStarted, tipStarted] = [away(arm, started, rootRadiusMm), away(arm, started, tipRadiusMm)];
  const off = (deg: number) => {
    const along = towards(arm, deg);
    return Math.abs(
      Math.abs(away(arm, along, tipRadiusMm) - tipStarted) - (tipTravelMm / rootTravelMm) * Math.abs(away(arm, along, rootRadiusMm) - rootStarted),
    );
  };
  const step = (arm.toDeg - arm.fromDeg) / ANGLES;
  let [best, most] = [0, 0];
  for (let i = 1; i <= ANGLES; i++) {
    const here = off(arm.fromDeg + i * step);
    if (here > most) [best, most] = [i, here];
  }
  let [low, high] = [arm.fromDeg + (best - 1) * step, arm.fromDeg + (best + 1) * step];
  for (let i = 0; i < 60; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (off(a) > off(b)) high = b;
    else low = a;
  }
  const atDeg = Math.min(Math.max((low + high) / 2, Math.min(arm.fromDeg, arm.toDeg)), Math.max(arm.fromDeg, arm.toDeg));
  return { rootRadiusMm, tipRadiusMm, worstMismatchMm: off(atDeg), atDeg };
}
