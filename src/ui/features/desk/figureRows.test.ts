import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { CUTTER_KINDS } from "@/core/cutters/design/vocabulary";
import { newDesign } from "@/core/cutters/solve/defaults";
import { deferredEvaluationOf } from "@/core/cutters/solve/deferredEvaluation";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { formatQuantity } from "@/core/units/units";
import { figureRows } from "./figureRows";

const rowsOf = (design: Design) => {
  const evaluation = evaluateDesign(design);
  const deferred = { of: design, ...deferredEvaluationOf(design, evaluation) };
  return {
    evaluation,
    rows: figureRows({ design, evaluation, deferred, show: (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals) }),
  };
};
const shownValue = (design: Design, of: string) => rowsOf(design).rows.find((row) => row.of === of)?.value;
const designs = [...DEMO_CUTTERS.map((each) => designSchema.parse(each)), ...CUTTER_KINDS.map((kind) => newDesign(kind, kind))];

describe("the desk's figures", () => {
  it.each(designs.map((design) => [design.name, design] as const))("%s: each once, in words without a fault, with a source", (_name, design) => {
    const { rows } = rowsOf(design);
    expect(new Set(rows.map(({ of }) => of)).size).toBe(rows.length);
    for (const { value, inputs, relation } of rows) {
      expect(`${value} ${inputs}`).not.toMatch(/NaN|undefined|null|Infinity/);
      expect(relation.source.length).toBeGreaterThan(3);
    }
  });

  it("are the evaluation's own", () => {
    const tom = designs[0] as Design;
    const { evaluation, rows } = rowsOf(tom);
    const value = (of: string) => rows.find((row) => row.of === of)?.value;
    expect(value("kerf")).toBe(formatQuantity("kerf", evaluation.cut.kerfM * 1000, "metric"));
    expect(value("top feed")).toBe(formatQuantity("feed", evaluation.cut.maxFeedMPerS * 1000, "metric"));
    expect(value("dwell")).toBe(`${evaluation.dwellS?.toFixed(1)} s`);
  });

  it("without a cut the reason is in place of each of its figures; without leads nothing is claimed of them", () => {
    const tom = designs[0] as Design;
    const cold: Design = { ...tom, supply: { kind: "dc", voltage_V: 0.5, maxCurrent_A: 1 } };
    for (const of of ["kerf", "top feed", "drag", "bow", "dwell"]) expect(shownValue(cold, of)).toBe(shownValue(cold, "kerf"));
    const { leads: _leads, ...bare } = tom;
    expect(shownValue(bare as Design, "lead heat")).toBe("no leads");
  });
});
