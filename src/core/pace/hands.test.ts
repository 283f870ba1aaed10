import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import type { Point } from "../geometry/points";
import { cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { evaluatePlan } from "../plans/evaluate";
import { newPlan } from "../plans/plan";
import { cutSheetOf } from "./cutSheet";
import { halfKerfMm } from "./pace";
import type { PaceJob, PaceRow } from "./planPace";
import { type HandsAt, perfectHands, placeAt, scoreOf } from "./practice";
import { whatIfs } from "./whatIf";

const bow = designSchema.parse(DEMO_CUTTERS[0]) as Design;
const plan = () =>
  newPlan(
    "A box",
    {
      root: { shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 }, chord_mm: 120 },
      tip: { shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 }, chord_mm: 80 },
      part: { span_mm: 900 },
    },
    null,
  );
const pairOf = () => {
  const { cutter } = evaluatePlan(plan(), bow);
  if (!cutter) throw new Error("no cutter");
  return cutter.pair;
};
/** A straight face of six numbers, twenty millimetres apart at the root and ten at the tip, under the long bow's wire. */
const job = (more: Partial<PaceJob> = {}): PaceJob => {
  const pair = pairOf();
  const line = (step: number): Point[] => Array.from({ length: 7 }, (_, i) => [i * step, 0]);
  return {
    stations: { rootLengthMm: 120, tipLengthMm: 60 } as never,
    root: line(20),
    tip: line(10),
    at: [0, 1, 2, 3, 4, 5, 6],
    wire: {
      lengthM: 1.3,
      tensionN: 65,
      foamFromM: 0.1,
      foamToM: 1.2,
      referenceDragNPerM: referenceDragNPerM(pair),
      maxFeedMmS: cutAtPower(pair, 0.004, 44).maxFeedMPerS * 1000,
    },
    powerWPerM: 44,
    toleranceMm: 0.5,
    hold: "line",
    corner: "best",
    kerfFeeds: { min: 1, max: 9 },
    allowedHalfMm: halfKerfMm(pair, 44, 5),
    share: false,
    ...more,
  };
};
/** Both hands from number to number in so many seconds each. */
const evenly = (seconds: number, waitS = 0) => perfectHands(Array.from({ length: 6 }, () => ({ seconds, waitS })));
const score = (samples: readonly HandsAt[], more: Partial<PaceJob> = {}) => scoreOf(job(more), pairOf(), samples);

describe("hands that keep a pace", () => {
  it("are at every number when it is called, and wait there as long as the cue asks", () => {
    expect(
      perfectHands([
        { seconds: 4, waitS: 0 },
        { seconds: 3, waitS: 2 },
      ]),
    ).toEqual([
      { atS: 0, root: 0, tip: 0 },
      { atS: 4, root: 1, tip: 1 },
      { atS: 7, root: 2, tip: 2 },
      { atS: 9, root: 2, tip: 2 },
    ]);
  });
  it("a place between two numbers is so far along the line between them, round its corners, and not beyond its ends", () => {
    const line: Point[] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [30, 10],
    ];
    // One number at the start, one at the end of the second side, one at the last.
    const at = [0, 2, 3];
    expect(placeAt(line, at, 0)).toEqual([0, 0]);
    expect(placeAt(line, at, 0.25)).toEqual([5, 0]);
    expect(placeAt(line, at, 0.5)).toEqual([10, 0]);
    expect(placeAt(line, at, 0.75)).toEqual([10, 5]);
    expect(placeAt(line, at, 1)).toEqual([10, 10]);
    expect(placeAt(line, at, 1.5)).toEqual([20, 10]);
    expect(placeAt(line, at, 2)).toEqual([30, 10]);
    expect(placeAt(line, at, 7)).toEqual([30, 10]);
    expect(placeAt(line, at, -1)).toEqual([0, 0]);
  });
});

