import fc from "fast-check";
import { levenbergMarquardt } from "ml-levenberg-marquardt";
import { describe, expect, it } from "vitest";
import { CoreError } from "../kernel/errors";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { resolveWire } from "../physics/heat/wire";
import { anchorMm, fence, haulN, sheet } from "./sums";
import { drawnMm, mismatchMm, type SwingArm, slackThreads, swing } from "./swing";
import { RIG_VERBS } from "./verbs";

const evaluate = (name: string, input: unknown) => RIG_VERBS.find((each) => each.name === name)?.run(input, "") as Record<string, number>;

describe("the swing arm", () => {
  it.each([
    [[0, 300], 60, -60, 900, 330, 190, 205.996, 111.793, 9.808, 20.76],
    [[-150, 250], 45, -70, 1000, 250, 120, 382.286, 116.5, 1.693, 16.71],
    [[200, 600], 30, -50, 1100, 280, 260, 219.458, 203.312, 1.012, -4.04],
  ] as const)(
    "pulley %s: both places and the worst mismatch of geometry.md 6",
    (pulley_mm, from_deg, to_deg, arm_mm, rootTravel_mm, tipTravel_mm, root, tip, worst, at) => {
      const found = evaluate("swing", { pulley_mm, from_deg, to_deg, arm_mm, rootTravel_mm, tipTravel_mm });
      expect(found.rootRadius_mm).toBeCloseTo(root, 2);
      expect(found.tipRadius_mm).toBeCloseTo(tip, 2);
      expect(found.worstMismatch_mm).toBeCloseTo(worst, 2);
      expect(found.at_deg).toBeCloseTo(at, 1);
    },
  );
  it("a travel that no place on the arm gives is refused with the most it can give", () => {
    const ask = { pulley_mm: [-150, 250], from_deg: 45, to_deg: -70, arm_mm: 1000, rootTravel_mm: 420, tipTravel_mm: 120 };
    try {
      evaluate("swing", ask);
      expect.unreachable();
    } catch (error) {
      expect(error).toMatchObject({ code: "no-solution", path: "rootTravel_mm" });
      const most = Number(/the most it can is ([\d.]+) mm/.exec((error as CoreError).message)?.[1]);
      const arm: SwingArm = { pulleyMm: [-150, 250], fromDeg: 45, toDeg: -70, armMm: 1000 };
      expect(most).toBeLessThan(420);
      for (let r = 10; r <= 1000; r += 10) expect(Math.abs(drawnMm(arm, r, -70))).toBeLessThanOrEqual(most + 0.06);
    }
  });
  it("places draw what they should, and agree with another package's least squares", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 200, noNaN: true }),
        fc.double({ min: 200, max: 700, noNaN: true }),
        fc.double({ min: 60, max: 200, noNaN: true }),
        fc.double({ min: 0.5, max: 1, noNaN: true }),
        (x, y, root, share) => {
          const arm: SwingArm = { pulleyMm: [x, y], fromDeg: 50, toDeg: -55, armMm: 1000 };
          let found: ReturnType<typeof swing>;
          try {
            found = swing(arm, root, root * share);
          } catch (error) {
            expect(error).toBeInstanceOf(CoreError);
            return;
          }
          expect(Math.abs(drawnMm(arm, found.rootRadiusMm, -55))).toBeCloseTo(root, 6);
          expect(Math.abs(drawnMm(arm, found.tipRadiusMm, -55))).toBeCloseTo(root * share, 6);
          const { parameterValues } = levenbergMarquardt(
            { x: [-55, -55], y: [root, root] },
            ([r]) =>
              (deg) =>
                Math.abs(drawnMm(arm, r as number, deg)),
            { initialValues: [found.rootRadiusMm * 0.9], maxIterations: 200 },
          );
          expect(parameterValues[0]).toBeCloseTo(found.rootRadiusMm, 2);
          for (let deg = 50; deg >= -55; deg -= 5)
            expect(Math.abs(mismatchMm(arm, found.rootRadiusMm, found.tipRadiusMm, share, deg))).toBeLessThanOrEqual(found.worstMismatchMm + 1e-6);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe("a thread that goes slack on the way", () => {
  it("is found where the arm passes the line from pivot to pulley, with how much hangs loose; one that never does is not", () => {
    // The pulley lies at 120.96 degrees: beyond -59.04 the place comes nearer again.
    const arm = { pulleyMm: [-150, 250] as [number, number], fromDeg: 45, toDeg: -70, armMm: 1000 };
    const [first, second] = slackThreads(arm, 382.286, 116.5);
    const far = Math.hypot(150, 250);
    const at = (r: number, deg: number) => Math.hypot(r * Math.cos((deg * Math.PI) / 180) + 150, r * Math.sin((deg * Math.PI) / 180) - 250);
    expect(first).toMatchObject({ end: "root", atDeg: expect.closeTo(-59.04, 0), slackMm: expect.closeTo(382.286 + far - at(382.286, -70), 2) });
    expect(second).toMatchObject({ end: "tip", slackMm: expect.closeTo(116.5 + far - at(116.5, -70), 2) });
    expect(slackThreads({ ...arm, toDeg: -59 }, 382.286, 116.5)).toEqual([]);
    // Swung the other way it is slack from the beginning.
    expect(slackThreads({ ...arm, fromDeg: -70, toDeg: 45 }, 382.286, 116.5)[0]?.atDeg).toBe(-70);
    expect(slackThreads({ pulleyMm: [0, 300], fromDeg: 60, toDeg: -60, armMm: 900 }, 205.996, 111.793)).toEqual([]);
  });
});

describe("sums of the other rigs (check values of geometry.md 6)", () => {
  it("pull along a template", () => {
    for (const [slope, pull] of [
      [-45, -3.15],
      [0, 0.6],
      [45, 4.85],
    ] as const) {
      expect(evaluate("haul", { drag_N_per_m: 0.5, width_mm: 1200, carried_N: 4, slope_deg: slope }).pull_N).toBeCloseTo(pull, 2);
      expect(haulN(0.5, 1.2, 4, slope)).toBeCloseTo(pull, 2);
    }
    const made = evaluate("haul", {
      wire: { alloy: "ss-304", diameter_mm: 0.64 },
      foam: "eps-18",
      power_W_per_m: 44,
      feed_mm_s: 6.5,
      width_mm: 1000,
      slope_deg: 0,
    });
    expect(made.pull_N).toBeCloseTo(made.drag_N_per_m as number, 9);
  });
  it("anchored wire, by similar triangles", () => {
    expect(evaluate("anchor", { span_mm: 1067, ratio: 0.5 }).distance_mm).toBeCloseTo(2134, 6);
    expect(anchorMm(900, 0.6)).toBeCloseTo(2250, 6);
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3000, noNaN: true }), fc.double({ min: 0.02, max: 0.98, noNaN: true }), (span, ratio) => {
        const a = anchorMm(span, ratio);
        expect((a - span) / a).toBeCloseTo(ratio, 9);
      }),
    );
    expect(() => evaluate("anchor", { span_mm: 900, ratio: 1 })).toThrow(/lead both ends/);
  });
  it("drop, by the balance of weight and drag", () => {
    const drop = { wire: { alloy: "ss-304", diameter_mm: 0.41 }, foam: "eps-18", power_W_per_m: 40, width_mm: 600, weight_N: 6 };
    expect(evaluate("drop", drop).feed_mm_s).toBeCloseTo(14.14, 1);
    expect(
      evaluate("drop", { wire: { alloy: "nicr-80-20", diameter_mm: 0.5 }, foam: "xps-35", power_W_per_m: 55, width_mm: 600, weight_N: 10 }).feed_mm_s,
    ).toBeCloseTo(6.68, 1);
    const pair = { wire: resolveWire({ alloy: "ss-304", diameter_mm: 0.41 }), foam: resolveFoam(parseFoamId("eps-18") as never), ambientC: 20 };
    const feed = evaluate("drop", drop).feed_mm_s as number;
    const x = feed / 1000 / cutAtPower(pair, feed / 1000, 40).maxFeedMPerS;
    expect((referenceDragNPerM(pair) * x * 0.6) / (1 - x)).toBeCloseTo(6, 6);
    const byCurrent = evaluate("drop", { ...drop, power_W_per_m: undefined, current_A: 3 });
    expect(byCurrent.feed_mm_s).toBeLessThan(byCurrent.maxFeed_mm_s as number);
  });
  it("sheets on spacers: two millimetres with a kerf of 0.9 want 2.37; ten in a block by hand", () => {
    expect(evaluate("sheet", { wire_mm: 0.16, kerf_mm: 0.9, sheet_mm: 2, pitch_mm: 1 })).toMatchObject({
      spacer_mm: expect.closeTo(2.37, 9),
      turns: expect.closeTo(2.37, 9),
    });
    // First slice of 3 off 32 mm: 29 left, ten times 2 and 0.9.
    expect(sheet({ wireMm: 0.16, kerfMm: 0.9, sheetMm: 2, blockMm: 32, firstMm: 3 }).sheets).toBe(10);
    expect(sheet({ wireMm: 0.16, kerfMm: 0.9, sheetMm: 2, blockMm: 31.9, firstMm: 3 }).sheets).toBe(9);
    const made = evaluate("sheet", { wire: { alloy: "ss-304", diameter_mm: 0.41 }, foam: "eps-18", power_W_per_m: 30, feed_mm_s: 6, sheet_mm: 5 });
    expect(made.spacer_mm).toBeCloseTo(5 + ((made.kerf_mm as number) - 0.41) / 2, 9);
  });
  it("fence, bevel, disc, hole and groove", () => {
    expect(fence({ wireMm: 0.5, kerfMm: 1.4, partMm: 40, heightMm: 100, tiltDeg: 60, discMm: 60, grooveMm: 12 })).toEqual({
      toCentreMm: 40.7,
      toWireMm: expect.closeTo(40.45, 9),
      liveWireMm: expect.closeTo(200, 9),
      pinDiscMm: 60.7,
      pinHoleMm: 59.3,
      loopMm: expect.closeTo(11.1, 9),
    });
    expect(() => fence({ wireMm: 1.5, kerfMm: 1.4, partMm: 40 })).toThrow(CoreError);
    expect(() => fence({ wireMm: 0.5, kerfMm: 1.4, partMm: 40, grooveMm: 0.9 })).toThrow(/groove/);
  });
  it("a figure and what makes it are not both taken, nor half of either", () => {
    const cut = { wire: { alloy: "ss-304", diameter_mm: 0.41 }, foam: "eps-18", power_W_per_m: 30, feed_mm_s: 6 };
    expect(() => evaluate("sheet", { wire_mm: 0.4, kerf_mm: 1, ...cut, sheet_mm: 5 })).toThrow(CoreError);
    expect(() => evaluate("sheet", { wire_mm: 0.4, sheet_mm: 5 })).toThrow(CoreError);
    expect(() => evaluate("haul", { width_mm: 100, slope_deg: 3 })).toThrow(CoreError);
    expect(() => evaluate("haul", { ...cut, current_A: 2, width_mm: 100, slope_deg: 3 })).toThrow(/exactly one/);
    expect(() => evaluate("haul", { drag_N_per_m: 1, width_mm: 100, slope_deg: 90 })).toThrow(/-89 to 89/);
    expect(() => evaluate("swing", { pulley_mm: [0, 300], from_deg: 60, to_deg: 60, arm_mm: 900, rootTravel_mm: 330, tipTravel_mm: 190 })).toThrow(CoreError);
  });
});
