import { JUDGEMENT } from "../../kernel/constants";
import type { Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";

export const LAG: Relation = {
  id: "lag",
  title: "Bow of the wire in the cut",
  formula: "s = F' b (2L - b)/(8 T); with foam as wide as the span, F' L^2/(8 T)",
  words: "Drag bends a taut wire as a string bends under an even load: twice the span, four times the bow; twice the tension, half.",
  range: "bow below 1/20 of the span; foam in the middle",
  basis: "published",
  source: "statics of the taut string; the drag that loads it is an estimate",
};

/**
 * Mid-span bow of the wire, m.
 * @param dragNPerM load on each metre in the foam
 * @param widthM foam width, centred, at most the span
 */
export function midSpanLag(dragNPerM: number, spanM: number, widthM: number, tensionN: number): { lagM: number; warnings: Warning[] } {
  const lagM = (dragNPerM * widthM * (2 * spanM - widthM)) / (8 * tensionN);
  const warnings: Warning[] = [];
  if (lagM > spanM * JUDGEMENT.lagValidBelowSpanShare) {
    warnings.push({ code: "lag-out-of-range", message: "the bow is past a twentieth of the span: the taut-string figure is only a lower bound" });
  }
  return { lagM, warnings };
}

export const DWELL: Relation = {
  id: "dwell",
  title: "Wait at a corner",
  formula: "dwell = (s0 - tol)/v_max + tau ln(s0/tol), tau = F_ref L^2/(8 T v_max)",
  words: "The ends stop, and the middle cuts on under its own bow, ever slower, until it has caught up to the tolerance.",
  range: "full-width foam, bow falling as one shape; the full profile on a grid agrees within a quarter",
  basis: "estimate",
  source: "taut string under this project's drag law, integrated; common practice waits two to three seconds",
};

/**
 * Time the middle of the wire needs to catch up at a corner, s. See {@link DWELL}.
 * @param lagM bow when the ends stop
 * @param toleranceM bow left at the end; a smaller lag needs no wait
 */
export function cornerDwell(input: { lagM: number; toleranceM: number; maxFeedMPerS: number; referenceDragNPerM: number; spanM: number; tensionN: number }): {
  dwellS: number;
  relaxationS: number;
} {
  const relaxationS = (input.referenceDragNPerM * input.spanM ** 2) / (8 * input.tensionN * input.maxFeedMPerS);
  if (input.lagM <= input.toleranceM) return { dwellS: 0, relaxationS };
  return { dwellS: (input.lagM - input.toleranceM) / input.maxFeedMPerS + relaxationS * Math.log(input.lagM / input.toleranceM), relaxationS };
}

/**
 * The corner on a grid: T y'' = F'(y_t) with both ends held, followed from the straight-cut parabola until mid-span is within tolerance. Checks {@link cornerDwell}.
 * Each point cuts at the speed its own load drives: v = v_max F/(F + F_ref). Explicit steps, small enough to be stable.
 * @returns time (s) and mid-span bow (m), one a stored step
 */
export function cornerOnGrid(input: {
  lagM: number;
  toleranceM: number;
  maxFeedMPerS: number;
  referenceDragNPerM: number;
  spanM: number;
  tensionN: number;
  points?: number;
}): { timeS: number[]; midM: number[] } {
  const points = input.points ?? 41;
  const h = input.spanM / (points - 1);
  const bow = Float64Array.from({ length: points }, (_, i) => 4 * input.lagM * (i / (points - 1)) * (1 - i / (points - 1)));
  // Linearised diffusivity is at most v_max T / F_ref: half the stability limit of explicit steps.
  const step = (0.25 * h * h * input.referenceDragNPerM) / (input.maxFeedMPerS * input.tensionN);
  const middle = (points - 1) >> 1;
  const timeS = [0];
  const midM = [input.lagM];
  let time = 0;
  for (let n = 1; (bow[middle] as number) > input.toleranceM && n < 4_000_000; n++) {
    let before = bow[0] as number;
    for (let i = 1; i < points - 1; i++) {
      const here = bow[i] as number;
      const load = (-input.tensionN * (before - 2 * here + (bow[i + 1] as number))) / (h * h);
      before = here;
      if (load > 0) bow[i] = here - (step * input.maxFeedMPerS * load) / (load + input.referenceDragNPerM);
    }
    time += step;
    if (n % 50 === 0 || (bow[middle] as number) <= input.toleranceM) {
      timeS.push(time);
      midM.push(bow[middle] as number);
    }
  }
  return { timeS, midM };
}

export const PULLED: Relation = {
  id: "pulled",
  title: "Speed under a pull, or under its own weight",
  formula: "v = v_max F/(F + F_ref w)",
  words: "A given pull settles at the speed where the drag balances it; more pull comes ever closer to the top feed.",
  range: "steady cut, whole width in the foam",
  basis: "estimate",
  source: "this project's drag law read backwards; common practice: 2.5-3 N pulled a 1.2 m wire through 60 psi board at about 70 W/m",
};

/** Speed (m/s) at which a force pulls the wire through foam: v_max F/(F + F_ref w). Drop: the cutter's weight. */
export function pulledFeed(forceN: number, maxFeedMPerS: number, referenceDragNPerM: number, widthM: number): number {
  return (maxFeedMPerS * forceN) / (forceN + referenceDragNPerM * widthM);
}
