import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { exportDesign, importDesign } from "@/core/cutters/design/fileFormat";
import { mergeDesigns, sameDesign } from "@/core/cutters/design/merge";
import { CAUTION_RULES } from "@/core/cutters/solve/cautions";
import { compareDesigns } from "@/core/cutters/solve/compare";
import { findCures } from "@/core/cutters/solve/cures";
import { describeCure } from "@/core/cutters/solve/cureWords";
import { bandsOf, batteryRunOf, heatCourseOf } from "@/core/cutters/solve/cutBands";
import { describeVerdict } from "@/core/cutters/solve/describe";
import { evaluateDesign, verdictOf } from "@/core/cutters/solve/evaluate";
import { knobCurve } from "@/core/cutters/solve/knobCurve";
import { blocksOf } from "@/core/cutters/solve/readiness";
import { limitsOf } from "@/core/cutters/solve/report";
import { tensionDeskOf } from "@/core/cutters/solve/tensionDesk";
import { drawingToSvg } from "@/core/kernel/drawing";
import { buildSheet } from "@/core/sheets/buildSheet";
import { netlistOf } from "@/core/sheets/netlist";
import { schematicOf } from "@/core/sheets/schematic";
import { anyDesign } from "../../../tests/helpers/anyDesign";
import { runs } from "../../../tests/helpers/runs";

