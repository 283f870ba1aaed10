import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import type { Design } from "@/core/cutters/design/schema";
import { readDocumentText, writeDocument } from "@/core/kernel/document";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { evaluatePlan } from "@/core/plans/evaluate";
import { templatesDrawing } from "@/core/plans/outputs/templates";
import { PAPERS_MM, SHEET, tile } from "@/core/plans/outputs/tiles";
import { evaluatePanels } from "@/core/plans/panels";
import { firstPlan, PLAN_KIND, type Plan, planMerger } from "@/core/plans/plan";
import { readLettering } from "./lettering";
import { tiledPdf } from "./templates";

const [fin] = DEMO_PLANS as [Plan];
const bow = DEMO_CUTTERS[0] as Design;

describe("the plan's document", () => {
  it("goes out as a file and comes back the same; a key too many, a shape that is none and a newer version are refused by their place", () => {
    for (const plan of [...DEMO_PLANS, firstPlan()]) expect(readDocumentText(PLAN_KIND, writeDocument(PLAN_KIND, plan))).toEqual(plan);
    const refused = (change: object) => {
      try {
        readDocumentText(PLAN_KIND, JSON.stringify({ ...fin, ...change }));
      } catch (error) {
        return error as { code: string; path: string };
      }
      return expect.fail("was taken");
    };
    expect(refused({ root: { ...fin.root, shape: { kind: "naca4", code: "24" } } })).toMatchObject({ path: "root.shape.code" });
    expect(refused({ root: { ...fin.root, shape: { kind: "cloud" } } })).toMatchObject({ path: "root.shape.kind" });
    expect(refused({ part: { ...fin.part, span_mm: -1 } })).toMatchObject({ code: "out-of-range", path: "part.span_mm" });
    expect(refused({ extra: 1 })).toMatchObject({ code: "unknown-key", path: "extra" });
    expect(refused({ version: 2 })).toMatchObject({ code: "newer-format" });
  });
  it("changes of different parts merge, changes of one part are a conflict", () => {
    const mine = { ...fin, part: { ...fin.part, span_mm: 900 } };
    const theirs = { ...fin, part: { ...fin.part, sweep_mm: 10 }, name: "Theirs" };
    expect(planMerger.merge(fin, mine, theirs)).toMatchObject({ clashes: [], merged: { name: "Theirs", part: { span_mm: 900, sweep_mm: 10 } } });
    expect(planMerger.merge(fin, mine, { ...fin, part: { ...fin.part, span_mm: 800 } }).clashes).toEqual(["span"]);
  });
});

describe("templates on paper", () => {
  beforeAll(() => readLettering());

  it("sheets cover the drawing, overlap as said, and a printer's scale makes more of them, not less", () => {
    const drawing = templatesDrawing(evaluatePanels(fin, bow));
    for (const paper of ["a4", "a3", "letter"] as const) {
      const { tiles, windowMm, rows, columns, paperMm } = tile(drawing, paper);
      expect(paperMm).toEqual(PAPERS_MM[paper]);
      const points = drawing.lines.flatMap((line) => line.points);
      for (const [x, y] of points)
        expect(tiles.some((each) => x >= each.x && x <= each.x + windowMm[0] && y >= each.y && y <= each.y + windowMm[1])).toBe(true);
      expect(tiles.length).toBeLessThanOrEqual(rows * columns);
      const beside = tiles.filter((each) => each.row === 0);
      if (beside.length > 1) expect((beside[0]?.x ?? 0) + windowMm[0] - (beside[1]?.x ?? 0)).toBeCloseTo(SHEET.overlapMm, 9);
    }
    expect(tile(drawing, "a4", 1.05).windowMm[0]).toBeCloseTo(tile(drawing, "a4").windowMm[0] / 1.05, 9);
    expect(() =>
      tile(
        {
          ...drawing,
          lines: [
            {
              layer: "guide",
              points: [
                [0, 0],
                [9000, 9000],
              ],
              closed: false,
            },
          ],
        },
        "a4",
      ),
    ).toThrow(/sheets/);
  });

  it("the ruler measures 100 mm on the page, or what makes up for the printer; pages are the paper's size", async () => {
    const drawing = templatesDrawing(evaluatePanels(fin, bow), ["root"]);
    const { PDFDocument } = await import("pdf-lib");
    for (const [ruler, scale] of [
      [100, 1],
      [98, 100 / 98],
    ] as const) {
      const bytes = await tiledPdf(drawing, "a4", ruler);
      const file = path.join(mkdtempSync(path.join(tmpdir(), "pdf-")), "t.pdf");
      const { writeFileSync } = await import("node:fs");
      writeFileSync(file, bytes);
      const document = await PDFDocument.load(bytes);
      expect(document.getPageCount()).toBe(tile(drawing, "a4", scale).tiles.length);
      expect(document.getPage(0).getWidth()).toBeCloseTo((210 * 72) / 25.4, 3);
      // Its words stand 2 mm past the ruler's end: measured by an outside reader.
      const words = execFileSync("pdftotext", ["-bbox", "-f", "1", "-l", "1", file, "-"], { encoding: "utf8" });
      const hundred = [...words.matchAll(/xMin="([\d.]+)"[^>]*>100</g)].map(([, x]) => Number(x))[0] as number;
      expect((hundred * 25.4) / 72 - SHEET.marginMm).toBeCloseTo(102 * scale, 0);
      expect(Math.abs((hundred * 25.4) / 72 - SHEET.marginMm - 102 * scale)).toBeLessThan(0.35);
      rmSync(path.dirname(file), { recursive: true });
    }
  });
});

