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
      // A supply without a knob is set by the square of its volts, a few per cent from the full solution.
      const slack = candidate.setting === null ? 0.05 : 1e-6;
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
