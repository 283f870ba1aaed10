import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { evaluateDesign, knobOf } from "../cutters/solve/evaluate";
import type { CutFace, Diagnosis, TestCut } from "../log/entries";
import { waitReach } from "../physics/string/reach";
import { diagnose, type Remedy } from "./diagnosis";
import { DIAGNOSIS_VERBS } from "./verbs";

const tom = designSchema.parse(DEMO_CUTTERS.find(({ name }) => name === "Long Tom"));
const own = evaluateDesign(tom);
const { from, to } = own.heats;
/** A test cut of the long bow as it is, 44 W/m at 6.5 mm/s: clean by the models, regardless of what its face says. */
const cut = (face: CutFace, more: Partial<TestCut> = {}): TestCut => {
  const { length_mm, ...wire } = tom.wire;
  return {
    kind: "test-cut",
    at: "2026-11-20T10:00:00.000Z",
    foam: tom.job.foam,
    width_mm: tom.job.width_mm,
    wire,
    wire_length_mm: length_mm,
    supply: tom.supply,
    control: tom.control,
    leads: tom.leads,
    setting: "14.4 V",
    feed_mm_s: tom.job.feed_mm_s,
    face,
    note: "",
    ...more,
  } as TestCut;
};
const remedies = (of: TestCut, past: readonly Diagnosis[] = [], design = tom) => diagnose(design, of, past, "metric").remedies;
const remedy = (of: TestCut, cause: string, design = tom): Remedy => {
  const found = remedies(of, [], design).find((each) => each.cause === cause);
  if (!found) throw new Error(`no ${cause}`);
  return found;
};
const heatOf = ({ design }: Remedy) => evaluateDesign(design as Design).cut.powerWPerM;
const feedOf = ({ design }: Remedy) => design?.job.feed_mm_s;
/** A cut with the knob elsewhere. */
const volts = (voltage_V: number, face: CutFace, more: Partial<TestCut> = {}) =>
  cut(face, { supply: { kind: "bench", voltage_V, current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 }, ...more });

describe("what a face says of a cut that the models thought clean", () => {
  it("glossy: a little less heat, never below the clean band's own edge and a twentieth; a quarter faster after that", () => {
    const less = remedy(cut("glossy"), "too hot");
    expect(less.reading).toMatch(/44 W\/m was thought clean here: this foam wants less/);
    expect(less.change).toMatch(/^turn down: 14\.4 V to 13\.\d V$/);
    expect(heatOf(less) / own.cut.powerWPerM).toBeCloseTo(0.85, 1);
    const slower = remedy(cut("glossy"), "too slow");
    expect(slower.reading).toMatch(/was thought clean here/);
    expect(feedOf(slower)).toBeCloseTo(6.5 * 1.25, 1);
    expect(slower.change).toBe("faster: 8.1 mm/s in place of 6.5 mm/s");
    // So near the edge that a seventh less would drag.
    const near = volts(12.6, "glossy");
    expect(heatOf(remedy(near, "too hot"))).toBeGreaterThan(from * 1.03);
    expect(heatOf(remedy(near, "too hot"))).toBeLessThan(from * 1.08);
  });
  it("ridged: a quarter slower first, then a little more heat, never over the clean band's far edge", () => {
    const slower = remedy(cut("ridged"), "too fast");
    expect(feedOf(slower)).toBeCloseTo(6.5 * 0.75, 1);
    expect(slower.change).toBe("slower: 4.9 mm/s in place of 6.5 mm/s");
    const more = remedy(cut("ridged"), "too cold");
    expect(more.reading).toMatch(/was thought clean here: this foam wants more/);
    expect(more.change).toMatch(/^turn up: 14\.4 V to 15\.\d V$/);
    expect(heatOf(more) / own.cut.powerWPerM).toBeCloseTo(1.15, 1);
    const near = volts(19, "ridged");
    expect(heatOf(remedy(near, "too cold"))).toBeLessThan(to);
    expect(heatOf(remedy(near, "too cold"))).toBeGreaterThan(to * 0.9);
  });
  it("grooved, burnt at its end, thin in the middle: the hand and the pull first, the heat a little", () => {
    for (const face of ["grooved", "burnt-end"] as const) {
      expect(remedies(cut(face))[0]?.design).toBeNull();
      expect(heatOf(remedy(cut(face), "too hot")) / own.cut.powerWPerM).toBeCloseTo(0.85, 1);
      expect(heatOf(remedy(volts(12.6, face), "too hot"))).toBeGreaterThan(from * 1.03);
    }
    const middle = cut("thin-middle");
    expect(feedOf(remedy(middle, "too fast"))).toBeCloseTo(6.5 * 0.75, 1);
    expect(heatOf(remedy(middle, "too cold")) / own.cut.powerWPerM).toBeCloseTo(1.15, 1);
    expect(remedy(middle, "too cold").reading).toBe(`the middle runs at ${Math.round(100 * own.cut.feedRatio)} % of its top feed`);
    expect(heatOf(remedy(volts(19, "thin-middle"), "too cold"))).toBeLessThan(to);
  });
  it("hooked: half as much pull again, then slower, then an ear, and last a wait with what it burns; the lag as it was measured where it was", () => {
    const hooked = cut("hooked");
    expect(remedies(hooked).map(({ cause }) => cause)).toEqual(["slack", "too fast", "no ear", "no wait"]);
    const waitS = Math.max(1, own.dwellS as number);
    const burns = waitReach(own.pair, own.cut.powerWPerM, 6.5, waitS).cornerMm - waitReach(own.pair, own.cut.powerWPerM, 6.5, 0).cornerMm;
    expect(burns).toBeGreaterThan(0.5);
    expect(remedy(hooked, "no wait").change).toContain(`stop ${waitS.toFixed(1)} s`);
    expect(remedy(hooked, "no wait").change).toContain(`burns ${burns.toFixed(2)} mm`);
    expect(remedy(hooked, "no ear").change).toMatch(/^run 6 mm past the corner/);
    // A light pull's lag needs next to no time, yet a hand cannot stop for less than a second.
    expect(remedy(cut("hooked", { feed_mm_s: 3.5 }), "no wait").change).toMatch(/stop 1\.0 s/);
    const tight = remedy(hooked, "slack");
    expect(tight.design?.tension.hot_N).toBe(98);
    expect(tight.design?.tension.device).toBe(tom.tension.device);
    expect(tight.change).toMatch(/^pull harder: 98 N in place of 65 N/);
    expect(feedOf(remedy(hooked, "too fast"))).toBeCloseTo(6.5 * 0.75, 1);
    expect(tight.reading).toBe("the middle trails by 3.98 mm");
    expect(remedy(cut("hooked", { lag_mm: 7.3 }), "slack").reading).toBe("the middle trails by 7.30 mm");
    // Above its top feed nobody can say how far it trails.
    const lost = cut("hooked", { feed_mm_s: 30 });
    expect(remedies(lost)[0]?.reading).toBe("the wire trails more than can be computed");
    expect(remedy(lost, "no wait").change).toBe("stop at the corner until the middle has caught up");
    expect(remedy(cut("hooked", { feed_mm_s: 30, lag_mm: 22 }), "slack").reading).toBe("the middle trails by 22.00 mm");
  });
});

