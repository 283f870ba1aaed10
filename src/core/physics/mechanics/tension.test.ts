import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolveWire } from "../heat/wire";
import {
  armRateNPerM,
  BAND_RETENTION,
  pitchHz,
  pullLimits,
  solveTension,
  strungN,
  type TensionDeviceModel,
  tensionFromPitch,
  wireStiffnessNPerM,
  yieldPitchHz,
} from "./tension";

const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.64 });
const AREA = (Math.PI / 4) * 0.64e-3 ** 2;
/** Of the table of strengths, MPa at 20 and 400 degC. */
const PROOF = { cold: 240e6, hot: 130e6 };
const ULTIMATE = { cold: 620e6, hot: 470e6 };

const solved = (set: { coldN: number } | { hotN: number }, device: TensionDeviceModel = { kind: "spring", rateNPerM: 1200 }, hotC = 400, wire = stainless) =>
  solveTension({ wire, spanM: 1.3, hotC, ambientC: 20, set, device });
const codes = (result: ReturnType<typeof solved>) => result.warnings.map(({ code }) => code);

describe("tension hot and cold, by hand", () => {
  it("stretches as a bar does: k = E A/L", () => {
    expect(wireStiffnessNPerM(stainless, 1.3)).toBeCloseTo((193e9 * AREA) / 1.3, 3);
    expect(wireStiffnessNPerM(stainless, 2.6)).toBeCloseTo((193e9 * AREA) / 2.6, 3);
  });

  it("loses what the growth takes from device and wire in a row, gives back as travel, and a weight loses nothing", () => {
    const growthM = stainless.alloy.expansionPerK * 1.3 * 380;
    const spring = solved({ coldN: 80 });
    const both = 1 / (1 / 1200 + 1.3 / (193e9 * AREA));
    expect(spring.growthM).toBeCloseTo(growthM, 12);
    expect(spring.hotN).toBeCloseTo(80 - both * growthM, 9);
    // Device and wire share the growth: what the device gave, and what the wire relaxed by.
    expect(spring.travelM + ((80 - spring.hotN) * 1.3) / (193e9 * AREA)).toBeCloseTo(growthM, 12);
    const weight = solved({ coldN: 80 }, { kind: "weight" });
    expect([weight.hotN, weight.travelM]).toEqual([80, weight.growthM]);
    const rigid = solved({ coldN: 80 }, { kind: "rigid" });
    expect([rigid.hotN, rigid.travelM]).toEqual([0, 0]);
    expect(codes(rigid)).toContain("slack-when-hot");
    expect(codes(spring)).not.toContain("slack-when-hot");
  });

  it("cold from hot is hot from cold the other way round, and both grow apart with heat", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 80, noNaN: true }),
        fc.double({ min: 100, max: 5000, noNaN: true }),
        fc.double({ min: 25, max: 600, noNaN: true }),
        (hotN, rateNPerM, hotC) => {
          const from = solved({ hotN }, { kind: "arm", rateNPerM }, hotC);
          expect(from.hotN).toBeCloseTo(hotN, 9);
          expect(solved({ coldN: from.coldN }, { kind: "arm", rateNPerM }, hotC).hotN).toBeCloseTo(hotN, 9);
          expect(from.coldN).toBeGreaterThan(hotN);
          expect(solved({ hotN }, { kind: "arm", rateNPerM }, hotC + 50).coldN).toBeGreaterThan(from.coldN);
          expect(solved({ hotN }, { kind: "arm", rateNPerM: 2 * rateNPerM }, hotC).coldN).toBeGreaterThan(from.coldN);
          // A stiffer pull sings higher, cold than hot.
          expect(from.pitchColdHz).toBeGreaterThan(from.pitchHotHz);
        },
      ),
    );
  });

  it("stands proof or four tenths of ultimate, takes a set past proof, creeps past six tenths, breaks at ultimate", () => {
    const cold = pullLimits(stainless, 20);
    expect(cold.recommendedN).toBeCloseTo(PROOF.cold * AREA, 6);
    const hot = pullLimits(stainless, 400);
    expect(hot.recommendedN).toBeCloseTo(PROOF.hot * AREA, 6);
    expect(hot.setN).toBeCloseTo(PROOF.hot * AREA, 6);
    expect(hot.creepsN).toBeCloseTo(0.6 * ULTIMATE.hot * AREA, 6);
    expect(hot.breaksN).toBeCloseTo(ULTIMATE.hot * AREA, 6);
    // Hard-drawn, proof lies above four tenths: those rule.
    const hard = resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" });
    expect(pullLimits(hard, 20).recommendedN).toBeCloseTo(0.4 * 1700e6 * AREA, 6);
    expect(pullLimits(hard, 20).setN).toBeCloseTo(1500e6 * AREA, 6);
  });

  it("says each trouble just past its limit and not just before it, hot by the hot wire's strength and cold by the cold one's", () => {
    const hot = pullLimits(stainless, 400);
    const cold = pullLimits(stainless, 20);
    const weight: TensionDeviceModel = { kind: "weight" };
    const rows: [number, string[]][] = [
      [0.999 * hot.setN, []],
      [1.001 * hot.setN, ["takes-a-set"]],
      [0.999 * cold.setN, ["takes-a-set"]],
      [1.001 * cold.setN, ["takes-a-set", "yields-cold"]],
      [0.999 * hot.creepsN, ["takes-a-set", "yields-cold"]],
      [1.001 * hot.creepsN, ["breaks-hot", "yields-cold"]],
      [0.999 * cold.breaksN, ["breaks-hot", "yields-cold"]],
      [1.001 * cold.breaksN, ["breaks-hot", "breaks-cold"]],
    ];
    for (const [coldN, said] of rows) expect([coldN, codes(solved({ coldN }, weight))]).toEqual([coldN, said]);
    expect(solved({ coldN: 1 }, weight).hotLimits).toEqual(hot);
    expect(solved({ coldN: 1 }, weight).coldLimits).toEqual(cold);
  });

  it("says that a band fades, and that a spring temper nobody tables was taken annealed", () => {
    expect(codes(solved({ coldN: 20 }, { kind: "band", rateNPerM: 300 }))).toEqual(["band-fades"]);
    expect(BAND_RETENTION).toBeGreaterThan(0);
    const odd = resolveWire({ alloy: "cuni-44", diameter_mm: 0.5, temper: "spring" });
    expect(codes(solved({ coldN: 5 }, { kind: "weight" }, 200, odd))).toEqual(["annealed-strength-taken"]);
  });
});

