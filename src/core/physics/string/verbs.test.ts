import { describe, expect, it } from "vitest";
import { cutAtPower, heatInKerf, referenceDragNPerM } from "@/core/physics/cut/cut";
import { headlessOf } from "../../../../tests/helpers/headless";
import { STRING_VERBS, verbPairOf } from "./verbs";

const { runVerb, refusal } = headlessOf(STRING_VERBS);
const wire = { alloy: "ss-304", diameter_mm: 0.64 };
const pair = verbPairOf({ wire, foam: { family: "eps", density_kg_m3: 18 }, ambient_C: 20 } as never);
const straight = {
  wire,
  foam: "eps-18",
  power_W_per_m: 44,
  tension_N: 65,
  length_mm: 1300,
  foamTo_mm: 1300,
  path_mm: [
    [0, 0],
    [200, 0],
  ],
  times_s: [0, 40],
  steps: 100,
  nodes: 21,
};
interface Surface {
  times_s: number[];
  traces: { at: number; path_mm: [number, number][]; error_mm: number }[];
  error_mm: number;
  maxFeed_mm_s: number;
  referenceDrag_N_per_m: number;
  warnings: { code: string }[];
}
const surface = (more: object = {}): Surface => ({ warnings: [], ...(runVerb("surface", { ...straight, ...more }) as object) }) as unknown as Surface;
const surfaceRefused = (more: object) => refusal("surface", { ...straight, ...more });

describe("the verb surface", () => {
  it("led straight through foam over its whole length the middle trails by w L^2/8T, and cuts the line without error", () => {
    const { traces, maxFeed_mm_s, referenceDrag_N_per_m, error_mm, warnings } = surface({ at: [0, 0.25, 0.5, 1] });
    expect(maxFeed_mm_s).toBeCloseTo(cutAtPower(pair, 0.003, 44).maxFeedMPerS * 1000, 9);
    expect(referenceDrag_N_per_m).toBeCloseTo(referenceDragNPerM(pair), 12);
    const drag = (referenceDrag_N_per_m * 5) / (maxFeed_mm_s - 5);
    const lag = ((drag * 1.3 ** 2) / 8 / 65) * 1000;
    const ends = traces.map(({ path_mm }) => path_mm.at(-1) as [number, number]);
    expect(ends[0]).toEqual([200, 0]);
    expect(ends[3]?.[0]).toBeCloseTo(200, 9);
    expect(ends[2]?.[0]).toBeCloseTo(200 - lag, 3);
    expect(ends[2]?.[1]).toBe(0);
    // A parabola: three quarters of it at a quarter of the length.
    expect(ends[1]?.[0]).toBeCloseTo(200 - 0.75 * lag, 3);
    expect(error_mm).toBeLessThan(1e-9);
    expect(warnings).toEqual([]);
  });
  it("answers at every step's time, and the largest error of all places asked for", () => {
    const turned = surface({
      path_mm: [
        [0, 0],
        [60, 0],
        [60, 0],
        [60, 60],
      ],
      times_s: [1, 11, 13, 23],
      at: [0.1, 0.5, 0.9],
    });
    expect(turned.times_s[0]).toBe(1);
    expect(turned.times_s.at(-1)).toBe(23);
    for (const time of [11, 13]) expect(turned.times_s.some((each) => Math.abs(each - time) < 1e-9)).toBe(true);
    // A hundred steps of the whole, a stretch's share rounded up: 10 of 22 s is 46, 2 of 22 is 10.
    expect(turned.times_s).toHaveLength(1 + 46 + 10 + 46);
    const errors = turned.traces.map(({ error_mm }) => error_mm);
    expect(turned.error_mm).toBe(Math.max(...errors));
    expect(errors[1]).toBeGreaterThan(errors[0] as number);
    // Both halves of it are alike.
    expect(errors[2]).toBeCloseTo(errors[0] as number, 9);
    for (const { path_mm } of turned.traces) expect(path_mm).toHaveLength(turned.times_s.length);
  });
  it("a wire given by its current has the heat that makes in the kerf at the mean feed of both ends, stops left out", () => {
    const tipPath_mm = [
      [0, 0],
      [100, 0],
      [100, 0],
    ];
    const guided = {
      path_mm: [
        [0, 0],
        [200, 0],
        [200, 0],
      ],
      times_s: [0, 40, 70],
    };
    const by = (current: object, tip: object) => surface({ ...guided, ...tip, power_W_per_m: undefined, ...current }).maxFeed_mm_s;
    const top = (feed: number) => cutAtPower(pair, 0.003, heatInKerf(pair, feed / 1000, 6).powerWPerM).maxFeedMPerS * 1000;
    expect(by({ current_A: 6 }, {})).toBeCloseTo(top(5), 9);
    expect(by({ current_A: 6 }, { tipPath_mm })).toBeCloseTo(top((5 + 2.5) / 2), 9);
    // An end that rests has no feed of its own.
    expect(
      by(
        { current_A: 6 },
        {
          tipPath_mm: [
            [0, 0],
            [0, 0],
            [0, 0],
          ],
        },
      ),
    ).toBeCloseTo(top(5), 9);
  });
  it("a feed at or above the top feed is a warning, at either end", () => {
    const top = surface().maxFeed_mm_s;
    const result = (more: object) => surface({ steps: 50, nodes: 10, ...more }).warnings.map(({ code }) => code);
    expect(result({ times_s: [0, 200 / (0.99 * top)] })).toEqual([]);
    expect(result({ times_s: [0, 200 / (1.01 * top)] })).toEqual(["above-top-feed"]);
    expect(
      result({
        times_s: [0, 200 / (0.6 * top)],
        tipPath_mm: [
          [0, 0],
          [400, 0],
        ],
      }),
    ).toEqual(["above-top-feed"]);
  });
  it("refuses by field what no wire does", () => {
    expect(surfaceRefused({ path_mm: [[0, 0]] })).toBe("path_mm");
    expect(
      surfaceRefused({
        path_mm: [
          [0, 0],
          [100_001, 0],
        ],
      }),
    ).toBe("path_mm.1.0");
    expect(
      surfaceRefused({
        path_mm: [
          [0, -100_001],
          [1, 0],
        ],
      }),
    ).toBe("path_mm.0.1");
    expect(surfaceRefused({ tension_N: 0.09 })).toBe("tension_N");
    expect(surfaceRefused({ tension_N: 0.1, steps: 50, nodes: 10 })).toBe("was not refused");
    expect(surfaceRefused({ foamTo_mm: 1300.1 })).toBe("foamTo_mm");
    expect(surfaceRefused({ foamFrom_mm: 1299.5 })).toBe("foamFrom_mm");
    expect(surfaceRefused({ foamFrom_mm: 1299 })).toBe("was not refused");
    expect(surfaceRefused({ tipPath_mm: [...straight.path_mm, [1, 1]] })).toBe("tipPath_mm");
    expect(surfaceRefused({ times_s: [0, 20, 40] })).toBe("times_s");
    expect(surfaceRefused({ times_s: [40, 0] })).toBe("times_s.1");
    expect(surfaceRefused({ times_s: [5, 5] })).toBe("times_s.1");
    expect(surfaceRefused({ times_s: [-1, 5] })).toBe("times_s.0");
    expect(surfaceRefused({ times_s: [0, 86_401] })).toBe("times_s.1");
    const rests = { path_mm: straight.path_mm.map(() => [0, 0]) };
    expect(surfaceRefused({ ...rests, times_s: [5, 5] })).toBe("times_s");
    // It may mean a time of zero, but the whole takes some; and the tip's moves take time as well.
    const three = { path_mm: [...straight.path_mm, [200, 0]] };
    expect(surfaceRefused({ ...three, times_s: [0, 40, 40] })).toBe("was not refused");
    expect(surfaceRefused({ ...three, times_s: [0, 40, 40], tipPath_mm: [...straight.path_mm, [200, 1]] })).toBe("times_s.2");
    expect(surfaceRefused({ at: [] })).toBe("at");
    expect(surfaceRefused({ at: [1.01] })).toBe("at.0");
    expect(surfaceRefused({ at: [-0.01] })).toBe("at.0");
    expect(surfaceRefused({ at: Array(51).fill(0.5) })).toBe("at");
    for (const [field, least, most] of [
      ["nodes", 10, 400],
      ["steps", 50, 20_000],
    ] as const) {
      for (const value of [least - 1, most + 1, least + 0.5]) expect(surfaceRefused({ [field]: value })).toBe(field);
      expect(surfaceRefused({ [field]: least })).toBe("was not refused");
    }
    expect(surfaceRefused({ current_A: 6 })).not.toBe("was not refused");
    expect(surfaceRefused({ power_W_per_m: undefined })).not.toBe("was not refused");
  });
});

