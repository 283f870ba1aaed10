import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";

export const SWING: Relation = {
  id: "swing",
  title: "Places on a swinging arm",
  formula: "travel = change of the distance from the pulley to a point of the arm; radii so that each draws its own length over the same swing",
  words:
    "A thread from each end of the wire goes over one pulley to a place of its own on one arm: farther out draws more. Both draw their whole length together; in between they differ a little, and that twists the part.",
  range: "a pulley that is small beside the arm; threads that do not stretch",
  standing: "published",
  source: "plane geometry; worst mismatch found by fine steps and closed in on",
};

/** A swinging arm about its pivot: a pulley that stands still, and the angles it turns between. */
export interface SwingArm {
  /** from the pivot, mm */
  pulleyMm: readonly [number, number];
  fromDeg: number;
  toDeg: number;
  armMm: number;
}

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** Thread drawn from the beginning of the swing to an angle by a place at a radius, mm; negative is let out. */
export function drawnMm({ pulleyMm: [px, py], fromDeg }: SwingArm, radiusMm: number, deg: number): number {
  const away = (angle: number) => Math.hypot(px - radiusMm * Math.cos(rad(angle)), py - radiusMm * Math.sin(rad(angle)));
  return away(deg) - away(fromDeg);
}

/** Places tried along the arm before one is closed in on. */
const PLACES = 2000;
const ANGLES = 2000;

/**
 * The place on an arm that draws a length over the whole swing: the one nearest to the pivot.
 * @throws CoreError `no-solution` with the most that the arm can draw
 */
export function radiusFor(arm: SwingArm, travelMm: number, field: string): number {
  const whole = (radius: number) => Math.abs(drawnMm(arm, radius, arm.toDeg));
  let most = 0;
  let before = 0;
  for (let i = 1; i <= PLACES; i++) {
    const radius = (arm.armMm * i) / PLACES;
    const here = whole(radius);
    most = Math.max(most, here);
    if (here >= travelMm) {
      let [low, high] = [before, radius];
      for (let k = 0; k < 80; k++) {
        const middle = (low + high) / 2;
        if (whole(middle) >= travelMm) high = middle;
        else low = middle;
      }
      return high;
    }
    before = radius;
  }
  throw new CoreError(
    "no-solution",
    field,
    `no place on this arm draws ${travelMm.toFixed(1)} mm: the most it can is ${most.toFixed(1)} mm. A longer arm, a wider swing, or the pulley elsewhere.`,
  );
}

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
  const off = (deg: number) => Math.abs(mismatchMm(arm, rootRadiusMm, tipRadiusMm, tipTravelMm / rootTravelMm, deg));
  const step = (arm.toDeg - arm.fromDeg) / ANGLES;
  let best = 0;
  for (let i = 1; i <= ANGLES; i++) if (off(arm.fromDeg + i * step) > off(arm.fromDeg + best * step)) best = i;
  let [low, high] = [arm.fromDeg + (best - 1) * step, arm.fromDeg + (best + 1) * step];
  for (let i = 0; i < 60; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (off(a) > off(b)) high = b;
    else low = a;
  }
  const atDeg = Math.min(Math.max((low + high) / 2, Math.min(arm.fromDeg, arm.toDeg)), Math.max(arm.fromDeg, arm.toDeg));
  return { rootRadiusMm, tipRadiusMm, worstMismatchMm: off(atDeg), atDeg };
}
