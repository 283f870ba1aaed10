import { CoreError } from "../kernel/errors";

/** A root with the effort it took. */
export interface Root {
  x: number;
  /** Function evaluations beyond the two ends. */
  iterations: number;
  residual: number;
}

/**
 * Root of a continuous function between two points of opposite sign: inverse quadratic steps where they are safe, bisection where not.
 * @param f any units; must change sign between `lo` and `hi`
 * @param tolerance absolute width in x at which to stop
 * @throws CoreError `no-solution` when there is no sign change
 * Source: T. R. Chandrupatla, Adv. Eng. Software 28 (1997) 145-149.
 */
export function bracketedRoot(f: (x: number) => number, lo: number, hi: number, tolerance = 1e-9): Root {
  let b = lo;
  let a = hi;
  let c = hi;
  let fb = f(b);
  let fa = f(a);
  let fc = fa;
  if (fb === 0) return { x: b, iterations: 0, residual: 0 };
  if (fa === 0) return { x: a, iterations: 0, residual: 0 };
  if (!(fa * fb < 0)) throw new CoreError("no-solution", "", `no solution between ${lo} and ${hi}`);
  let t = 0.5;
  for (let i = 1; i <= 200; i++) {
    const x = a + t * (b - a);
    const fx = f(x);
    if (Math.sign(fx) === Math.sign(fa)) {
      c = a;
      fc = fa;
    } else {
      c = b;
      b = a;
      fc = fb;
      fb = fa;
    }
    a = x;
    fa = fx;
    const [best, residual] = Math.abs(fa) < Math.abs(fb) ? [a, fa] : [b, fb];
    const share = tolerance / Math.abs(b - a) + Number.EPSILON;
    if (share > 0.5 || residual === 0) return { x: best, iterations: i, residual };
    const xi = (a - b) / (c - b);
    const phi = (fa - fb) / (fc - fb);
    t = phi ** 2 < xi && (1 - phi) ** 2 < 1 - xi ? (fa / (fb - fa)) * (fc / (fb - fc)) + ((c - a) / (b - a)) * (fa / (fc - fa)) * (fb / (fc - fb)) : 0.5;
    t = Math.min(1 - share, Math.max(share, t));
  }
  throw new CoreError("no-solution", "", "the root search did not settle in 200 steps");
}

/**
 * Smallest of start, 2 start, 4 start ... (from an origin) at which a rising function is no longer negative.
 * @returns undefined when it is still negative at `limit`
 */
export function expandUntilPositive(f: (x: number) => number, origin: number, start: number, limit: number): { below: number; above: number } | undefined {
  let below = origin;
  for (let step = start; ; step *= 2) {
    const above = Math.min(origin + step, limit);
    if (f(above) >= 0) return { below, above };
    if (above >= limit) return undefined;
    below = above;
  }
}