describe("what hands cut", () => {
  it("straight and evenly at the pace the templates allow for: held, with nothing to say against it", () => {
    const held = score(evenly(4));
    expect(held.seconds).toBe(24);
    expect(held.middleMm).toBeLessThan(1e-3);
    expect([held.aheadNumbers, held.ahead]).toEqual([0, null]);
    expect(held.stopS).toBeLessThan(0.2);
    expect(held.stopMm).toBe(0);
    // Five millimetres a second is what they allow for.
    expect(held.thinnerMm).toBeCloseTo(0, 6);
    expect(held).toMatchObject({ held: true, words: "Held: everything within 0.50 mm." });
  });
  it("slower melts a wider kerf, faster a narrower: by half of what it is wider, to the tolerance", () => {
    const pair = pairOf();
    const slow = score(evenly(8));
    expect(slow.thinnerMm).toBeCloseTo(halfKerfMm(pair, 44, 2.5) - halfKerfMm(pair, 44, 5), 9);
    expect(slow.held).toBe(false);
    expect(slow.words).toBe(`Too slow: the face comes out ${slow.thinnerMm.toFixed(2)} mm too thin, for a slow wire melts a wider kerf.`);
    const fast = score(evenly(2.4), { toleranceMm: 0.2 });
    expect(fast.thinnerMm).toBeLessThan(-0.2);
    expect(fast.words).toBe(`Too fast: the face comes out ${(-fast.thinnerMm).toFixed(2)} mm too thick.`);
    // Within a wider tolerance the same hands hold it.
    expect(score(evenly(2.4), { toleranceMm: 1 }).held).toBe(true);
  });
  it("both hands standing burns a groove, one alone does not; the longest stop counts", () => {
    const stops = (root: number, tip: number): HandsAt[] => [
      { atS: 0, root: 0, tip: 0 },
      { atS: 12, root: 3, tip: 3 },
      { atS: 15, root, tip },
      { atS: 27, root: 6, tip: 6 },
    ];
    const both = score(stops(3, 3));
    expect(both.stopS).toBeGreaterThan(2.8);
    expect(both.stopS).toBeLessThan(3.2);
    expect(both.stopMm).toBeGreaterThan(0.5);
    expect(both.words).toBe(`Both hands stopped for ${both.stopS.toFixed(1)} s: a groove ${both.stopMm.toFixed(1)} mm deep. Plan where to rest: in the waste.`);
    const one = score(stops(3, 3.75));
    expect(one.stopS).toBeLessThan(0.5);
    expect(one.stopMm).toBe(0);
    const short = score([
      { atS: 0, root: 0, tip: 0 },
      { atS: 12, root: 3, tip: 3 },
      { atS: 12.4, root: 3, tip: 3 },
      { atS: 24, root: 6, tip: 6 },
    ]);
    expect(short.stopMm).toBe(0);
    expect(short.stopS).toBeGreaterThan(0.3);
  });
  it("a hand that runs ahead is named with by how much, and takes the middle off a line that bends", () => {
    const bent: Partial<PaceJob> = {
      root: [0, 1, 2, 3, 3, 3, 3].map((x, i): Point => [x * 20, Math.max(0, i - 3) * 20]),
      tip: [0, 1, 2, 3, 3, 3, 3].map((x, i): Point => [x * 20, Math.max(0, i - 3) * 20]),
    };
    const runs = (root: number, tip: number): HandsAt[] => [
      { atS: 0, root: 0, tip: 0 },
      { atS: 12, root, tip },
      { atS: 24, root: 6, tip: 6 },
    ];
    const tip = score(runs(3, 4.5), bent);
    expect(tip.ahead).toBe("tip");
    expect(tip.aheadNumbers).toBeCloseTo(1.5, 1);
    expect(tip.middleMm).toBeGreaterThan(1);
    expect(tip.words).toMatch(/^The tip ran 1\.5 numbers ahead: the middle is off by \d+\.\d\d mm\. Call the numbers aloud\.$/);
    expect(score(runs(4.2, 3), bent)).toMatchObject({ ahead: "root", aheadNumbers: expect.closeTo(1.2, 1) });
    // Together round the bend the middle comes late.
    const late = score(runs(3, 3), bent);
    expect(late.words).toMatch(/^The middle is off by \d\.\d\d mm: it came late round a bend\./);
  });
});

