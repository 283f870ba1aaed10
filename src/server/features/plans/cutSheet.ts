import type { z } from "zod";
import type { PLANS } from "@/contract/plans/contract";
import type { Design } from "@/core/cutters/design/schema";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { CoreError } from "@/core/kernel/errors";
import { fileStem } from "@/core/kernel/fileStem";
import { type CutSheet, cutSheetOf } from "@/core/pace/cutSheet";
import { facesOf, paceJob, planPace } from "@/core/pace/planPace";
import { evaluatePanels } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import type { MadeFile } from "../../kernel/madeFile";
import { onePage, PAGE_MARGIN, type PAPERS } from "../../kernel/paper";
import { readLettering } from "./lettering";

/** Rows of the pace no closer than this, mm. */
const LEAST_ROW_MM = 3.6;

/** A cut sheet as one page: A4, or letter for inch people. Where numbers do not fit, the sheet says that they are on the screen. */
export async function cutSheetPdf(sheet: CutSheet, paperSize: keyof typeof PAPERS, on: string): Promise<Uint8Array> {
  const { document, paper, width, height } = await onePage(`${sheet.title}: cut sheet, ${sheet.face}`, paperSize);
  const inner = width - 2 * PAGE_MARGIN;
  const half = (inner - 8) / 2;
  const right = PAGE_MARGIN + half + 8;
  let y = PAGE_MARGIN + 5;
  const what = `cut sheet, ${on}`;
  paper.heading(PAGE_MARGIN, y, sheet.title, [19, 16, 13], inner - paper.widthOf(what, 8.5) - 4);
  paper.line(width - PAGE_MARGIN, y, what, 8.5, { anchor: "end", ink: "soft" });
  y += 7.5;
  paper.line(PAGE_MARGIN, y, sheet.face, 14, { font: "bold" });
  paper.line(width - PAGE_MARGIN, y, sheet.total, 8.5, { anchor: "end" });
  y += 3;
  paper.rule(PAGE_MARGIN, y, inner);
  y += 6;
  let left = y;
  paper.line(PAGE_MARGIN, left, "Set-up", 11, { font: "bold" });
  left += 5.4;
  for (const [what, value] of sheet.setUp) {
    paper.line(PAGE_MARGIN, left, what, 8.4, { ink: "soft" });
    left = paper.block(PAGE_MARGIN + 26, left, half - 26, value, 8.4, { font: "mono" }) + 0.6;
  }
  let side = y;
  paper.line(right, side, "Block and weights", 11, { font: "bold" });
  side += 5.4;
  for (const line of sheet.block) side = paper.block(right, side, half, line, 8.4) + 0.8;
  y = Math.max(left, side) + 2;
  paper.rule(PAGE_MARGIN, y, inner);
  y += 6;
  y += paper.drawing(sheet.templates, PAGE_MARGIN, y - 4, inner);
  paper.rule(PAGE_MARGIN, y - 2, inner);
  y += 4;
  // What comes after the table is as long as it is: the table takes what is left, in as many columns as it needs.
  const foot = height - PAGE_MARGIN - 6 - 4.2 * (sheet.cautions.length + sheet.afterwards.length) - 14;
  paper.line(PAGE_MARGIN, y, "Pace: seconds to each number, then the wait", 11, { font: "bold" });
  y += 6;
  const columns = sheet.rows.length > 72 ? 5 : sheet.rows.length > 40 ? 4 : sheet.rows.length > 14 ? 3 : 1;
  // Rows as far apart as there is room, and never closer than can be read at arm's length.
  const ROW = Math.min(5.6, Math.max(LEAST_ROW_MM, (foot - y) / (Math.ceil(sheet.rows.length / columns) + 1)));
  const perColumn = Math.max(4, Math.floor((foot - y) / ROW + 1e-6) - 1);
  const size = (points: number) => points * Math.min(1, ROW / 5);
  const wide = inner / columns;
  for (let c = 0; c < columns; c++) {
    const x = PAGE_MARGIN + c * wide;
    const places = { to: 0, s: 17, root: 20, wait: columns > 3 ? 20 : 42 } as const;
    for (const [at, words] of [
      [places.to, "to"],
      [places.s - 2, "s"],
      ...(columns > 3 ? [] : ([[places.root, "root"]] as const)),
      [places.wait, "wait"],
    ] as const)
      paper.line(x + at, y, words, 7.4, { ink: "soft" });
    for (const [i, row] of sheet.rows.slice(c * perColumn, (c + 1) * perColumn).entries()) {
      const at = y + ROW * (i + 1);
      paper.line(x + places.to, at, row.to, size(11), { font: "bold" });
      paper.line(x + places.s, at, row.seconds, size(10.5), { font: "mono", anchor: "end" });
      if (columns <= 3) paper.line(x + places.root, at, row.root, 7.2, { font: "mono" });
      paper.line(x + places.wait, at, row.wait, size(9), { font: "mono" });
    }
  }
  if (sheet.rows.length > columns * perColumn) paper.line(PAGE_MARGIN, foot, `and ${sheet.rows.length - columns * perColumn} more numbers: on the screen`, 8);
  y = foot + 4;
  paper.rule(PAGE_MARGIN, y, inner);
  y += 5;
  paper.line(PAGE_MARGIN, y, "Cautions", 10.5, { font: "bold" });
  y += 4.8;
  for (const line of sheet.cautions) y = paper.block(PAGE_MARGIN, y, inner, line, 7.8) + 0.6;
  y += 1.6;
  paper.line(PAGE_MARGIN, y, "Afterwards", 10.5, { font: "bold" });
  y += 4.8;
  for (const line of sheet.afterwards) {
    paper.tick(PAGE_MARGIN, y);
    y = paper.block(PAGE_MARGIN + 4, y, inner - 4, line, 7.8) + 0.6;
  }
  return document.save();
}

/** A cut sheet, made in the sheets' thread. @throws CoreError where the face has no pace */
export async function makeCutSheet({
  plan,
  design,
  wanted: { face, panel, units },
}: {
  plan: Plan;
  design: Design | null;
  wanted: z.output<typeof PLANS.sheet.request>;
}): Promise<MadeFile> {
  await readLettering();
  const panels = evaluatePanels(plan, design, false);
  const requested = panels[panel - 1];
  if (!requested) throw new CoreError("out-of-range", "panel", `panel must be a number from 1 to ${panels.length}: this plan has no more`);
  const faces = facesOf(plan);
  const which = face ?? faces[0];
  if (!which || !faces.includes(which)) throw new CoreError("not-one-of", "face", `face must be one of ${faces.join(", ")}`);
  const job = paceJob(requested.plan, requested.evaluation, which);
  const { cutter } = requested.evaluation;
  if (!job || !cutter || !design) throw new CoreError("no-solution", "cutter", "this plan names no cutter that cuts: there is no pace to print");
  const { pace, rows, shared } = planPace(job, cutter.pair, undefined, false);
  const shownPace = job.share ? { ...pace, errorMm: shared.errorMm } : pace;
  const warmUpS = heatCourseOf(design, evaluateDesign(design)).warmUpS;
  const sheet = cutSheetOf(requested.plan, requested.evaluation, which, { pace: shownPace, rows }, warmUpS, units);
  const pdf = await cutSheetPdf(sheet, units, new Date().toISOString().slice(0, 10));
  return { body: pdf, type: "application/pdf", name: `${fileStem(plan.name)}-cut-sheet-${which}.pdf` };
}
