import { readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../tests/helpers/headless";
import { resolveFoam } from "../materials/foams";
import { cutAtCurrent, cutAtPower } from "../physics/cut/cut";
import { resolveWire } from "../physics/heat/wire";
import { knowFont, OWN_FONT } from "./shapes/text";
import { PLAN_VERBS } from "./verbs";

// The lettering of the app itself, as it comes from the disk.
knowFont(OWN_FONT, () => new Uint8Array(readFileSync(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", "DejaVuSans-Bold.ttf"))).buffer);

const { runVerb, refusal } = headlessOf(PLAN_VERBS);
const box = (w: number, h: number) => ({
  kind: "points",
  points_mm: [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ],
});
const wire = { alloy: "ss-304", diameter_mm: 0.64 };

interface Section {
  area_mm2: number;
  perimeter_mm: number;
  thickness_mm: number;
  upper_mm: number[];
  lower_mm: number[];
  holes_mm: unknown[];
}
describe("the verb section", () => {
  it("a box of 60 by 20: its heights, area, perimeter and thickness by hand", () => {
    const result = runVerb("section", { section: box(60, 20), at: [0, 0.5, 1] }) as Section;
    expect(result.area_mm2).toBeCloseTo(1200, 6);
    expect(result.perimeter_mm).toBeCloseTo(160, 6);
    expect(result.thickness_mm).toBeCloseTo(20, 6);
    expect(result.upper_mm[1]).toBeCloseTo(20, 6);
    expect(result.lower_mm[1]).toBeCloseTo(0, 6);
    expect(result.holes_mm).toEqual([]);
    const doubled = runVerb("section", { section: box(60, 20), chord_mm: 120, at: [0.5] }) as Section;
    expect(doubled.area_mm2).toBeCloseTo(4800, 6);
    // A wedge is thickest at its blunt end.
    const wedge = {
      kind: "points",
      points_mm: [
        [0, 0],
        [60, -4],
        [60, 4],
      ],
    };
    expect((runVerb("section", { section: wedge, at: [0.5] }) as Section).thickness_mm).toBeCloseTo(8, 6);
    expect(doubled.upper_mm[0]).toBeCloseTo(40, 6);
  });
});

describe("the verb taper", () => {
  const pair = { wire: resolveWire(wire), foam: resolveFoam({ family: "eps", density_kg_m3: 18 }), ambientC: 20 };
  const base = { wire, foam: "eps-18", rootFeed_mm_s: 6, ratio: 0.5 };
  interface End {
    feed_mm_s: number;
    kerf_mm: number;
    feedRatio: number;
    wireTemperature_C: number;
    allowance_mm: number;
    verdict: string;
  }
  const taper = (more: object) =>
    runVerb("taper", { ...base, ...more }) as {
      root: End;
      tip: End;
      leastRatio: number | null;
      leastRatioHeat_W_per_m: number | null;
      warnings?: { code: string }[];
    };
  it("the tip at half the root's feed has the cut of that feed, twice as wide under the same heat", () => {
    const { root, tip, leastRatio, leastRatioHeat_W_per_m } = taper({ power_W_per_m: 44 });
    const [near, far] = [cutAtPower(pair, 0.006, 44), cutAtPower(pair, 0.003, 44)];
    expect([root.feed_mm_s, tip.feed_mm_s]).toEqual([6, 3]);
    expect([root.kerf_mm, tip.kerf_mm]).toEqual([expect.closeTo(near.kerfM * 1000, 9), expect.closeTo(far.kerfM * 1000, 9)]);
    expect(tip.kerf_mm / root.kerf_mm).toBeCloseTo(2, 2);
    expect([root.verdict, tip.verdict]).toEqual([near.verdict, far.verdict]);
    expect(tip.wireTemperature_C).toBeCloseTo(far.wireC, 9);
    // Led by its edge, half of what is beyond the wire is to be allowed for.
    expect(root.allowance_mm).toBeCloseTo((near.kerfM * 1000 - 0.64) / 2, 6);
    expect(leastRatio).toBeGreaterThan(0.1);
    expect(leastRatio).toBeLessThan(1);
    expect(leastRatioHeat_W_per_m).toBeGreaterThan(10);
  });
  it("by its current: the heat that makes at each end", () => {
    const { root, tip } = taper({ current_A: 5 });
    expect(root.kerf_mm).toBeCloseTo(cutAtCurrent(pair, 0.006, 5).kerfM * 1000, 6);
    expect(tip.kerf_mm).toBeLessThan(2.2 * root.kerf_mm);
    expect(refusal("taper", { ...base, current_A: 5, power_W_per_m: 44 })).not.toBe("was not refused");
    expect(refusal("taper", base)).not.toBe("was not refused");
  });
  it("what its cuts warn of is reported once, and an accepted kerf that no heat keeps leaves no least taper", () => {
    const codes = (taper({ power_W_per_m: 44, ratio: 2.5 }).warnings ?? []).map(({ code }) => code);
    expect(new Set(codes).size).toBe(codes.length);
    expect(codes.length).toBeGreaterThan(0);
    const fine = taper({ power_W_per_m: 44, maxKerf_mm: 0.1 });
    expect([fine.leastRatio, fine.leastRatioHeat_W_per_m]).toEqual([null, null]);
    const wide = taper({ power_W_per_m: 44, maxKerf_mm: 6 });
    expect(wide.leastRatio).toBeLessThanOrEqual(taper({ power_W_per_m: 44 }).leastRatio as number);
    for (const ratio of [0.01, 51]) expect(refusal("taper", { ...base, power_W_per_m: 44, ratio })).toBe("ratio");
  });
});

describe("the verb template", () => {
  const base = { section: box(60, 20), wire, kerf_mm: 1.64 };
  interface Template {
    allowance_mm: number;
    guide_mm: [number, number][];
    guides_mm?: [number, number][][];
    losses: { at: number[]; depth_mm: number; area_mm2: number; kind: string }[];
    files?: { svg?: string; dxf?: string };
    warnings?: { code: string; message: string }[];
  }
  const template = (more: object = {}) => runVerb("template", { ...base, ...more }) as Template;
  const extent = (points: [number, number][]) => [
    Math.min(...points.map(([x]) => x)),
    Math.max(...points.map(([x]) => x)),
    Math.min(...points.map(([, y]) => y)),
    Math.max(...points.map(([, y]) => y)),
  ];
  it("a box's guide is offset from it by half the kerf less half the wire, by its skin more, all of half a kerf where the wire's centre is led", () => {
    const { allowance_mm, guide_mm, files, guides_mm } = template();
    expect(allowance_mm).toBeCloseTo(0.5, 9);
    const [left, right, low, high] = extent(guide_mm) as [number, number, number, number];
    for (const [got, want] of [
      [left, -0.5],
      [right, 60.5],
      [low, -0.5],
      [high, 20.5],
    ] as const)
      expect(got).toBeCloseTo(want, 2);
    expect(files).toBeUndefined();
    // One piece without a hole has one guide.
    expect(guides_mm).toBeUndefined();
    expect(template({ guidance: "centre" }).allowance_mm).toBeCloseTo(0.82, 9);
    expect(template({ skin_mm: 2 }).allowance_mm).toBeCloseTo(-1.5, 9);
  });
  it("several pieces, and holes, have a guide each; those that lie closer than the kerf are advised to run together", () => {
    const holed = template({
      section: {
        ...box(60, 40),
        holes_mm: [
          [
            [20, 10],
            [20, 30],
            [40, 30],
            [40, 10],
          ],
        ],
      },
    });
    expect(holed.guides_mm).toHaveLength(2);
    const [, hole] = holed.guides_mm as [number, number][][];
    const [left, right] = extent(hole as [number, number][]) as [number, number, number, number];
    expect(left).toBeCloseTo(20.5, 1);
    expect(right).toBeCloseTo(39.5, 1);
    const pieces = template({ section: { kind: "text", text: "il", height_mm: 40 } });
    expect((pieces.guides_mm ?? []).length).toBeGreaterThan(1);
    expect((template({ section: { kind: "text", text: "il", height_mm: 40 }, kerf_mm: 12 }).warnings ?? []).map(({ code }) => code)).toContain("run-together");
    expect((pieces.warnings ?? []).map(({ code }) => code)).not.toContain("run-together");
  });
  it("files as asked for, each or both", () => {
    expect(template({ formats: ["svg"] }).files).toEqual({ svg: expect.stringMatching(/<svg/) });
    expect(template({ formats: ["dxf"] }).files).toEqual({ dxf: expect.stringMatching(/SECTION/) });
    expect(Object.keys(template({ formats: ["dxf", "svg"] }).files ?? {}).sort()).toEqual(["dxf", "svg"]);
    const { svg = "" } = template({ formats: ["svg"] }).files ?? {};
    expect(svg).toMatch(/guide/);
    expect(svg).toMatch(/finished part/);
    expect(refusal("template", { ...base, formats: ["pdf"] })).toMatch(/^formats/);
  });
  it("an inner corner keeps foam that a round kerf cannot reach; a thin place is lost under a skin; a kerf under the wire is none", () => {
    const angle = {
      kind: "points",
      points_mm: [
        [0, 0],
        [60, 0],
        [60, 20],
        [20, 20],
        [20, 60],
        [0, 60],
      ],
    };
    const { losses, warnings } = template({ section: angle, kerf_mm: 6.64 });
    expect(losses[0]).toMatchObject({ kind: "left" });
    expect(losses[0]?.at).toEqual([expect.closeTo(20, 1), expect.closeTo(20, 1)]);
    // A circle of half the beyond in a square corner leaves (sqrt 2 - 1) of its radius on the diagonal.
    expect(losses[0]?.depth_mm).toBeCloseTo(3 * (Math.SQRT2 - 1), 1);
    expect(losses[0]?.area_mm2).toBeCloseTo(9 * (1 - Math.PI / 4), 0);
    expect(warnings?.find(({ code }) => code === "corner-left")?.message).toMatch(/at 20\.0, 20\.0 mm .* up to 1\.2\d mm/);
    const thin = template({
      section: {
        kind: "points",
        points_mm: [
          [0, 0],
          [60, -4],
          [60, 4],
        ],
      },
      skin_mm: 3,
    });
    expect(thin.losses.some(({ kind }) => kind === "taken")).toBe(true);
    expect((thin.warnings ?? []).map(({ code }) => code)).toContain("nose-taken");
    const depths = thin.losses.map(({ depth_mm }) => depth_mm);
    expect(depths).toEqual([...depths].sort((a, b) => b - a));
    expect((template({ kerf_mm: 0.6 }).warnings ?? []).map(({ code }) => code)).toContain("kerf-under-wire");
    expect((template({ kerf_mm: 0.64 }).warnings ?? []).map(({ code }) => code)).not.toContain("kerf-under-wire");
    expect(template().losses).toEqual([]);
  });
  it("one face runs from its nose to its tail and on past it", () => {
    const upper = template({ section: { kind: "naca4", code: "0012" }, chord_mm: 100, face: "upper", runOut_mm: 30 });
    const [left, right, , high] = extent(upper.guide_mm) as [number, number, number, number];
    expect(left).toBeLessThan(1);
    expect(right).toBeCloseTo(130, 0);
    expect(high).toBeGreaterThan(6);
    const lower = template({ section: { kind: "naca4", code: "0012" }, chord_mm: 100, face: "lower", runOut_mm: 30 });
    expect(extent(lower.guide_mm)[2]).toBeCloseTo(-(high as number), 1);
    expect(upper.guides_mm).toBeUndefined();
  });
});

describe("the verb stations", () => {
  const base = { root: { section: box(80, 20) }, tip: { section: box(40, 10) }, face: "whole", count: 8 };
  interface Reply {
    stations: { label: string; root: number[]; tip: number[]; rootAlong_mm: number; tipAlong_mm: number; time_s?: number; at?: string }[];
    parts: { label: string }[];
    leftOver: unknown[];
    rootLength_mm: number;
    tipLength_mm: number;
    ratio: number;
  }
  const stations = (more: object = {}) => runVerb("stations", { ...base, ...more }) as Reply;
  it("a box and its half: every corner a number on both, the tip's always half as far along, times by the root's feed", () => {
    const result = stations({ feed_mm_s: 5 });
    expect(result.rootLength_mm).toBeCloseTo(2 * result.tipLength_mm, 6);
    expect(result.ratio).toBeCloseTo(0.5, 9);
    for (const { rootAlong_mm, tipAlong_mm, time_s, root, tip } of result.stations) {
      expect(tipAlong_mm).toBeCloseTo(rootAlong_mm / 2, 6);
      expect(time_s).toBeCloseTo(rootAlong_mm / 5, 9);
      expect(tip).toEqual(root.map((each) => expect.closeTo(each / 2, 6)));
    }
    expect(result.stations.map(({ label }) => label)).toEqual(result.stations.map((_, i) => String(i)));
    expect(result.stations).toHaveLength(9);
    expect(result.parts).toHaveLength(8 * 3);
    expect(result.leftOver).toEqual([]);
    expect(result.stations[0]?.at).toBe("start");
    expect(result.stations.at(-1)?.at).toBe("end");
    expect(result.stations.filter(({ at }) => at === "corner").length).toBeGreaterThanOrEqual(2);
    expect(stations().stations[0]).not.toHaveProperty("time_s");
  });
  it("the tip lies where it is: swept, offset and turned nose down about its share of the chord", () => {
    const plain = stations().stations;
    const moved = stations({ sweep_mm: 7, offset_mm: -3 }).stations;
    for (const [i, { tip }] of moved.entries())
      expect(tip).toEqual([expect.closeTo((plain[i]?.tip[0] as number) + 7, 9), expect.closeTo((plain[i]?.tip[1] as number) - 3, 9)]);
    const turned = stations({ washout_deg: 10, washoutAt: 0.5 }).stations;
    for (const [i, { tip }] of turned.entries()) {
      const [px = 0, py = 0] = plain[i]?.tip ?? [];
      expect(Math.hypot((tip[0] as number) - 20, tip[1] as number)).toBeCloseTo(Math.hypot(px - 20, py), 9);
    }
    expect(turned[1]?.tip).not.toEqual(plain[1]?.tip);
  });
  it("refuses what no hand could follow, by field", () => {
    for (const [more, path] of [
      [{ count: 0 }, "count"],
      [{ count: 2.5 }, "count"],
      [{ count: 501 }, "count"],
      [{ parts: 0 }, "parts"],
      [{ washout_deg: 46 }, "washout_deg"],
      [{ washoutAt: 1.1 }, "washoutAt"],
      [{ sweep_mm: 5001 }, "sweep_mm"],
      [{ offset_mm: -5001 }, "offset_mm"],
      [{ pairs: [[0, -1]] }, "pairs.0.1"],
    ] as const)
      expect(refusal("stations", { ...base, ...more })).toBe(path);
    // Fewer numbers than the box has sides.
    expect(refusal("stations", { ...base, count: 1 })).toBe("count");
  });
});
