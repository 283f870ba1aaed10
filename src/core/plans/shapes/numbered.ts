import type { Region } from "../../geometry/points";
import { withoutDoubles } from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import type { Drawn } from "./record";

/**
 * Points a face of a numbered section is drawn by, closer at the nose (cosine spacing). In its middle a face bends no tighter than about one and a half chords:
 * so many keep the chords of the line within the flattening's tolerance there.
 */
const pointsFor = (chordMm: number): number => Math.min(1200, Math.max(100, Math.ceil(1.8 * Math.sqrt(chordMm / (12 * TOLERANCE.flatten)))));

/** The family's thickness at a share of the chord, in shares: half of the whole. Open tail: 0.00210 t/0.2 a side. Report 460. */
export const halfThickness = (t: number, x: number, closed: boolean): number =>
  5 * t * (0.2969 * Math.sqrt(x) - 0.126 * x - 0.3516 * x * x + 0.2843 * x ** 3 - (closed ? 0.1036 : 0.1015) * x ** 4);

/** Mean line and its slope at a share of the chord. */
export type MeanLine = (x: number) => { y: number; slope: number };

/** A numbered section: thickness laid off square to the mean line, measured on its own chord line. */
export function drawNumbered(t: number, mean: MeanLine, chordMm: number, closed: boolean): Drawn {
  const count = pointsFor(chordMm);
  const face = (sign: 1 | -1) =>
    Array.from({ length: count + 1 }, (_, i) => {
      const x = (1 - Math.cos((Math.PI * i) / count)) / 2;
      const { y, slope } = mean(x);
      const half = Math.max(0, halfThickness(t, x, closed));
      const angle = Math.atan(slope);
      return [chordMm * (x - sign * half * Math.sin(angle)), chordMm * (y + sign * half * Math.cos(angle))] as const;
    });
  const upper = face(1);
  const lower = face(-1);
  // Over the top from tail to nose, back underneath: counter-clockwise.
  const outline = withoutDoubles([...upper].reverse().concat(lower.slice(1)));
  const region: Region = { outline, holes: [] };
  return {
    regions: [region],
    nose: upper[0] as (typeof upper)[0],
    tail: { upper: upper.at(-1) as (typeof upper)[0], lower: lower.at(-1) as (typeof lower)[0] },
    notes: [],
  };
}
