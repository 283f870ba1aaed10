import { describe, expect, it } from "vitest";
import { calibrate, type MeasuredCut } from "@/core/calibration/fit";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { seededUniform } from "@/core/numerics/seededUniform";
import { cutAtPower } from "@/core/physics/cut/cut";
import { midSpanLag } from "@/core/physics/cut/lag";
import { calibratedPair, type Learnt } from "@/core/physics/cut/learnt";
import { DOUBTS } from "@/core/physics/cut/uncertainty";
import { resolveWire } from "@/core/physics/heat/wire";
import { type CircuitInput, solveCircuit } from "@/core/physics/power/circuit";
import { runs } from "../../../tests/helpers/runs";

const wire = { alloy: "nicr-80-20", diameter_mm: 0.5 };
const foam = parseFoamId("xps-35");
const hold = { spanM: 0.8, widthM: 0.6, tensionN: 40 };
const normals = (seed: number) => {
  const uniform = seededUniform(seed);
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
};

/** Cuts as a cutter with these true figures would make them, measured with noise. */
function made(truth: Learnt, normal: () => number, noise = 1): MeasuredCut[] {
  const pair = calibratedPair({ wire: resolveWire(wire), foam: resolveFoam(foam), ambientC: 20 }, truth);
  return [
    [2, 45],
    [3, 55],
    [4, 60],
    [5, 70],
    [6, 70],
    [3, 75],
    [4, 80],
    [2.5, 50],
  ].map(([feed = 0, power = 0]) => {
    const state = cutAtPower(pair, feed / 1000, power);
    const lagM = midSpanLag(state.dragNPerM ?? 0, hold.spanM, hold.widthM, hold.tensionN).lagM;
    return {
      wire,
      foam,
      ambientC: 20,
      feedMPerS: feed / 1000,
      powerWPerM: power,
      kerfM: state.kerfM + noise * normal() * Math.hypot(0.05 * state.kerfM, 0.05e-3),
      lag: { ...hold, lagM: Math.max(0, lagM + noise * normal() * Math.hypot(0.12 * lagM, 0.3e-3)) },
    };
  });
}

