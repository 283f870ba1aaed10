import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nextTensionCheck } from "@/core/log/entries";
import { FRAMING, sectionProperties } from "@/core/materials/framing";
import { resolveWire } from "@/core/physics/heat/wire";
import { bendingPa, eulerLoadN, solveFrame } from "@/core/physics/mechanics/frame";
import { frameSchema } from "@/core/physics/mechanics/frameSchema";
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

  it("a cambered tube pulls with Euler's load for any rise, and is stressed by the rise", () => {
    const tube = { material: "glass-fibre", section: { shape: "tube", diameter_mm: 12, wall_mm: 2 } } as const;
    const low = solveFrame({ kind: "camber-tube", spanM: 1, riseM: 0.05, member: tube }, 60);
    const high = solveFrame({ kind: "camber-tube", spanM: 1, riseM: 0.3, member: tube }, 60);
    expect(low.ownTensionN).toBeCloseTo(high.ownTensionN as number, 9);
    expect(low.checks[1]?.value).toBeCloseTo((38e9 * 0.006 * 0.05 * Math.PI ** 2) / 1e6, 6);
    expect(high.checks[1]?.ok).toBe(false);
  });
});

describe("what a frame says of itself", () => {
  const timber = { material: "timber", section: { shape: "bar", width_mm: 22, depth_mm: 40 } } as const;
  const bow = {
    kind: "bow-saw",
    wireArmM: 0.3,
    cableArmM: 0.2,
    arm: timber,
    spreader: { material: "timber", section: { shape: "bar", width_mm: 20, depth_mm: 20 }, lengthM: 1.25, ends: "pinned" },
  } as const;
  const said = (frame: Parameters<typeof solveFrame>[0], wireN: number, units?: "metric" | "inch") =>
    Object.fromEntries(solveFrame(frame, wireN, units).checks.map((check) => [check.part, check]));

  it("a bow saw closes by the work its arms take up: F c/2 = 2 (F^2 a^3 + C^2 b^3)/(6 E I)", () => {
    const flex = FRAMING.timber.youngPa * sectionProperties(timber.section).inertiaM4;
    const [wireN, cableN] = [60, 90];
    const work = (2 * (wireN ** 2 * 0.3 ** 3 + cableN ** 2 * 0.2 ** 3)) / (6 * flex);
    const solved = solveFrame(bow, wireN);
    expect(solved.closesM).toBeCloseTo((2 * work) / wireN, 12);
    expect(solved.rateNPerM * solved.closesM).toBeCloseTo(wireN, 9);
    expect(solved.checks.at(-1)).toMatchObject({ part: "ends close", unit: "mm", limit: null, ok: true });
    expect(solved.checks.at(-1)?.value).toBeCloseTo(solved.closesM * 1000, 9);
    expect(solved.ownTensionN).toBeNull();
  });

  it("a spreader is safe up to a third of Euler's load, and says so where it is crossed", () => {
    const bears = eulerLoadN(bow.spreader) / 3;
    // Each newton of wire is one and a half of cable and two and a half of spreader.
    const most = bears / 2.5;
    expect(said(bow, most * 0.999).spreader).toMatchObject({ ok: true, limit: expect.closeTo(bears, 9) });
    expect(said(bow, most * 1.001).spreader).toMatchObject({ ok: false });
    const words = said(bow, 20).spreader?.words ?? "";
    expect(words).toContain(`up to ${most.toFixed(0)} N`);
    expect(words).toContain("pinned at both ends");
    expect(said({ ...bow, spreader: { ...bow.spreader, ends: "fixed" } }, 20).spreader?.words).toContain("fixed at both ends");
    expect(said({ ...bow, spreader: { ...bow.spreader, ends: "one fixed" } }, 20).spreader?.words).toContain("fixed at one end");
    expect(said(bow, most * 2).spreader?.words).toContain(`${most.toFixed(0)} N is its safe most`);
  });

  it("equal arms are called so, and only they; forces under 20 N have a tenth", () => {
    expect(said({ ...bow, cableArmM: 0.3 }, 60).cable?.words).toMatch(/60 N, as much as the wire/);
    expect(said(bow, 60).cable?.words).toBe("the cable pulls 90 N");
    expect(said(bow, 10).cable?.words).toBe("the cable pulls 15.0 N");
    expect(said(bow, 60, "inch").cable?.words).toMatch(/lbf/);
  });

  it("stress in words: plenty below half of what the wood bears, enough above it, too much past it", () => {
    const limit = FRAMING.timber.workingPa / 1e6;
    // 6 F a/(b h^2), N and mm.
    const stress = (wireN: number) => (6 * wireN * 300) / (22 * 40 ** 2);
    const at = (share: number) => said(bow, (share * limit) / stress(1))["each arm"];
    expect(at(0.45)).toMatchObject({ ok: true, unit: "MPa", limit, words: expect.stringMatching(/plenty in hand/) });
    expect(at(0.55)).toMatchObject({ ok: true, words: expect.stringMatching(/enough, not much more/) });
    expect(at(1.05)).toMatchObject({ ok: false, words: expect.stringMatching(/past the .* deeper or shorter/) });
    const table = said({ kind: "table-arm", armM: 0.4, member: timber }, 30);
    expect(table["the arm"]?.value).toBeCloseTo((6 * 30 * 400) / (22 * 40 ** 2), 9);
    const c = said({ kind: "c-frame", throatM: 0.25, backM: 0.7, member: timber }, 30);
    expect(c["the back"]?.value).toBeCloseTo((6 * 30 * 250) / (22 * 40 ** 2), 9);
  });

  it("says how far it moves, in millimetres or inches, and what of it the arms are", () => {
    const c = { kind: "c-frame", throatM: 0.25, backM: 0.7, member: timber } as const;
    const { closesM } = solveFrame(c, 50);
    const close = said(c, 50)["ends close"];
    expect(close).toMatchObject({ ok: true, limit: null, unit: "mm" });
    expect(close?.value).toBeCloseTo(closesM * 1000, 9);
    expect(close?.words).toContain(`${(closesM * 1000).toFixed(1)} mm`);
    expect(said(c, 50, "inch")["ends close"]?.words).toContain(`${(closesM / 0.0254).toFixed(2)} in`);
    // 2 a^3/3 of arms to a^2 b of back.
    expect(close?.words).toContain(`${Math.round((100 * ((2 / 3) * 0.25)) / ((2 / 3) * 0.25 + 0.7))} % from the arms`);
    const arm = solveFrame({ kind: "table-arm", armM: 0.4, member: timber }, 30);
    expect(arm.checks[1]).toMatchObject({ part: "tip drops", ok: true, value: expect.closeTo(arm.closesM * 1000, 9) });
    expect(arm.rateNPerM * arm.closesM).toBeCloseTo(30, 9);
  });

  it("a cambered tube: the chord of an arch of half a sine (by numbers), Euler's slope, and words about what it pulls", () => {
    const tube = {
      kind: "camber-tube",
      spanM: 1,
      riseM: 0.1,
      member: { material: "glass-fibre", section: { shape: "tube", diameter_mm: 12, wall_mm: 2 } },
    } as const;
    const solved = solveFrame(tube, 60);
    const n = 2000;
    let shorter = 0;
    for (let i = 0; i < n; i++) shorter += (0.1 * Math.PI * Math.cos((Math.PI * (i + 0.5)) / n)) ** 2 / 2 / n;
    expect(solved.closesM).toBeCloseTo(shorter, 6);
    const own = solved.ownTensionN as number;
    expect(solved.rateNPerM).toBeCloseTo(own / 2, 9);
    expect(solved.checks[0]).toMatchObject({ part: "tube pulls", value: own, limit: null, unit: "N", ok: true });
    expect(said(tube, own / 1.2)["tube pulls"]?.words).toMatch(/about what you ask/);
    expect(said(tube, own / 0.95)["tube pulls"]?.words).toMatch(/about what you ask/);
    expect(said(tube, own / 1.4)["tube pulls"]?.words).toMatch(/more than you ask/);
    expect(said(tube, own / 0.85)["tube pulls"]?.words).toMatch(/less than the .* you ask; a stouter tube/);
    // Twice the span at the same rise stresses it a quarter as much.
    const long = solveFrame({ ...tube, spanM: 2 }, 60).checks[1]?.value as number;
    expect(long * 4).toBeCloseTo(solved.checks[1]?.value as number, 9);
    expect(said({ ...tube, riseM: 0.02 }, 60)["the tube"]).toMatchObject({ ok: true, words: expect.stringMatching(/it is at/) });
    expect(said({ ...tube, riseM: 0.4 }, 60)["the tube"]).toMatchObject({ ok: false, words: expect.stringMatching(/less rise, or it takes a set/) });
  });

  it("a flat strut buckles across its thin side: E b h^3/12 of the thin one, and an end held fast shortens it", () => {
    const flat = { material: "timber", section: { shape: "bar", width_mm: 40, depth_mm: 10 }, lengthM: 1.2 } as const;
    const thin = (0.04 * 0.01 ** 3) / 12;
    expect(eulerLoadN({ ...flat, ends: "pinned" })).toBeCloseTo((Math.PI ** 2 * FRAMING.timber.youngPa * thin) / 1.2 ** 2, 6);
    expect(eulerLoadN({ ...flat, ends: "fixed" })).toBeCloseTo((Math.PI ** 2 * FRAMING.timber.youngPa * thin) / 0.6 ** 2, 6);
    const deep = { ...flat, section: { shape: "bar", width_mm: 10, depth_mm: 40 } } as const;
    expect(eulerLoadN({ ...deep, ends: "pinned" })).toBeCloseTo(eulerLoadN({ ...flat, ends: "pinned" }), 9);
  });

  const arm = { kind: "table-arm", arm_mm: 400, material: "steel", section: { shape: "tube", diameter_mm: 10, wall_mm: 2 } };
  it.each([
    [{ ...arm, material: "cheese" }, "material", /must be one of .*timber/],
    [{ ...arm, arm_mm: undefined }, "arm_mm", /arm_mm|required|number/],
    [{ ...arm, section: { ...arm.section, wall_mm: 5.1 } }, "section.wall_mm", /at most half of diameter_mm \(5 mm\)/],
    [{ ...arm, section: { ...arm.section, shape: "star" } }, "section.shape", /must be one of bar, rod, tube/],
    [{ ...arm, kind: "gallows" }, "kind", /must be one of bow-saw, c-frame/],
    [{ ...arm, stray: 1 }, "", /stray/],
  ])("refuses %j by its field", (input, path, words) => {
    const issue = frameSchema.safeParse(input).error?.issues[0];
    expect(issue?.path.join(".")).toBe(path);
    expect(issue?.message).toMatch(words);
    expect(frameSchema.safeParse(arm).success).toBe(true);
    // A tube may be filled to its middle.
    expect(frameSchema.safeParse({ ...arm, section: { ...arm.section, wall_mm: 5 } }).success).toBe(true);
  });
});