describe("what might be done, and what might go wrong", () => {
  it("tighter, cooler, slower and narrower all better a corner cut short; slips cost; a stop bites", () => {
    const path: Point[] = [
      [0, 0],
      [40, 0],
      [40, 40],
    ];
    const { wire } = job();
    const { cures, mishaps } = whatIfs({ wire, powerWPerM: 44 }, pairOf(), { path, tipPath: path, timesS: [0, 8, 16] });
    const of = (code: string) => {
      const found = [...cures, ...mishaps].find((each) => each.code === code);
      if (!found) throw new Error(`no ${code}`);
      return found;
    };
    const now = of("stop").errorMm;
    expect(now).toBeGreaterThan(0.5);
    for (const code of ["tighter", "slower", "narrower"]) expect(of(code).errorMm, code).toBeLessThan(now);
    // Less heat is a lower top feed: the wire trails more.
    expect(of("cooler").errorMm).toBeGreaterThan(of("hotter").errorMm);
    expect(of("narrower").errorMm).toBeLessThan(of("tighter").errorMm);
    for (const code of ["ahead", "slip"]) expect(of(code).errorMm, code).toBeGreaterThan(0.5);
    expect(of("stop").biteMm).toBeGreaterThan(1);
    expect(of("stop").biteMm).toBeLessThan(3);
    expect(cures.map(({ code }) => code)).toEqual(["tighter", "cooler", "hotter", "slower", "narrower"]);
    expect(mishaps.map(({ code }) => code)).toEqual(["ahead", "slip", "stop"]);
  });
});

