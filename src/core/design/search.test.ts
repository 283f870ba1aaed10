import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { solveCircuit } from "../models/circuit";
import { resolveWire } from "../models/wire";
import { DEMO_CUTTERS } from "./demoCutters";
import { evaluateDesign } from "./evaluate";
import type { SearchJob } from "./readyWire";
import { limitsOf } from "./report";
import { searchSetups } from "./search";

const job: SearchJob = { foam: resolveFoam(parseFoamId("xps-35")), widthM: 0.6, feedMPerS: 0.004, acceptedKerfM: 0.0025, bowM: 0.72, ambientC: 20 };
const whole = searchSetups(job);

describe("search", () => {
  it("every set-up it offers, solved again by the circuit, cuts cleanly with a supply that holds", () => {
    for (const candidate of whole.candidates.filter((_, i) => i % 9 === 0)) {
      const wire = resolveWire(candidate.wire);
      // The search gives a bench supply its full volts and the knob's setting apart.
      const supply =
        candidate.supply.kind === "bench" && candidate.control.kind === "direct"
          ? { ...candidate.supply, voltage_V: candidate.setting as number }
          : candidate.supply;
      const answer = solveCircuit({
        wire,
        lengthM: candidate.lengthM,
        supply,
        control: candidate.control,
        ambientC: 20,
        cutting: { pair: { wire, foam: job.foam, ambientC: 20 }, feedMPerS: job.feedMPerS, widthM: job.widthM },
      });
      expect(answer.state).not.toBe("overload");
      expect(answer.cut?.verdict).toBe("clean");
      // A supply without a knob is reckoned twice by the square of its volts, within a per cent of the full solution.
      const slack = candidate.setting === null ? 0.01 : 1e-6;
      expect(Math.abs(answer.currentA / candidate.currentA - 1)).toBeLessThan(slack);
    }
  });

  it("ranks best first with reasons, and rejects with reasons", () => {
    expect(whole.candidates.length).toBeGreaterThan(50);
    whole.candidates.forEach((candidate, i) => {
      expect(candidate.score).toBeLessThanOrEqual(whole.candidates[i - 1]?.score ?? 100);
      expect(candidate.reasons.length).toBeGreaterThan(1);
      for (const margin of Object.values(candidate.margins)) expect(margin).toBeGreaterThanOrEqual(0);
    });
    for (const row of whole.rejected) expect(row.reason.length).toBeGreaterThan(10);
    expect(whole.tried).toBe(210 * 10 * 6);
  });

  it("keeps to what the maker holds", () => {
    const mine = searchSetups(
      job,
      [{ alloy: "ss-304", diameter_mm: 0.4, temper: "spring" }],
      [{ kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 }],
      ["direct", "pwm"],
    );
    expect(mine.candidates.map((candidate) => candidate.control.kind)).toEqual(["pwm"]);
    expect(mine.rejected.map((row) => row.reason)[0]).toMatch(/no knob, and it is too (hot|cold)/);
  });

  it("a hair of a wire is worth less than one that can be handled, and says why in the maker's units", () => {
    const small: SearchJob = { ...job, widthM: 0.2, bowM: 0.25 };
    const best = (gauge_awg: number, units: SearchJob["units"]) =>
      searchSetups({ ...small, units }, [{ alloy: "nicr-80-20", gauge_awg }], [{ kind: "bench", voltage_V: 59, current_A: 10 }], ["direct"]).candidates[0];
    const [hair, usual] = [best(42, "metric"), best(27, "metric")];
    expect(hair?.reasons.join()).toMatch(/breaks easily: it stands \d\.\d N hot/);
    expect(usual?.reasons.join()).not.toMatch(/breaks easily/);
    expect(hair?.score).toBeLessThan((usual?.score ?? 0) - 8);
    expect(best(42, "inch")?.reasons.join()).toMatch(/it stands \d\.\d lbf hot/);
  });

  it("a supply that falls short of the usual heat is turned full up where that still cuts, never past its plate", () => {
    const wire = { alloy: "nicr-80-20", gauge_awg: 26 };
    const asked = searchSetups(job, [wire], [{ kind: "bench", voltage_V: 60, current_A: 10 }], ["direct"]).candidates[0];
    const volts = asked?.setting ?? 0;
    for (const share of [0.98, 0.95, 0.92]) {
      const weak = searchSetups(job, [wire], [{ kind: "dc", voltage_V: share * volts, maxCurrent_A: 20 }], ["pwm"]).candidates[0];
      expect(weak?.setting).toBeGreaterThan(0.97);
      expect(weak?.setting).toBeLessThanOrEqual(1);
      const tight = searchSetups(job, [wire], [{ kind: "bench", voltage_V: 60, current_A: share * (asked?.currentA ?? 0) }], ["direct"]).candidates[0];
      expect(tight?.currentA).toBeLessThanOrEqual(share * (asked?.currentA ?? 0));
      expect(tight?.currentA).toBeGreaterThan(0.97 * share * (asked?.currentA ?? 0));
    }
    // Far too little is refused, and says what is missing.
    const hopeless = searchSetups(job, [wire], [{ kind: "dc", voltage_V: 0.4 * volts, maxCurrent_A: 20 }], ["pwm"]);
    expect(hopeless.candidates).toEqual([]);
    expect(hopeless.rejected[0]).toMatchObject({ code: "too-cold", reason: expect.stringMatching(/falls short: [\d.]+ V needed, [\d.]+ V there/) });
  });

  it("prefers fewer and safer parts where margins tie: a bench supply bare before one with a converter", () => {
    const both = searchSetups(job, [{ alloy: "nicr-80-20", gauge_awg: 26 }], [{ kind: "bench", voltage_V: 30, current_A: 5 }], ["buck", "direct"]);
    expect(both.candidates[0]?.control.kind).toBe("direct");
  });
});

describe("limits", () => {
  it("stand closest first, broken ones with a negative margin", () => {
    for (const design of DEMO_CUTTERS) {
      const rows = limitsOf(design, evaluateDesign(design));
      for (const [i, row] of rows.entries()) expect(row.margin).toBeGreaterThanOrEqual(rows[i - 1]?.margin ?? Number.NEGATIVE_INFINITY);
      const broken = rows.filter((row) => row.margin < 0).map((row) => row.name);
      if (design.name === "Limpet") expect(broken).toContain("supply current");
      if (design.name === "Marionette") expect(broken).toContain("feed ratio");
    }
  });
});
