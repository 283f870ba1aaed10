/** Every tolerance of the geometry, mm. One file, so that none is chosen twice. */
export const TOLERANCE = {
  /** Points closer than this are one point. */
  same: 1e-6,
  /** Most a curve may be off the line drawn in its place. A fifth of what an import promises (0.01 mm). */
  flatten: 0.002,
  /** The same for the round joins of an offset: agrees with outside libraries to 0.002 mm. */
  arc: 0.002,
  /** Ends of lines in a drawing that are taken for one, unless said otherwise. */
  gap: 0.05,
  /** Whole steps of the clipping library per mm: a hundredth of a micrometre. */
  stepsPerMm: 1e5,
} as const;

/** Turning by more than this within a short length is a corner; less is a curve, degrees (this project's judgement). */
export const CORNER_DEG = 30;