describe("pitch of the wire, by hand", () => {
  const mu = AREA * stainless.alloy.densityKgM3;

  it("a limp string sings sqrt(T/mu)/2L; its stiffness adds pi squared E I over L squared to the pull", () => {
    const stiffN = (Math.PI ** 2 * 193e9 * Math.PI * 0.64e-3 ** 4) / 64 / 1.3 ** 2;
    expect(pitchHz(stainless, 1.3, 65)).toBeCloseTo(Math.sqrt((65 + stiffN) / mu) / 2.6, 9);
    expect(pitchHz(stainless, 1.3, 0)).toBeCloseTo(Math.sqrt(stiffN / mu) / 2.6, 9);
    // Seven strands bend each for itself.
    const strands = resolveWire({ alloy: "ss-304", diameter_mm: 0.2, strands: 7 });
    const seven = (Math.PI ** 2 * 7 * 193e9 * Math.PI * 0.2e-3 ** 4) / 64 / 1.3 ** 2;
    expect(pitchHz(strands, 1.3, 0)).toBeCloseTo(Math.sqrt(seven / (strands.metalAreaM2 * strands.alloy.densityKgM3)) / 2.6, 9);
  });

  it("pull from pitch and pitch from pull are each other's way back; below the slack wire's own pitch there is none", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 300, noNaN: true }), fc.double({ min: 0.05, max: 3, noNaN: true }), (tensionN, spanM) => {
        expect(tensionFromPitch(stainless, spanM, pitchHz(stainless, spanM, tensionN))).toBeCloseTo(tensionN, 6);
      }),
    );
    const slack = pitchHz(stainless, 1.3, 0);
    expect(tensionFromPitch(stainless, 1.3, slack * 1.0001)).toBeGreaterThanOrEqual(0);
    expect(() => tensionFromPitch(stainless, 1.3, slack * 0.99)).toThrow(/frequency_Hz must be at least/);
  });

  it("yields at sqrt(proof/density)/2L, regardless of its thickness", () => {
    expect(yieldPitchHz(stainless, 1.3, 20)).toBeCloseTo(Math.sqrt(PROOF.cold / stainless.alloy.densityKgM3) / 2.6, 9);
    expect(yieldPitchHz(resolveWire({ alloy: "ss-304", diameter_mm: 0.3 }), 1.3, 20)).toBeCloseTo(yieldPitchHz(stainless, 1.3, 20), 9);
    expect(yieldPitchHz(stainless, 1.3, 400)).toBeLessThan(yieldPitchHz(stainless, 1.3, 20));
    expect(solved({ coldN: 50 }).yieldPitchHz).toBe(yieldPitchHz(stainless, 1.3, 20));
  });
});

describe("arms and frames that pull by themselves, by hand", () => {
  it("a cantilever gives 3 E I/l cubed, two in a row half of it", () => {
    const arm = { material: "timber", section: { shape: "bar", width_mm: 20, depth_mm: 10 }, lengthM: 0.3, arms: 1 } as const;
    const one = armRateNPerM(arm);
    expect(armRateNPerM({ ...arm, arms: 2 })).toBeCloseTo(one / 2, 9);
    expect(armRateNPerM({ ...arm, lengthM: 0.6 })).toBeCloseTo(one / 8, 9);
    expect(armRateNPerM({ ...arm, section: { ...arm.section, depth_mm: 20 } })).toBeCloseTo(one * 8, 6);
    expect(armRateNPerM({ ...arm, section: { ...arm.section, width_mm: 40 } })).toBeCloseTo(one * 2, 9);
  });

  it("pulls k s where it is drawn, l sin(bend) where it is bent back, and shares a short wire's shortness with the wire's own stretch", () => {
    expect(strungN({ drawnM: 0.02 }, 1500, stainless, 1.3)).toEqual({ coldN: 30, drawnM: 0.02 });
    const bent = strungN({ armM: 0.4, bendDeg: 10 }, 1500, stainless, 1.3);
    expect(bent.drawnM).toBeCloseTo(0.4 * Math.sin(Math.PI / 18), 12);
    expect(bent.coldN).toBeCloseTo(1500 * bent.drawnM, 9);
    const short = strungN({ shortM: 0.01 }, 1500, stainless, 1.3);
    expect(short.drawnM + short.coldN / wireStiffnessNPerM(stainless, 1.3)).toBeCloseTo(0.01, 12);
    expect(short.coldN).toBeCloseTo(1500 * short.drawnM, 9);
  });
});