describe("a plan follows its cutter", () => {
  beforeAll(() => readLettering());
  const hotter: Design = { ...bow, supply: { ...(bow.supply as Extract<Design["supply"], { kind: "bench" }>), voltage_V: 16 } };

  it("every plan of the shelf is cut by the long bow, with nothing dangerous to say", () => {
    for (const plan of DEMO_PLANS) {
      const response = evaluatePlan(plan, bow);
      expect([plan.name, response.notes.filter((note) => note.severity === "danger")]).toEqual([plan.name, []]);
      expect(response.root.templates.length).toBeGreaterThan(0);
      for (const end of [response.root, response.tip]) for (const template of end.templates) expect(template.lengthMm).toBeGreaterThan(0);
    }
  });
  it("both ends' kerfs come from the engine at their own feeds; more heat moves both templates outward", () => {
    const now = evaluatePlan(fin, bow);
    const later = evaluatePlan(fin, hotter);
    expect(now.tip.feedMmS).toBeCloseTo(now.root.feedMmS * now.ratio, 9);
    expect(now.tip.kerfMm / now.root.kerfMm).toBeCloseTo(1 / now.ratio, 6);
    for (const end of ["root", "tip"] as const) {
      expect(later[end].guideMm).toBeGreaterThan(now[end].guideMm + 0.02);
      expect(now[end].guideMm).toBeCloseTo((now[end].kerfMm - 0.64) / 2, 9);
    }
  });
  it("a measured kerf counts before the computed one; a skin draws the guide in; without a cutter habit is said to be habit", () => {
    const measured = evaluatePlan({ ...fin, cut: { ...fin.cut, rootKerf_mm: 2 }, part: { ...fin.part, skin_mm: 0.6 } }, bow);
    expect(measured.root).toMatchObject({ kerfMm: 2, measured: true });
    expect(measured.root.guideMm).toBeCloseTo((2 - 0.64) / 2 - 0.6, 9);
    expect(measured.tip.measured).toBe(false);
    expect(evaluatePlan(fin, null).notes[0]).toMatchObject({ code: "no-cutter", basis: "common practice" });
    expect(evaluatePlan(fin, null).massG).toBeNull();
  });
  it("says when the cutter has moved since the templates were made, and not before", () => {
    const now = evaluatePlan(fin, bow);
    const made = { at: "2026-05-01T10:00:00.000Z", heat_W_per_m: 44, rootFeed_mm_s: 6.5, rootKerf_mm: now.root.kerfMm, tipKerf_mm: now.tip.kerfMm };
    const codes = (design: Design) => evaluatePlan({ ...fin, made }, design).notes.map((note) => note.code);
    expect(codes(bow)).not.toContain("moved");
    expect(codes(hotter)).toContain("moved");
  });
  it("a twist is refused unless it is asked for, a strong taper is a warning with its cures, a fast root drags", () => {
    const codes = (change: Partial<Plan>) => evaluatePlan({ ...fin, ...change }, bow).notes.map((note) => note.code);
    expect(codes({ template: { ...fin.template, twist: false } })).toContain("twist");
    expect(codes({})).not.toContain("twist");
    expect(codes({ tip: { ...(fin.tip as Plan["root"]), chord_mm: 60 } })).toContain("taper");
    expect(codes({ cut: { ...fin.cut, feed_mm_s: 11 } })).toContain("root-drags");
  });
  it("volume of a prism is area times span, of a frustum Simpson's; the blank holds the part and its margins", () => {
    const box: Plan = {
      ...fin,
      part: { ...fin.part, sweep_mm: 0, washout_deg: 0, span_mm: 300 },
      tip: null,
      root: { thickness: 1, turn_deg: 0, x_mm: 0, y_mm: 0, chord_mm: 100, shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 } },
    };
    expect(evaluatePlan(box, bow).volumeMm3).toBeCloseTo(100 * 40 * 300, 3);
    const frustum: Plan = { ...box, tip: { thickness: 1, turn_deg: 0, x_mm: 0, y_mm: 0, chord_mm: 50, shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 } } };
    expect(evaluatePlan(frustum, bow).volumeMm3 / ((300 / 3) * (4000 + 1000 + 2000))).toBeCloseTo(1, 3);
    expect(evaluatePlan(box, bow).massG).toBeCloseTo(1.2e6 * 1e-6 * 18, 6);
    const { block } = evaluatePlan(box, bow);
    expect([block.widthMm, block.boardMm, block.lengthMm]).toEqual([100 + 15 + 30, 40 + 20, 300]);
    expect(evaluatePlan({ ...box, blank: { ...box.blank, trim_mm: 6 } }, bow).block.boardMm).toBeCloseTo(72, 9);
  });
});
