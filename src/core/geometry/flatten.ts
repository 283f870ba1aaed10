import type { Point } from "./points";
import { TOLERANCE } from "./tolerance";

/** Steps that keep an arc's chords within a tolerance of it: sagitta r (1 - cos(step/2)). */
export function arcSteps(radius: number, sweepRad: number, tolerance: number = TOLERANCE.flatten): number {
  if (radius <= tolerance) return Math.max(1, Math.ceil(Math.abs(sweepRad) / (Math.PI / 4)));
  return Math.max(1, Math.ceil(Math.abs(sweepRad) / (2 * Math.acos(1 - tolerance / radius))));
}

/** Points of a circle's arc after its first, the last included. Radians, counter-clockwise positive. */
export function arcPoints([cx, cy]: Point, radius: number, from: number, sweep: number, tolerance?: number): Point[] {
  const steps = arcSteps(radius, sweep, tolerance);
  return Array.from({ length: steps }, (_, i) => {
    const angle = from + (sweep * (i + 1)) / steps;
    return [cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)] as const;
  });
}

/** Points of a cubic curve after its first: as many equal steps as its second differences ask (a bound on the chords' error, L. Wang's formula). */
export function cubicPoints(p0: Point, p1: Point, p2: Point, p3: Point, tolerance: number = TOLERANCE.flatten): Point[] {
  const bend = (i: 0 | 1) => Math.max(Math.abs(p0[i] - 2 * p1[i] + p2[i]), Math.abs(p1[i] - 2 * p2[i] + p3[i]));
  const steps = Math.min(2000, Math.max(1, Math.ceil(Math.sqrt((0.75 * Math.hypot(bend(0), bend(1))) / tolerance))));
  return Array.from({ length: steps }, (_, i) => {
    const t = (i + 1) / steps;
    const s = 1 - t;
    const at = (k: 0 | 1) => s * s * s * p0[k] + 3 * s * s * t * p1[k] + 3 * s * t * t * p2[k] + t * t * t * p3[k];
    return [at(0), at(1)] as const;
  });
}

/** The same for a quadratic one. */
export const quadraticPoints = (p0: Point, p1: Point, p2: Point, tolerance?: number): Point[] =>
  cubicPoints(
    p0,
    [p0[0] + (2 / 3) * (p1[0] - p0[0]), p0[1] + (2 / 3) * (p1[1] - p0[1])],
    [p2[0] + (2 / 3) * (p1[0] - p2[0]), p2[1] + (2 / 3) * (p1[1] - p2[1])],
    p2,
    tolerance,
  );