describe("what the figures say of a cut that was not clean", () => {
  it("too hot: down to a third of the clean band; the heat before the feed", () => {
    const hot = volts(24, "glossy");
    const now = evaluateDesign({ ...tom, supply: hot.supply as Design["supply"] }).cut.powerWPerM;
    expect(now).toBeGreaterThan(to);
    const down = remedy(hot, "too hot");
    expect(down.reading).toBe(`${now.toFixed(0)} W/m is above the clean ${to.toFixed(0)} W/m at this feed`);
    expect(heatOf(down) / (from + 0.35 * (to - from))).toBeCloseTo(1, 1);
    expect(remedies(hot).map(({ cause }) => cause)).toEqual(["too hot", "too slow"]);
  });
  it("too slow: to the middle of the clean feeds at that heat, and before the heat where that was thought right", () => {
    const slow = cut("glossy", { feed_mm_s: 2 });
    const { feeds } = evaluateDesign({ ...tom, job: { ...tom.job, feed_mm_s: 2 } });
    const faster = remedy(slow, "too slow");
    expect(feedOf(faster)).toBeCloseTo(500 * (feeds.from + feeds.to), 1);
    expect(faster.reading).toMatch(/^2\.0 mm\/s is below the clean 3\.\d mm\/s at this heat$/);
    expect(faster.change).toMatch(/^faster: 6\.\d mm\/s in place of 2\.0 mm\/s$/);
    // It was asked for more heat than the edge at a feed so slow: both are against it, heat first.
    expect(remedies(slow)[0]?.reading).toMatch(/above the clean/);
  });
  it("too cold: up to a third of the clean band; too fast: to the middle of the clean feeds", () => {
    const cold = volts(10, "ridged");
    const up = remedy(cold, "too cold");
    expect(up.reading).toMatch(/is below the clean 32 W\/m at this feed/);
    expect(heatOf(up) / (from + 0.35 * (to - from))).toBeCloseTo(1, 1);
    expect(remedies(cold)[0]?.cause).toBe("too cold");
    const fast = remedy(cut("ridged", { feed_mm_s: 14 }), "too fast");
    expect(fast.reading).toMatch(/^14\.0 mm\/s is above the clean 9\.\d mm\/s at this heat$/);
    expect(fast.change).toMatch(/^slower: 6\.\d mm\/s in place of 14\.0 mm\/s$/);
  });
  it("the heat that was written down counts where no current was read; a current read counts before it", () => {
    // As computed then, before the cutter was taught otherwise.
    expect(remedy(cut("glossy", { heat_W_per_m: 90 }), "too hot").reading).toMatch(/^90 W\/m is above the clean/);
    expect(remedy(cut("glossy", { heat_W_per_m: 90, current_A: 8 }), "too hot").reading).toMatch(/was thought clean here/);
    expect(remedy(cut("glossy"), "too hot").reading).toMatch(/^44 W\/m was thought clean here/);
  });
  it("with another knob than the one it was cut with, or none, the heat itself is named", () => {
    const chopped = designSchema.parse({ ...tom, supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 10 }, control: { kind: "pwm", duty: 0.5 } });
    const named = remedy(cut("glossy"), "too hot", chopped);
    expect(named.design).toBeNull();
    expect(named.change).toMatch(/^bring 37 W\/m to the cut in place of 44 W\/m$/);
    const straight = designSchema.parse({ ...tom, supply: { kind: "dc", voltage_V: 14.4, maxCurrent_A: 10 }, control: { kind: "direct" } });
    const none = remedy(cut("glossy", { supply: straight.supply, control: straight.control }), "too hot", straight);
    expect(none.design).toBeNull();
    expect(none.change).toMatch(/^bring 3\d W\/m to the cut/);
    // And the knob of a cut that had one does not turn a cutter that has none.
    expect(remedy(cut("glossy"), "too hot", straight).design).toBeNull();
  });
  it("no feed and no pull beyond what the app takes", () => {
    expect(remedy(cut("hooked"), "slack", { ...tom, tension: { ...tom.tension, hot_N: 1900 } } as Design).design?.tension.hot_N).toBe(2000);
    const crawl = remedy(cut("hooked", { feed_mm_s: 0.05 }), "too fast");
    expect(feedOf(crawl)).toBeGreaterThan(0);
    expect(knobOf(tom)?.kind).toBe("voltage");
  });
});

