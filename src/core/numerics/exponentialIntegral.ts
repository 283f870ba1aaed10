const EULER_GAMMA = 0.5772156649015329;

/**
 * Exponential integral E1(x) = integral of exp(-t)/t from x to infinity.
 * Power series below 1 (Abramowitz & Stegun 5.1.11), continued fraction above (5.1.22, by Lentz's method); good to about 1e-14.
 * @param x > 0
 */
export function exponentialIntegral1(x: number): number {
  if (x < 1) {
    let term = 1;
    let sum = -EULER_GAMMA - Math.log(x);
    for (let n = 1; n < 60; n++) {
      term *= -x / n;
      sum -= term / n;
      if (Math.abs(term) < 1e-17) break;
    }
    return sum;
  }
  let b = x + 1;
  let c = 1e300;
  let d = 1 / b;
  let h = d;
  for (let n = 1; n < 200; n++) {
    const a = -n * n;
    b += 2;
    d = 1 / (a * d + b);
    c = b + a / c;
    const step = c * d;
    h *= step;
    if (Math.abs(step - 1) < 1e-15) break;
  }
  return h * Math.exp(-x);
}