describe("the verb wait", () => {
  const requested = { wire, foam: "eps-18", power_W_per_m: 44, feed_mm_s: 6, wait_s: 0 };
  const wait = (more: object = {}) =>
    ({ warnings: [], ...(runVerb("wait", { ...requested, ...more }) as object) }) as unknown as {
      radius_mm: number;
      corner_mm: number;
      bite_mm: number;
      halfKerf_mm: number;
      warnings: { code: string }[];
    };
  it("without a stop it reaches half a kerf, and bites nothing; with one it bites what it reaches beyond that (geometry.md 5)", () => {
    const none = wait();
    expect(none.halfKerf_mm).toBeCloseTo(cutAtPower(pair, 0.006, 44).kerfM * 500, 9);
    expect(none.radius_mm / none.halfKerf_mm).toBeCloseTo(1, 2);
    expect(none.bite_mm).toBeGreaterThanOrEqual(0);
    expect(none.bite_mm).toBeLessThan(0.02);
    const two = wait({ wait_s: 2 });
    expect(two.radius_mm).toBeCloseTo(2.325, 1);
    expect(two.corner_mm).toBeCloseTo(3.036, 1);
    expect(two.bite_mm).toBeCloseTo(two.radius_mm - two.halfKerf_mm, 12);
    expect(two.halfKerf_mm).toBe(none.halfKerf_mm);
    expect(two.warnings).toEqual([]);
  });
  it("a current is the heat it makes in the kerf at this feed", () => {
    const { powerWPerM } = heatInKerf(pair, 0.006, 6);
    expect(wait({ power_W_per_m: undefined, current_A: 6 })).toEqual(wait({ power_W_per_m: powerWPerM }));
  });
  it("refuses a stop of no length that could be, and heat given twice", () => {
    expect(refusal("wait", { ...requested, wait_s: -1 })).toBe("wait_s");
    expect(refusal("wait", { ...requested, wait_s: 601 })).toBe("wait_s");
    expect(refusal("wait", { ...requested, wait_s: 600 })).toBe("was not refused");
    expect(refusal("wait", { ...requested, current_A: 6 })).not.toBe("was not refused");
  });
});