describe("what was tried before", () => {
  const tried = (cause: string, outcome: Diagnosis["outcome"], at = "2026-11-20T10:00:00.000Z", fault: CutFace = "hooked"): Diagnosis => ({
    kind: "diagnosis",
    at,
    fault,
    cause,
    change: "x",
    outcome,
    note: "",
  });
  const order = (...past: Diagnosis[]) => remedies(cut("hooked"), past).map(({ cause, before }) => [cause, before]);
  it("the newest outcome of a cause counts; what was never tried says nothing", () => {
    const [early, late] = ["2026-11-01T10:00:00.000Z", "2026-11-19T10:00:00.000Z"];
    expect(order(tried("slack", "helped", late), tried("slack", "no help", early))[0]).toEqual(["slack", "helped"]);
    expect(order(tried("slack", "helped", early), tried("slack", "no help", late)).at(-1)).toEqual(["slack", "no help"]);
    expect(order(tried("slack", "untried", late), tried("slack", "helped", early))[0]).toEqual(["slack", "helped"]);
    expect(order(tried("slack", "untried"))).toEqual(order());
  });
  it("another fault's outcome, and another cause's, are not its own", () => {
    expect(order(tried("slack", "helped", undefined, "thin-middle"))).toEqual(order());
    expect(order(tried("too fast", "no help"))).toEqual([
      ["slack", null],
      ["no ear", null],
      ["no wait", null],
      ["too fast", "no help"],
    ]);
    // Two that did not help keep their own order, after the one not tried.
    expect(order(tried("no wait", "no help"), tried("slack", "no help")).map(([cause]) => cause)).toEqual(["too fast", "no ear", "slack", "no wait"]);
  });
});

describe("the verb diagnose", () => {
  const { runVerb, refusal } = headlessOf(DIAGNOSIS_VERBS);
  it("takes the newest test cut in any order of the log, and its diagnoses alone", () => {
    const [older, newer] = [cut("twisted", { at: "2026-11-01T10:00:00.000Z" }), cut("hooked", { at: "2026-11-19T10:00:00.000Z" })];
    const past = { kind: "diagnosis", at: "2026-11-18T10:00:00.000Z", fault: "hooked", cause: "slack", change: "x", outcome: "helped", note: "" };
    for (const entries of [
      [older, newer, past],
      [past, newer, older],
    ]) {
      const result = runVerb("diagnose", { design: tom, entries }) as { fault: CutFace; remedies: { cause: string; before: string | null }[] };
      expect(result.fault).toBe("hooked");
      expect(result.remedies[0]).toMatchObject({ cause: "slack", before: "helped" });
    }
    expect(refusal("diagnose", { design: tom, entries: [past] })).toBe("entries");
  });
});
