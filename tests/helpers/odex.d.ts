/** The integrator ships its source instead of declarations; this is the part of it that the tests use. */
export class Solver {
  constructor(dimension: number);
  absoluteTolerance: number;
  relativeTolerance: number;
  solve(rate: (x: number, y: number[]) => number[], from: number, y0: number[], to: number): { y: number[] };
}