const NO_HOLE = /undefined|NaN|\[object|Infinity/;

describe("any valid design on the desk", () => {
  it("is solved, judged and put in words without a hole, in both systems of units", () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const evaluation = evaluateDesign(design);
        expect(evaluation.verdict).toBe(verdictOf(design));
        for (const units of ["metric", "inch"] as const) {
          const { headline, detail } = describeVerdict(design, evaluation, units);
          expect(`${headline} ${detail}`).not.toMatch(NO_HOLE);
          expect(headline.length).toBeGreaterThan(4);
          for (const caution of evaluation.cautions) expect(caution.words(units)).not.toMatch(NO_HOLE);
          const desk = tensionDeskOf(design, evaluation, units);
          for (const number of [...desk.setCold, ...desk.setHot]) expect(number.words).not.toMatch(NO_HOLE);
        }
        // Dangers come before cautions, and every one is a row of the table.
        const order = { danger: 0, caution: 1, note: 2 };
        const ranks = evaluation.cautions.map((caution) => order[caution.severity]);
        expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
        const known = new Set(CAUTION_RULES.map((rule) => rule.code));
        for (const caution of evaluation.cautions) expect(known.has(caution.code)).toBe(true);
      }),
      { numRuns: runs(400), endOnFailure: true },
    );
  }, 60_000);

  it("its late figures are finite and in order: bands hold their middle, the clean stretch lies on the knob, a battery runs no longer than its charge", () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const evaluation = evaluateDesign(design);
        const bands = bandsOf(design, evaluation);
        for (const band of [bands.kerfM, bands.maxFeedMPerS, bands.wireC, bands.cleanFromMPerS, bands.cleanToMPerS]) {
          expect(band.low).toBeLessThanOrEqual(band.mid);
          expect(band.high).toBeGreaterThanOrEqual(band.mid);
        }
        expect(bands.cleanShare).toBeGreaterThanOrEqual(0);
        expect(bands.cleanShare).toBeLessThanOrEqual(1);
        const curve = knobCurve(design);
        if (curve) {
          for (const point of curve.points) expect(Number.isFinite(point.heatWPerM)).toBe(true);
          if (curve.clean) {
            expect(curve.clean.from).toBeGreaterThanOrEqual(curve.knob.min - 1e-9);
            expect(curve.clean.to).toBeLessThanOrEqual(curve.knob.max + 1e-9);
          }
        }
        const course = heatCourseOf(design, evaluation);
        if (course.along) for (const c of course.along.temperatureC) expect(Number.isFinite(c)).toBe(true);
        const run = batteryRunOf(design);
        expect(run === null).toBe(design.supply.kind !== "battery");
        if (run) expect(run.fade).toBeLessThanOrEqual(1 + 1e-9);
        for (const limit of limitsOf(design, evaluation)) expect(JSON.stringify(limit)).not.toMatch(/null,"margin":null/);
      }),
      { numRuns: runs(120), endOnFailure: true },
    );
  }, 60_000);

  it("every cure it is offered is what it says, and says it without a hole", () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const verdict = verdictOf(design);
        const cures = findCures(design);
        if (verdict === "clean") expect(cures).toEqual([]);
        for (const cure of cures) {
          expect(verdictOf(cure.design)).toBe(cure.leaves);
          expect(cure.to).not.toBe(cure.from);
          for (const units of ["metric", "inch"] as const) expect(describeCure(cure, units)).not.toMatch(NO_HOLE);
        }
      }),
      { numRuns: runs(120), endOnFailure: true },
    );
  }, 60_000);

  it("can be drawn, netted, printed, filed and compared: well-formed, within its page, and back the same", () => {
    fc.assert(
      fc.property(anyDesign, anyDesign, (design, other) => {
        const evaluation = evaluateDesign(design);
        const { drawing } = schematicOf(design, evaluation, "metric");
        const svg = drawingToSvg(drawing);
        expect(svg).not.toMatch(NO_HOLE);
        expect(svg.match(/<(text|path)/g)?.length).toBe(drawing.shapes.length);
        for (const shape of drawing.shapes) {
          if (shape.kind !== "text") continue;
          expect(shape.x).toBeGreaterThanOrEqual(0);
          expect(shape.x).toBeLessThanOrEqual(drawing.width);
          expect(shape.y).toBeLessThanOrEqual(drawing.height + 1);
        }
        const net = netlistOf(design);
        expect(net).not.toMatch(NO_HOLE);
        expect(net.trimEnd().split("\n").at(-1)).toBe(".end");
        const sheet = buildSheet(design, [], [], "inch");
        expect(JSON.stringify(sheet)).not.toMatch(/undefined|NaN|\[object/);
        expect(sheet.ready).toBe(false);
        expect(importDesign(exportDesign(design))).toEqual(design);
        const compared = compareDesigns(design, other, "metric");
        expect(compared.summary).not.toMatch(NO_HOLE);
        // The comparison the other way round names the same winners.
        const back = compareDesigns(other, design, "metric");
        const flip = { a: "b", b: "a" } as const;
        for (const figure of compared.figures) {
          const twin = back.figures.find((each) => each.label === figure.label);
          expect(twin?.better ?? null).toBe(figure.better === null ? null : flip[figure.better]);
        }
      }),
      { numRuns: runs(120), endOnFailure: true },
    );
  }, 60_000);

  it("a hazard that blocks is offered only cures that take it away", () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        for (const block of blocksOf(design, "metric")) {
          expect(block.caution.blocks).toBe(true);
          if (!block.cure) continue;
          const codes = evaluateDesign(block.cure.design).cautions.map((caution) => caution.code);
          expect(codes).not.toContain(block.caution.code);
        }
      }),
      { numRuns: runs(60), endOnFailure: true },
    );
  }, 60_000);

  it("three-way joining: what only one changed is kept, the same change meets nobody, and no change changes nothing", () => {
    fc.assert(
      fc.property(anyDesign, anyDesign, anyDesign, (base, mine, theirs) => {
        expect(sameDesign(mergeDesigns(base, base, theirs).merged, theirs)).toBe(true);
        expect(sameDesign(mergeDesigns(base, mine, base).merged, mine)).toBe(true);
        const both = mergeDesigns(base, mine, mine);
        expect(both.clashes).toEqual([]);
        expect(sameDesign(both.merged, mine)).toBe(true);
        const { merged, withMine, clashes } = mergeDesigns(base, mine, theirs);
        expect(sameDesign(merged, withMine)).toBe(clashes.length === 0);
        // Joining again what was joined meets nothing new.
        expect(mergeDesigns(theirs, merged, theirs).clashes).toEqual([]);
      }),
      { numRuns: runs(200), endOnFailure: true },
    );
  });
});
