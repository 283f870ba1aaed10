import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nextTensionCheck } from "@/core/log/entries";
import { sectionProperties } from "@/core/materials/framing";
import { resolveWire } from "@/core/physics/heat/wire";
import { bendingPa, eulerLoadN, solveFrame } from "@/core/physics/mechanics/frame";
import { measureSpring, storedEnergyJ, stretchM } from "@/core/physics/mechanics/springs";
import { wireStiffnessNPerM } from "@/core/physics/mechanics/tension";
import { wireEnds } from "@/core/physics/mechanics/wireEnds";

describe("springs", () => {
  it("two weights give rate and winding (Hooke's law): 20 N to 110 mm, 44 N to 120 mm", () => {
    const spring = measureSpring(0.105, [
      { forceN: 20, lengthM: 0.11 },
      { forceN: 44, lengthM: 0.12 },
    ]);
    expect(spring.rateNPerM).toBeCloseTo(2400, 6);
    expect(spring.initialN).toBeCloseTo(8, 9);
    expect(stretchM(spring, 8 + 48)).toBeCloseTo(0.02, 9);
    expect(stretchM(spring, 3)).toBe(0);
  });

  it("any true spring is found again, through any two weights", () => {
    const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(real(50, 50000), real(0, 40), real(0.02, 0.5), real(1, 50), real(1.1, 3), (rate, initial, rest, more, ratio) => {
        // A rule reads half a millimetre: less than that between the two is no measurement.
        fc.pre((more * (ratio - 1)) / rate > 5e-4);
        const loads = [initial + more, initial + more * ratio];
        const found = measureSpring(
          rest,
          loads.map((forceN) => ({ forceN, lengthM: rest + (forceN - initial) / rate })),
        );
        expect(found.rateNPerM / rate).toBeCloseTo(1, 5);
        expect(Math.abs(found.initialN - initial)).toBeLessThan(1e-4 * (initial + more));
      }),
    );
  });

  it("refuses readings that measure nothing", () => {
    const at = (forceN: number, lengthM: number) => ({ forceN, lengthM });
    expect(() => measureSpring(0.1, [at(10, 0.12)])).toThrow(/two weights/);
    expect(() => measureSpring(0.1, [at(10, 0.12), at(20, 0.12)])).toThrow(/must differ/);
    expect(() => measureSpring(0.1, [at(10, 0.13), at(20, 0.12)])).toThrow(/heavier weight/);
    expect(() => measureSpring(0.125, [at(10, 0.12), at(20, 0.13)])).toThrow(/rest_mm/);
  });

  it("what a break lets go is the work put in: half force times way, spring and wire (closed forms)", () => {
    const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" });
    const stiff = wireStiffnessNPerM(wire, 1.3);
    const { deviceJ, wireJ } = storedEnergyJ({ tensionN: 80, rateNPerM: 2400, wireStiffnessNPerM: stiff });
    expect(deviceJ).toBeCloseTo((80 * (80 / 2400)) / 2, 12);
    expect(wireJ).toBeCloseTo((80 * (80 / stiff)) / 2, 12);
    expect(storedEnergyJ({ tensionN: 80, rateNPerM: null, wireStiffnessNPerM: stiff }).deviceJ).toBe(0);
  });
});

