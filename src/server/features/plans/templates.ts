import fontkit from "@pdf-lib/fontkit";
import {
  clip,
  closePath,
  endPath,
  lineTo,
  moveTo,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  setDashPattern,
  setLineWidth,
  stroke,
} from "pdf-lib";
import type { z } from "zod";
import type { PLANS } from "@/contract/plans/contract";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { fileStem } from "@/core/kernel/fileStem";
import { WRITTEN_BY } from "@/core/kernel/version";
import { withSharedError } from "@/core/pace/share";
import { ENDS } from "@/core/plans/evaluate";
import { writeCoordinates } from "@/core/plans/imports/coordinates";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import { writeDxf } from "@/core/plans/outputs/dxf";
import { writeSvg } from "@/core/plans/outputs/svg";
import { requireExportable, templatesDrawing } from "@/core/plans/outputs/templates";
import { type Paper, SHEET, tile } from "@/core/plans/outputs/tiles";
import { evaluatePanels } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import type { MadeFile } from "../../kernel/madeFile";
import { readLettering, ttf } from "./lettering";

const MM = 72 / 25.4;
const DASHED = new Set(["finished part", "base line"]);

/** A drawing on as many sheets as it takes, at full size: crop and join marks at the overlaps, and on every sheet a ruler to check the printer by. */
export async function tiledPdf(drawing: OutDrawing, paper: Paper, rulerMm: number): Promise<Uint8Array> {
  // A printer whose 100 mm came out at 98 is asked for 102.04.
  const scale = 100 / rulerMm;
  const tiling = tile(drawing, paper, scale);
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(drawing.title);
  document.setProducer(WRITTEN_BY);
  const font = await document.embedFont(await ttf("DejaVuSans"), { subset: true });
  const [pageWide, pageHigh] = tiling.paperMm;
  const k = MM * scale;
  for (const { row, column, x, y } of tiling.tiles) {
    const page = document.addPage([pageWide * MM, pageHigh * MM]);
    const left = SHEET.marginMm * MM;
    const foot = (SHEET.marginMm + SHEET.footMm) * MM;
    const [wide, high] = [tiling.windowMm[0] * k, tiling.windowMm[1] * k];
    const at = ([px, py]: readonly [number, number]) => [left + (px - x) * k, foot + (py - y) * k] as const;
    page.pushOperators(pushGraphicsState(), rectangle(left, foot, wide, high), clip(), endPath());
    for (const { layer, points, closed } of drawing.lines) {
      page.pushOperators(setLineWidth(layer === "guide" ? 0.9 : 0.45), setDashPattern(DASHED.has(layer) ? [4, 3] : [], 0));
      for (const [i, point] of points.entries()) page.pushOperators(i === 0 ? moveTo(...at(point)) : lineTo(...at(point)));
      page.pushOperators(...(closed ? [closePath()] : []), stroke());
    }
    for (const text of drawing.texts) {
      const [tx, ty] = at(text.at);
      page.drawText(text.text, { x: tx, y: ty, size: text.heightMm * k, font });
    }
    page.pushOperators(popGraphicsState(), setDashPattern([], 0), setLineWidth(0.4));
    // Crop marks at the window's corners, and a cross in the middle of each overlap: one lies on its neighbour's.
    const mark = (fromX: number, fromY: number, toX: number, toY: number) => page.pushOperators(moveTo(fromX, fromY), lineTo(toX, toY), stroke());
    for (const cx of [left, left + wide]) {
      for (const cy of [foot, foot + high]) {
        mark(cx - 4 * MM, cy, cx + 4 * MM, cy);
        mark(cx, cy - 4 * MM, cx, cy + 4 * MM);
      }
    }
    const lap = (SHEET.overlapMm / 2) * k;
    const crosses = [
      ...(column > 0 ? [[left + lap, foot + high / 2] as const] : []),
      ...(column < tiling.columns - 1 ? [[left + wide - lap, foot + high / 2] as const] : []),
      ...(row > 0 ? [[left + wide / 2, foot + high - lap] as const] : []),
      ...(row < tiling.rows - 1 ? [[left + wide / 2, foot + lap] as const] : []),
    ];
    for (const [cx, cy] of crosses) {
      mark(cx - 3 * MM, cy, cx + 3 * MM, cy);
      mark(cx, cy - 3 * MM, cx, cy + 3 * MM);
    }
    // The ruler is drawn by the same scale as the drawing: it measures 100 mm where the drawing is right.
    const [rx, ry] = [left, (SHEET.marginMm + 5) * MM];
    mark(rx, ry, rx + 100 * k, ry);
    for (let tick = 0; tick <= 100; tick += 5) mark(rx + tick * k, ry, rx + tick * k, ry + (tick % 50 === 0 ? 4 : tick % 10 === 0 ? 3 : 2) * MM);
    page.drawText("100 mm", { x: rx + 102 * k, y: ry, size: 8, font });
    page.drawText(`${drawing.title}: row ${row + 1} of ${tiling.rows}, column ${column + 1} of ${tiling.columns}`, { x: rx, y: ry - 10, size: 8, font });
  }
  return document.save();
}

/** A plan's templates, made in the sheets' thread. @throws CoreError where they cannot be made */
export async function makeTemplates({
  plan,
  design,
  wanted: { as, end, panel, paper, ruler_mm },
}: {
  plan: Plan;
  design: Design | null;
  wanted: z.output<typeof PLANS.templates.request>;
}): Promise<MadeFile> {
  await readLettering();
  const panels = evaluatePanels(plan, design, false);
  const ends = end === "both" ? ENDS : [end];
  const stem = `${fileStem(plan.name)}-templates${end === "both" ? "" : `-${end}`}`;
  if (as === "coordinates") {
    const which = end === "tip" ? "tip" : "root";
    const requested = panels[panel - 1];
    if (!requested) throw new CoreError("out-of-range", "panel", `panel must be a number from 1 to ${panels.length}: this plan has no more`);
    const outline = requested.evaluation[which].drawn.regions[0]?.outline;
    if (!outline) throw new CoreError("no-solution", "end", "this end has no outline");
    const stem = panel === 1 ? which : `${which}-${panel}`;
    return { body: writeCoordinates(`${plan.name}, ${which}`, outline), type: "text/plain; charset=utf-8", name: `${fileStem(plan.name)}-${stem}.dat` };
  }
  requireExportable(panels);
  const drawing = templatesDrawing(
    panels.map(({ plan: own, evaluation }) => ({ plan: own, evaluation: withSharedError(own, evaluation) })),
    ends,
  );
  if (as === "svg") return { body: writeSvg(drawing), type: "image/svg+xml", name: `${stem}.svg` };
  if (as === "dxf") return { body: writeDxf(drawing), type: "application/dxf", name: `${stem}.dxf` };
  return { body: await tiledPdf(drawing, paper, ruler_mm), type: "application/pdf", name: `${stem}-${paper}.pdf` };
}