describe("the cut sheet", () => {
  const rows: PaceRow[] = [
    { from: "0", to: "1", rootFeedMmS: 5, tipFeedMmS: 3.3, seconds: 4.04, waitS: 0, limit: "kerf" as never, corner: false },
    { from: "1", to: "2", rootFeedMmS: 5.5, tipFeedMmS: 3.6, seconds: 3, waitS: 1.26, limit: "kerf" as never, corner: true },
  ];
  const pace = { totalS: 8.3, errorMm: 0.31, faceErrorMm: 0.42, corner: "wait", end: { leftMm: 0, waitS: 0, runOutMm: 0 } } as never;
  const sheet = (
    more: object = {},
    face: "upper" | "lower" | "whole" = "whole",
    units: "metric" | "inch" = "metric",
    warmUpS: number | null = 6.2,
    cutter: Design | null = bow,
  ) => {
    const base = plan();
    const given = { ...base, ...more } as typeof base;
    return cutSheetOf(given, evaluatePlan(given, cutter), face, { pace, rows }, warmUpS, units);
  };
  it("every number with its seconds, both feeds and its wait; the whole in seconds, to a tenth of a millimetre", () => {
    const { rows: result, total, title, face } = sheet();
    expect(result).toEqual([
      { to: "1", seconds: "4.0", root: "5.0 mm/s", tip: "3.3 mm/s", wait: "" },
      { to: "2", seconds: "3.0", root: "5.5 mm/s", tip: "3.6 mm/s", wait: "1.3 s" },
    ]);
    expect(total).toBe("8 s in all. The face deviates by 0.42 mm at most, the line by 0.31 mm (estimates).");
    expect([title, face]).toEqual(["A box", "all round"]);
    expect([sheet({}, "upper").face, sheet({}, "lower").face]).toEqual(["upper face", "lower face"]);
  });
  it("the set-up at the bow as the desk has it, or none without a cutter; how long to let it warm", () => {
    const of = (what: string, from = sheet()) => from.setUp.find(([name]) => name === what)?.[1];
    expect(of("cutter")).toBe("Long Tom");
    expect(of("wire")).toBe("0.640 mm, 1300 mm live");
    expect(of("knob")).toBe("14.4 V");
    expect(of("at the wire")).toMatch(/^\d+\.\d V, \d\.\d\d A, \d+ W\/m|^\d+\.\d V, \d\.\d\d A, /);
    expect(of("tension")).toBe("65 N hot");
    expect(of("warm-up")).toBe("wait 7 s, then try it on a scrap");
    expect(of("warm-up", sheet({}, "whole", "metric", 0.3))).toBe("wait 1 s, then try it on a scrap");
    expect(of("warm-up", sheet({}, "whole", "metric", null))).toMatch(/smokes no more/);
    expect(of("templates stand")).toMatch(/^\d\.\d\d mm and \d\.\d\d mm outside$/);
    const bare = sheet({}, "whole", "metric", 6, null);
    expect(of("cutter", bare)).toBeUndefined();
    expect(of("templates stand", bare)).toBeDefined();
    const skinned = plan();
    expect(of("templates stand", sheet({ part: { ...skinned.part, skin_mm: 3 } }))).toMatch(/ inside$/);
  });
  it("the block: how it lies, what is trimmed off it, which order; what to measure afterwards", () => {
    const base = plan();
    const result = sheet();
    expect(result.block[0]).toMatch(/^900 mm × \d+ mm × \d+ mm$/);
    expect(sheet({ blank: { ...base.blank, trim_mm: 6 } }).block[0]).toMatch(/, 6 mm trimmed off both faces first$/);
    expect(result.block[1]).toMatch(/^(Lower|Upper) side down; part from \d+ mm behind the block's front edge\.$/);
    expect(result.block[2]).toMatch(/^One pass round the nose/);
    expect(sheet({ template: { ...base.template, faces: "flip" } }, "upper").block[2]).toMatch(/^One face, then the block turned over/);
    expect(sheet({ pace: { ...base.pace, order: "lower first" } }, "upper").block[2]).toMatch(/^Lower face first/);
    expect(result.block[3]).toMatch(/The wire passes \d+ mm above the bench\.$/);
    // A box of 120 by 48, and of 80 by 32.
    expect(result.afterwards[0]).toBe("Calliper at the thickest: root 48 mm, tip 32 mm, half way 40 mm.");
    expect(sheet({ tip: null }).afterwards[0]).toBe("Calliper at the thickest: root 48 mm, tip 48 mm.");
    expect(result.cautions.length).toBeGreaterThanOrEqual(2);
  });
  it("both templates numbered, one under the other, to one scale, within the page", () => {
    const { templates } = sheet();
    expect(templates.width).toBe(180);
    expect(templates.height).toBeLessThan(70);
    const labels = templates.shapes.flatMap((shape) => (shape.kind === "text" ? [shape] : []));
    expect(labels.filter(({ bold }) => bold).map(({ text }) => text)).toEqual(["root", "tip"]);
    const [root, tip] = labels.filter(({ bold }) => bold).map(({ y }) => y) as [number, number];
    expect(tip).toBeGreaterThan(root);
    const paths = templates.shapes.flatMap((shape) => (shape.kind === "path" && shape.width === 0.9 ? [shape.d] : []));
    expect(paths).toHaveLength(2);
    const wide = paths.map((d) => {
      const xs = [...d.matchAll(/[ML](-?[\d.]+) /g)].map(([, x]) => Number(x));
      expect(Math.min(...xs)).toBeCloseTo(18, 1);
      expect(Math.max(...xs)).toBeLessThanOrEqual(180);
      return Math.max(...xs) - Math.min(...xs);
    }) as [number, number];
    // 120 and 80 millimetres of part, each with the same allowance and run-out about it.
    expect(wide[0] / wide[1]).toBeGreaterThan(1.2);
    expect(wide[0] / wide[1]).toBeLessThan(1.5);
    expect(labels.filter(({ mono }) => mono).length).toBeGreaterThan(6);
  });
});