describe("frames", () => {
  const steelTube = { material: "steel", section: { shape: "tube", diameter_mm: 25, wall_mm: 2 } } as const;

  it("sections: a 25 x 2 mm tube has I = 9 628 mm4 (tube tables), a 20 x 30 bar 45 000 mm4", () => {
    expect(sectionProperties(steelTube.section).inertiaM4 * 1e12).toBeCloseTo(9628, 0);
    expect(sectionProperties({ shape: "bar", width_mm: 20, depth_mm: 30 }).inertiaM4 * 1e12).toBeCloseTo(45000, 6);
  });

  it("Euler's column: pinned steel rod 10 mm, 1 m: pi^3 E d^4/(64 L^2) = 993 N (strength-of-materials handbooks); ends held fast four times that", () => {
    const rod = { material: "steel", section: { shape: "rod", diameter_mm: 10 }, lengthM: 1 } as const;
    expect(eulerLoadN({ ...rod, ends: "pinned" })).toBeCloseTo(993.2, 0);
    expect(eulerLoadN({ ...rod, ends: "fixed" }) / eulerLoadN({ ...rod, ends: "pinned" })).toBeCloseTo(4, 9);
    expect(eulerLoadN({ ...rod, ends: "one fixed" }) / eulerLoadN({ ...rod, ends: "pinned" })).toBeCloseTo(1 / 0.49, 9);
    // A flat bar buckles across its thin side, whichever way it is named.
    const flat = { material: "timber", lengthM: 1.2, ends: "pinned" } as const;
    expect(eulerLoadN({ ...flat, section: { shape: "bar", width_mm: 10, depth_mm: 40 } })).toBeCloseTo(
      eulerLoadN({ ...flat, section: { shape: "bar", width_mm: 40, depth_mm: 10 } }),
      9,
    );
  });

  it("a bow saw's moments balance about the pivot, and its spreader carries both sides", () => {
    const bow = {
      kind: "bow-saw",
      wireArmM: 0.3,
      cableArmM: 0.2,
      arm: { material: "timber", section: { shape: "bar", width_mm: 22, depth_mm: 40 } },
      spreader: { material: "timber", section: { shape: "bar", width_mm: 20, depth_mm: 20 }, lengthM: 1.25, ends: "pinned" },
    } as const;
    const { checks } = solveFrame(bow, 60);
    const value = (part: string) => checks.find((check) => check.part === part)?.value as number;
    expect(value("cable") * 0.2).toBeCloseTo(60 * 0.3, 9);
    expect(value("spreader")).toBeCloseTo(60 + 90, 9);
    // 18 N m on 22 x 40 timber: 6 M/(b h^2) = 3.07 MPa.
    expect(value("each arm")).toBeCloseTo(3.068, 2);
    expect(checks.find((check) => check.part === "spreader")).toMatchObject({ ok: true });
    const slender = solveFrame({ ...bow, spreader: { ...bow.spreader, section: { shape: "rod", diameter_mm: 8 } } }, 60);
    expect(slender.checks.find((check) => check.part === "spreader")).toMatchObject({ ok: false, words: expect.stringMatching(/too slender/) });
    // Equal arms: the cable pulls as the wire does (common practice).
    expect(solveFrame({ ...bow, cableArmM: 0.3 }, 60).checks[0]?.value).toBeCloseTo(60, 9);
  });

  it("a C-frame opens by its arms' bend and its back's turn (beam tables), a table arm as a cantilever", () => {
    const flex = 205e9 * sectionProperties(steelTube.section).inertiaM4;
    const c = solveFrame({ kind: "c-frame", throatM: 0.25, backM: 0.7, member: steelTube }, 50);
    expect(c.closesM).toBeCloseTo((2 * 50 * 0.25 ** 3) / (3 * flex) + (50 * 0.25 ** 2 * 0.7) / flex, 12);
    expect(c.rateNPerM * c.closesM).toBeCloseTo(50, 9);
    expect(bendingPa(steelTube, 12.5) / 1e6).toBeCloseTo((12.5 * 0.0125) / 9628e-12 / 1e6, 1);
    const arm = solveFrame({ kind: "table-arm", armM: 0.4, member: steelTube }, 20);
    expect(arm.closesM).toBeCloseTo((20 * 0.4 ** 3) / (3 * flex), 12);
  });

  it("a cambered tube pulls with Euler's load whatever its rise, and is stressed by it", () => {
    const tube = { material: "glass-fibre", section: { shape: "tube", diameter_mm: 12, wall_mm: 2 } } as const;
    const low = solveFrame({ kind: "camber-tube", spanM: 1, riseM: 0.05, member: tube }, 60);
    const high = solveFrame({ kind: "camber-tube", spanM: 1, riseM: 0.3, member: tube }, 60);
    expect(low.ownTensionN).toBeCloseTo(high.ownTensionN as number, 9);
    expect(low.checks[1]?.value).toBeCloseTo((38e9 * 0.006 * 0.05 * Math.PI ** 2) / 1e6, 6);
    expect(high.checks[1]?.ok).toBe(false);
  });
});

describe("ends and checks", () => {
  it("hard wire wants wider bends than soft, and the cut is the span and two ends", () => {
    const soft = wireEnds(resolveWire({ alloy: "ss-304", diameter_mm: 0.64 }), 1.3);
    const hard = wireEnds(resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" }), 1.3);
    expect(hard.bendRadiusM).toBeGreaterThan(2 * soft.bendRadiusM);
    expect(hard.cutM).toBeCloseTo(1.3 + 2 * hard.endM, 12);
    expect(wireEnds(resolveWire({ alloy: "fecral", diameter_mm: 0.2 }), 0.3).advice.join()).toMatch(/brittle.*|kinks/);
  });

  it("asks again after three days while it settles, after a month once it held", () => {
    const check = (at: string, tension_N: number) => ({ kind: "tension-check" as const, at, tension_N, how: "pitch" as const, hot: false, note: "" });
    expect(nextTensionCheck([], "2026-11-23T12:00:00Z")).toBeNull();
    const first = nextTensionCheck([check("2026-11-20T08:00:00Z", 80)], "2026-11-23T12:00:00Z");
    expect(first).toMatchObject({ due: true, dueAt: "2026-11-23T08:00:00.000Z" });
    const fell = nextTensionCheck([check("2026-11-23T09:00:00Z", 70), check("2026-11-20T08:00:00Z", 80)], "2026-11-24T12:00:00Z");
    expect(fell).toMatchObject({ due: false, words: expect.stringMatching(/lost 13 %/) });
    const held = nextTensionCheck([check("2026-11-20T08:00:00Z", 80), check("2026-11-23T09:00:00Z", 79)], "2026-11-24T12:00:00Z");
    expect(held?.dueAt).toBe("2026-12-23T09:00:00.000Z");
  });
});