describe("ends and checks", () => {
  it("hard wire wants wider bends than soft, and the cut is the span and two ends", () => {
    const soft = wireEnds(resolveWire({ alloy: "ss-304", diameter_mm: 0.64 }), 1.3);
    const hard = wireEnds(resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" }), 1.3);
    expect(hard.bendRadiusM).toBeGreaterThan(2 * soft.bendRadiusM);
    expect(hard.cutM).toBeCloseTo(1.3 + 2 * hard.endM, 12);
    // Soft one and a half, brittle three, hard four diameters (common practice); what is said is said of the wire that it is true of.
    const of = (wire: Parameters<typeof resolveWire>[0]) => {
      const resolved = resolveWire(wire);
      const { bendRadiusM, endM, advice } = wireEnds(resolved, 0.3);
      expect(endM).toBeCloseTo(Math.PI * (2 * bendRadiusM + resolved.outerDiameterM) + 20 * resolved.outerDiameterM + 0.06, 12);
      return [bendRadiusM / resolved.outerDiameterM, ["kinks if", "goes brittle", "springs back", "Stranded"].filter((words) => advice.join().includes(words))];
    };
    expect(of({ alloy: "ss-304", diameter_mm: 0.64 })).toEqual([expect.closeTo(1.5, 9), []]);
    expect(of({ alloy: "ss-304", diameter_mm: 0.3 })).toEqual([expect.closeTo(1.5, 9), []]);
    expect(of({ alloy: "fecral", diameter_mm: 0.2 })).toEqual([expect.closeTo(3, 9), ["kinks if", "goes brittle"]]);
    expect(of({ alloy: "ni-superalloy", diameter_mm: 0.4 })).toEqual([expect.closeTo(4, 9), ["springs back"]]);
    expect(of({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" })).toEqual([expect.closeTo(4, 9), ["springs back"]]);
    expect(wireEnds(resolveWire({ alloy: "ss-304", diameter_mm: 0.64, strands: 7 }), 0.3).advice.join()).toContain("Stranded");
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
