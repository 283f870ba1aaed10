import { describe, expect, it } from "vitest";
import { teachingCuts } from "../calibration/measured";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { entrySchema } from "../log/entries";
import { cutAtPower } from "../physics/cut/cut";
import { DEMO_PLANS } from "../plans/demoPlans";
import { evaluatePlan } from "../plans/evaluate";
import type { Plan } from "../plans/plan";
import { foretold, guidedFeedMmS, kerfOfThickness, measuredCut } from "./measured";

const bow = DEMO_CUTTERS[0] as Design;
const fin = DEMO_PLANS[0] as Plan;
const evaluation = evaluatePlan(fin, bow);
const look = { face: "matt", rootFeedMmS: evaluation.root.feedMmS, at: "2026-03-01T10:00:00.000Z" } as const;

describe("a part measured", () => {
  it("led at the plan's own feed it comes out as it is wanted; faster it comes out thicker, by what the kerf is narrower", () => {
    for (const { wantedMm, foretoldMm } of foretold(fin, evaluation, evaluation.root.feedMmS)) expect(foretoldMm).toBeCloseTo(wantedMm, 6);
    const feed = evaluation.root.feedMmS * 1.3;
    const [root, middle, tip] = foretold(fin, evaluation, feed);
    const { pair, heatWPerM } = evaluation.cutter as NonNullable<typeof evaluation.cutter>;
    const kerf = (mmS: number) => cutAtPower(pair, mmS / 1000, heatWPerM).kerfM * 1000;
    expect((root?.foretoldMm ?? 0) - (root?.wantedMm ?? 0)).toBeCloseTo(evaluation.root.kerfMm - kerf(feed), 6);
    expect((tip?.foretoldMm ?? 0) - (tip?.wantedMm ?? 0)).toBeCloseTo(evaluation.tip.kerfMm - kerf(evaluation.tip.feedMmS * 1.3), 6);
    expect(middle?.foretoldMm).toBeCloseTo(((root?.foretoldMm ?? 0) + (tip?.foretoldMm ?? 0)) / 2, 9);
    // The root of a 2415 at 320 mm.
    expect(root?.wantedMm).toBeCloseTo(48, 0);
  });
  it("a thickness gives its kerf back, and that is a test cut that teaches", () => {
    const feed = evaluation.root.feedMmS * 1.3;
    const [root] = foretold(fin, evaluation, feed);
    const { pair, heatWPerM } = evaluation.cutter as NonNullable<typeof evaluation.cutter>;
    expect(kerfOfThickness(evaluation.root.kerfMm, root?.wantedMm ?? 0, root?.foretoldMm ?? 0)).toBeCloseTo(
      cutAtPower(pair, feed / 1000, heatWPerM).kerfM * 1000,
      6,
    );
    const cut = measuredCut(fin, evaluation, bow, { root: (root?.wantedMm ?? 0) - 0.4, middle: 34 }, look);
    expect(cut?.kerf_mm).toBeCloseTo(evaluation.root.kerfMm + 0.4, 3);
    expect(entrySchema.parse(cut)).toMatchObject({ kind: "test-cut", feed_mm_s: 6.5, note: expect.stringMatching(/Carp's tail fin: root .*middle 34 mm/) });
    expect(teachingCuts(bow, [cut as NonNullable<typeof cut>])).toHaveLength(1);
  });
  it("the guided feed is stated without its pauses and waits; by the whole where the marks have changed since", () => {
    const stations = { rootLengthMm: 60, stations: [0, 20, 40, 60].map((rootAlongMm, i) => ({ whole: true, rootAlongMm, label: String(i) })) } as never;
    const run = { ...({ at: "", face: "upper", panel: 1, labels: [], planned_s: [] } as const), real_s: [5, 4, 24], pauses_s: 20 } as never;
    expect(guidedFeedMmS(stations, run)).toBe(4);
    expect(guidedFeedMmS(stations, { ...(run as object), real_s: [16, 24], pauses_s: 10 } as never)).toBe(2);
    expect(guidedFeedMmS(stations, { ...(run as object), real_s: [10, 10], pauses_s: 20 } as never)).toBeNull();
  });
  it("a kerf measured directly counts before one computed from thickness; without a measurement nothing is learnt", () => {
    expect(measuredCut(fin, evaluation, bow, { root: 40, kerf: 1.5 }, look)?.kerf_mm).toBe(1.5);
    expect(measuredCut(fin, evaluation, bow, { hook: 4 }, look)).toMatchObject({ lag_mm: 4 });
    expect(measuredCut(fin, evaluation, bow, { middle: 30 }, look)).toBeNull();
  });
});
