import type { z } from "zod";
import type { RIGS } from "@/contract/rigs/contract";
import type { Design } from "@/core/cutters/design/schema";
import { fileStem } from "@/core/kernel/fileStem";
import { writeDxf } from "@/core/plans/outputs/dxf";
import { writeSvg } from "@/core/plans/outputs/svg";
import type { Plan } from "@/core/plans/plan";
import { around } from "@/core/rigs/around";
import { fitted } from "@/core/rigs/fitted";
import { rigRecord } from "@/core/rigs/kinds";
import type { Show } from "@/core/rigs/record";
import type { RigDocument } from "@/core/rigs/rig";
import { requireRigFits, solveRig } from "@/core/rigs/solved";
import { trim } from "@/core/units/trim";
import { formatQuantity } from "@/core/units/units";
import type { MadeFile } from "../../kernel/madeFile";
import { onePage, PAGE_MARGIN } from "../../kernel/paper";
import { readLettering } from "../plans/lettering";

const GRAVITY = ["danger", "caution", "note"] as const;
/** Room on the sheet for the drawing, mm. */
const DRAWING_HIGH = 120;

/** A rig's drawing, made in the sheets' thread. @throws CoreError where it cannot be built */
export async function makeRigFile({
  document,
  design,
  plan,
  wanted: { as, units },
}: {
  document: RigDocument;
  design: Design | null;
  plan: Plan | null;
  wanted: z.output<typeof RIGS.drawing.request>;
}): Promise<MadeFile> {
  await readLettering();
  const record = rigRecord(document.rig.kind);
  const here = around(design, plan);
  const show: Show = (quantity, value, decimals) => trim(formatQuantity(quantity, value, units, decimals));
  const drawing = { ...record.draw(document.rig, here, show), title: document.name };
  const stem = `${fileStem(document.name)}-rig`;
  if (as === "svg") return { body: writeSvg(drawing), type: "image/svg+xml", name: `${stem}.svg` };
  if (as === "dxf") return { body: writeDxf(drawing), type: "application/dxf", name: `${stem}.dxf` };
  requireRigFits(record, document.rig, here, show);
  const response = solveRig(record, document.rig, here, show);
  const { document: pdf, paper, width, height } = await onePage(`${document.name}: build sheet`, units);
  const wide = width - 2 * PAGE_MARGIN;
  paper.heading(PAGE_MARGIN, PAGE_MARGIN + 5, document.name, [16, 13.5, 11], wide - paper.widthOf(record.title, 11) - 4);
  paper.line(width - PAGE_MARGIN, PAGE_MARGIN + 5, record.title, 11, { anchor: "end", ink: "soft" });
  let y = paper.block(PAGE_MARGIN, PAGE_MARGIN + 12, wide, `${response.says}${design ? ` For ${design.name}.` : ""}${plan ? ` Cuts ${plan.name}.` : ""}`, 10);
  const { drawing: small, scale } = fitted(drawing, wide, DRAWING_HIGH);
  y += paper.drawing(small, PAGE_MARGIN + (wide - small.width) / 2, y, small.width) + 4;
  paper.line(PAGE_MARGIN, y, `Drawn at 1 to ${scale}. Measures count, not the paper.`, 8, { ink: "soft" });
  y += 5;
  paper.rule(PAGE_MARGIN, y, wide);
  y += 5;
  const half = (wide - 8) / 2;
  let left = y;
  for (const { label, quantity, value, decimals } of response.figures) {
    paper.line(PAGE_MARGIN, left, label, 8.5);
    paper.line(PAGE_MARGIN + half, left, quantity && typeof value === "number" ? show(quantity, value, decimals) : String(value), 8.5, {
      font: "mono",
      anchor: "end",
    });
    left += 4.4;
  }
  let right = y;
  for (const kind of ["wood", "hardware", "wiring"] as const) {
    const lines = record.build(document.rig, here, show).filter((line) => line.of === kind);
    if (lines.length === 0) continue;
    paper.line(PAGE_MARGIN + half + 8, right, kind, 9, { font: "bold" });
    right += 4.6;
    for (const { words } of lines) {
      paper.tick(PAGE_MARGIN + half + 8, right + 0.4);
      right = paper.block(PAGE_MARGIN + half + 13, right, half - 5, words, 8) + 0.8;
    }
  }
  y = Math.max(left, right) + 2;
  paper.rule(PAGE_MARGIN, y, wide);
  y += 5;
  // The gravest first; what the page has no room for is said to be missing.
  const notes = [...response.notes].sort((a, b) => GRAVITY.indexOf(a.severity) - GRAVITY.indexOf(b.severity));
  for (const [i, { severity, words }] of notes.entries()) {
    if (y > height - PAGE_MARGIN - 14 && i < notes.length - 1) {
      paper.line(PAGE_MARGIN, y, `${notes.length - i} more cautions are next to the rig on the screen: read them first.`, 8, { font: "bold", ink: "ember" });
      break;
    }
    y = paper.block(PAGE_MARGIN, y, wide, words, 8, { ink: severity === "note" ? "soft" : "ember" }) + 0.8;
  }
  paper.line(PAGE_MARGIN, height - PAGE_MARGIN + 3, "Mains wiring follows the local electrical code and is a licensed electrician's work.", 7.5, {
    ink: "soft",
  });
  return { body: await pdf.save(), type: "application/pdf", name: `${stem}.pdf` };
}