describe("calibration", () => {
  const truth: Learnt = { heatShare: 0.88, collapseShiftK: 3, densityShare: 1.06, dragShare: 1.5, clearanceShare: 1.2, extraOhm: 0 };

  it("without noise, predicts the cutter's own kerfs and bows far better than before", () => {
    const cuts = made(truth, normals(1), 0);
    const { learnt, residuals, figures } = calibrate(cuts);
    for (const row of residuals) expect(Math.abs(row.sigmas)).toBeLessThan(0.35);
    expect(Math.abs(learnt.dragShare / truth.dragShare - 1)).toBeLessThan(0.12);
    for (const figure of figures) expect(figure.after).toBeLessThanOrEqual(figure.before * 1.0001);
  });

  it("a reading that the others contradict does not move the fit; confirmed twice by a person, it does", () => {
    const cuts = made(truth, normals(7), 0.2);
    const wrong = cuts.map((cut, i) => (i === 2 ? { ...cut, kerfM: 2 * (cut.kerfM as number) } : cut));
    const without = calibrate(cuts.map((cut, i) => (i === 2 ? { ...cut, kerfM: undefined } : cut))).learnt;
    const doubted = calibrate(wrong);
    const row = doubted.residuals.find((each) => each.cut === 2 && each.what === "kerf");
    expect(row?.weight).toBe(0);
    for (const name of ["heatShare", "dragShare", "clearanceShare"] as const) expect(doubted.learnt[name]).toBeCloseTo(without[name], 3);
    const counted = calibrate(wrong, false, [2]);
    expect(Math.abs(counted.learnt.clearanceShare / without.clearanceShare - 1)).toBeGreaterThan(0.02);
    // Of three readings none can be shown to be the wrong one.
    const few = calibrate(wrong.slice(1, 4).map(({ lag: _lag, ...cut }) => cut));
    expect(few.residuals.every(({ weight }) => weight > 0)).toBe(true);
  });

  it("its 90 % bands hold the true kerf about nine times in ten over many seeded cutters (simulated truth drawn from the doubts)", () => {
    let held = 0;
    let heldDrag = 0;
    const trials = runs(100);
    for (let seed = 1; seed <= trials; seed++) {
      const normal = normals(seed);
      const drawn: Learnt = {
        heatShare: Math.exp(0.1 * normal()),
        collapseShiftK: DOUBTS.collapseK * normal(),
        densityShare: Math.exp(DOUBTS.densityShare * normal()),
        dragShare: Math.exp(DOUBTS.dragShare * normal()),
        clearanceShare: Math.exp(DOUBTS.clearanceShare * normal()),
        extraOhm: 0,
      };
      const cuts = made(drawn, normal);
      const fit = calibrate(cuts);
      const kerf = (learnt: Learnt) => cutAtPower(calibratedPair({ wire: resolveWire(wire), foam: resolveFoam(foam), ambientC: 20 }, learnt), 0.004, 60).kerfM;
      if (Math.abs(kerf(fit.learnt) - kerf(drawn)) <= 1.645 * (fit.kerfSpreadM[2]?.after ?? 0)) held += 1;
      const drag = fit.figures.find((figure) => figure.name === "dragShare");
      if (Math.abs(Math.log((drag?.value ?? 1) / drawn.dragShare)) <= 1.645 * (drag?.after ?? 0)) heldDrag += 1;
      expect(fit.kerfSpreadM[2]?.after ?? 1).toBeLessThan((fit.kerfSpreadM[2]?.before ?? 0) / 2);
    }
    for (const share of [held / trials, heldDrag / trials]) {
      expect(share).toBeGreaterThan(0.78);
      expect(share).toBeLessThanOrEqual(1);
    }
  }, 60_000);

  it("one wild entry moves it little, and is given little weight", () => {
    const cuts = made(truth, normals(3));
    const straight = calibrate(cuts);
    const corrupt = calibrate(cuts.map((cut, i) => (i === 1 ? { ...cut, kerfM: (cut.kerfM ?? 0) * 3 } : cut)));
    expect(corrupt.residuals.find((row) => row.cut === 1 && row.what === "kerf")?.weight).toBeLessThan(0.1);
    expect(Math.abs(corrupt.learnt.heatShare / straight.learnt.heatShare - 1)).toBeLessThan(0.05);
  });

  it("currents read off a meter find ohms nobody computed, within their band; without a meter the same ohms stay in doubt", () => {
    const circuit: CircuitInput = {
      wire: resolveWire(wire),
      lengthM: 0.8,
      supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 8 },
      control: { kind: "direct" },
      leads: { gauge_awg: 16, oneWay_m: 1.5 },
      ambientC: 20,
    };
    const normal = normals(11);
    const cuts = [2, 3, 4, 5].map((feed): MeasuredCut => {
      const pair = { wire: resolveWire(wire), foam: resolveFoam(foam), ambientC: 20 };
      const evaluation = solveCircuit({ ...circuit, springOhm: 0.3, cutting: { pair, feedMPerS: feed / 1000, widthM: 0.6 } });
      const { powerWPerM = 1, kerfM = 0.001 } = evaluation.cut ?? {};
      return {
        wire,
        foam,
        ambientC: 20,
        feedMPerS: feed / 1000,
        powerWPerM,
        kerfM: kerfM * (1 + 0.03 * normal()),
        circuit,
        widthM: 0.6,
        currentA: evaluation.currentA * (1 + 0.01 * normal()),
      };
    });
    const extra = (given: MeasuredCut[]) => calibrate(given).figures.find((figure) => figure.name === "extraOhm");
    const metered = extra(cuts);
    expect(Math.abs((metered?.value ?? 0) - 0.3)).toBeLessThan(2 * (metered?.after ?? 0) + 0.02);
    expect(metered?.after).toBeLessThan(0.4 * (metered?.before ?? 0));
    const blind = extra(cuts.map((cut) => ({ ...cut, currentA: undefined })));
    expect(blind?.after).toBeGreaterThan(1.5 * (metered?.after ?? 0));
  });

  it("a weighed block's density hardly moves", () => {
    const moved = (weighed: boolean) => Math.abs(Math.log(calibrate(made({ ...truth, densityShare: 1.2 }, normals(2)), weighed).learnt.densityShare));
    expect(moved(true)).toBeLessThan(0.25 * moved(false));
  });

  it("with one cut it hardly moves; with none that was measured it refuses", () => {
    const [first] = made(truth, normals(5), 0);
    const { figures } = calibrate([first as MeasuredCut]);
    expect(figures.find((figure) => figure.name === "collapseShiftK")?.after).toBeGreaterThan(4);
    expect(() => calibrate([{ ...(first as MeasuredCut), kerfM: undefined, lag: undefined }])).toThrow(/kerf_mm or a lag_mm/);
  });
});
