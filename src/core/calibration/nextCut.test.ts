import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { type CutPair, cutAtPower } from "../physics/cut/cut";
import { midSpanLag } from "../physics/cut/lag";
import type { Learnt } from "../physics/cut/learnt";
import { resolveWire, type WireSpec } from "../physics/heat/wire";
import { calibrate, type MeasuredCut } from "./fit";
import { nextCut } from "./nextCut";

const wire: WireSpec = { alloy: "nicr-80-20", diameter_mm: 0.5 };
const foam = parseFoamId("xps-29");
const pair: CutPair = { wire: resolveWire(wire), foam: resolveFoam(foam), ambientC: 20 };
const hold = { spanM: 0.8, widthM: 0.6, tensionN: 40 };
const job = { feedMPerS: 0.004, powerWPerM: 50 };
const NOTHING: Learnt = { heatShare: 1, collapseShiftK: 0, densityShare: 1, dragShare: 1, clearanceShare: 1, extraOhm: 0 };
const only = (k: number, variance: number) => Array.from({ length: 6 }, (_, a) => Array.from({ length: 6 }, (_, b) => (a === b && a === k ? variance : 0)));

/** A cut as it would be measured if nothing were off. */
const asBelieved = (feedMPerS: number, powerWPerM: number, measure: "kerf" | "bow"): MeasuredCut => {
  const state = cutAtPower(pair, feedMPerS, powerWPerM);
  return {
    wire,
    foam,
    ambientC: 20,
    feedMPerS,
    powerWPerM,
    ...(measure === "kerf"
      ? { kerfM: state.kerfM }
      : { lag: { ...hold, lagM: midSpanLag(state.dragNPerM ?? 0, hold.spanM, hold.widthM, hold.tensionN).lagM } }),
  };
};

describe("which cut would teach most", () => {
  it("where only the drag is in doubt a bow is asked for, and the doubt falls as one measurement of a normal belief makes it (closed form)", () => {
    const variance = 0.35 ** 2;
    const next = nextCut(pair, NOTHING, only(3, variance), job, hold, [job]);
    expect(next?.measure).toBe("bow");
    // A bow goes as the drag: its logarithm's slope is 1, so before is the drag's own doubt.
    expect(next?.before).toBeCloseTo(0.35, 6);
    const bow = midSpanLag(cutAtPower(pair, job.feedMPerS, job.powerWPerM).dragNPerM ?? 0, hold.spanM, hold.widthM, hold.tensionN).lagM;
    const noise = 0.12 ** 2 + (0.3e-3 / bow) ** 2;
    expect(next?.after).toBeCloseTo(Math.sqrt((variance * noise) / (variance + noise)), 6);
  });

  it("where only the heat is in doubt a kerf does as well as a bow or better", () => {
    const next = nextCut(pair, NOTHING, only(0, 0.01), job, hold, [job]);
    expect(next?.measure).toBe("kerf");
    expect(next?.after).toBeLessThan(0.6 * (next?.before ?? 0));
  });

  it("does what it promises: the cut it names, made and fitted, leaves less doubt than the others (the fit itself as the judge)", () => {
    const before = calibrate([asBelieved(0.004, 50, "kerf")]);
    const candidates = [0.002, 0.004, 0.006].flatMap((feedMPerS) => [35, 55, 75].map((powerWPerM) => ({ feedMPerS, powerWPerM })));
    const next = nextCut(pair, before.learnt, before.covariance, job, hold, candidates);
    if (!next) throw new Error("nothing to learn");
    /** Doubt of the job's bow after one more cut of a kind: the drag's, as the fit leaves it. */
    const left = (feedMPerS: number, powerWPerM: number, measure: "kerf" | "bow") => {
      const fit = calibrate([asBelieved(0.004, 50, "kerf"), asBelieved(feedMPerS, powerWPerM, measure)]);
      return fit.figures.find((figure) => figure.name === "dragShare")?.after ?? 1;
    };
    const best = left(next.feedMPerS, next.powerWPerM, next.measure);
    for (const { feedMPerS, powerWPerM } of candidates)
      if (cutAtPower(pair, feedMPerS, powerWPerM).feedRatio < 0.9) expect(best).toBeLessThanOrEqual(left(feedMPerS, powerWPerM, "kerf") * 1.05);
  });

  it("with no doubt left there is nothing to gain; past every top feed there is nothing to measure", () => {
    const sure = nextCut(pair, NOTHING, only(0, 0), job, hold, [job]);
    expect(sure?.before).toBe(0);
    expect(sure?.after).toBe(0);
    const past = { feedMPerS: 0.2, powerWPerM: 10 };
    expect(nextCut(pair, NOTHING, only(3, 0.1), past, hold, [past])?.measure ?? "kerf").toBe("kerf");
    expect(nextCut(pair, NOTHING, only(3, 0.1), job, hold, [])).toBeNull();
  });
});
