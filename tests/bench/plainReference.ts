import bessel from "bessel";

/**
 * The cut written plainly from the physics, as a reference to compare with: the isotherm's widest point by golden search over R, K0 from an outside library,
 * the wire's temperature in the kerf by bisection. Obviously correct, and slow. SI; `kerfM` and `wireC` out.
 */
export function plainCut(input: {
  d: number;
  emissivity: number;
  k: number;
  rho: number;
  c: number;
  collapseC: number;
  ambientC: number;
  feed: number;
  power: number;
}): { kerfM: number; wireC: number } {
  const a = input.k / (input.rho * input.c);
  const theta = (2 * Math.PI * input.k * (input.collapseC - input.ambientC)) / input.power;
  const halfWidth = (R: number) => {
    const X = Math.log(bessel.besselk(R, 0) / theta);
    return X * X < R * R ? Math.sqrt(R * R - X * X) : 0;
  };
  // The widest point is one hump in R; scan, then narrow.
  let best = 1e-4;
  for (let R = 1e-4; R < 600; R *= 1.02) if (halfWidth(R) > halfWidth(best)) best = R;
  let lo = best / 1.02;
  let hi = best * 1.02;
  for (let i = 0; i < 60; i++) {
    const p = lo + (hi - lo) * 0.382;
    const q = lo + (hi - lo) * 0.618;
    if (halfWidth(p) > halfWidth(q)) hi = q;
    else lo = p;
  }
  const kerfM = (4 * a * halfWidth((lo + hi) / 2)) / input.feed;
  const airK = (t: number) => (2.64638e-3 * t ** 1.5) / (t + 245.4 * 10 ** (-12 / t));
  const heat = (wireC: number) => {
    const gas = (2 * Math.PI * airK((wireC + input.collapseC) / 2 + 273.15) * (wireC - input.collapseC)) / Math.log(Math.max(kerfM / input.d, 1.05));
    return gas + input.emissivity * 5.670374419e-8 * Math.PI * input.d * ((wireC + 273.15) ** 4 - (input.collapseC + 273.15) ** 4);
  };
  let cold = input.collapseC;
  let hot = 6000;
  for (let i = 0; i < 80; i++) {
    const mid = (cold + hot) / 2;
    if (heat(mid) > input.power) hot = mid;
    else cold = mid;
  }
  return { kerfM, wireC: (cold + hot) / 2 };
}
