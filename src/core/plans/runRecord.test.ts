import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { entrySchema } from "../log/entries";
import { DEMO_PLANS } from "./demoPlans";
import { evaluatePlan } from "./evaluate";
import { planSchema } from "./plan";
import { type FinishedRun, MOST_RUNS, planRunEntry, withMade, withRun } from "./runRecord";

const AT = "2026-12-02T10:00:00.000Z";
const plan = planSchema.parse(DEMO_PLANS[0]);
const evaluation = evaluatePlan(plan, designSchema.parse(DEMO_CUTTERS[0]));
const alone = evaluatePlan(plan, null);
const RUN: FinishedRun = { face: "upper", labels: ["1", "2"], plannedS: [10, 20], realS: [11.26, 19.04], pausesS: 1.04 };

describe("a finished run", () => {
  it("is stored first, to a tenth of a second, and the oldest leaves", () => {
    let stored = plan;
    for (let n = 0; n <= MOST_RUNS; n++) stored = withRun(stored, { ...RUN, realS: [n] }, 1, AT);
    expect(stored.runs).toHaveLength(MOST_RUNS);
    expect([stored.runs[0]?.real_s, stored.runs.at(-1)?.real_s, stored.runs[0]?.panel]).toEqual([[MOST_RUNS], [1], 2]);
    const [run] = withRun(plan, { ...RUN, ends: { root: [1.06, null], tip: [-0.2, 3] } }, 0, AT).runs;
    expect(run).toMatchObject({ real_s: [11.3, 19], pauses_s: 1, panel: 1, ends_s: { root: [1.1, null], tip: [0, 3] } });
    expect(planSchema.safeParse(withRun(plan, RUN, 0, AT)).success).toBe(true);
  });

  it("is an entry of the cutter's log: its feed, its width, its time in minutes; none without a cutter", () => {
    const entry = planRunEntry(plan, evaluation, RUN, 450, AT);
    expect(entrySchema.safeParse(entry).success).toBe(true);
    expect(entry).toMatchObject({ kind: "run", at: AT, width_mm: 450, feed_mm_s: evaluation.root.feedMmS, hot_min: 0.5 });
    expect(entry).toMatchObject({ note: expect.stringMatching(/upper face: 30 s, planned 30 s$/) });
    expect(planRunEntry(plan, evaluation, { ...RUN, realS: [0.5] }, 450, AT)).toMatchObject({ hot_min: 0.1 });
    expect(planRunEntry(plan, alone, RUN, 450, AT)).toBeNull();
  });
});

it("what a plan's templates were made for is stored with the cutter's figures, and not without one", () => {
  expect(withMade(plan, evaluation, AT).made).toMatchObject({
    at: AT,
    rootKerf_mm: evaluation.root.kerfMm,
    tipKerf_mm: evaluation.tip.kerfMm,
    rootFeed_mm_s: evaluation.root.feedMmS,
  });
  expect(withMade(plan, alone, AT)).toBe(plan);
});
