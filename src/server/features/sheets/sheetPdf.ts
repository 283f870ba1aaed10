import type { Design } from "@/core/cutters/design/schema";
import type { Item } from "@/core/drawer/items";
import { fileStem } from "@/core/kernel/fileStem";
import { type BuildSheet, buildSheet } from "@/core/sheets/buildSheet";
import type { MadeFile } from "../../kernel/madeFile";
import { onePage, PAGE_MARGIN, type PAPERS } from "../../kernel/paper";

/**
 * The build sheet as one PDF page with vector drawings: A4, or letter for inch people.
 * @param on the day, as it should be printed
 */
export async function sheetPdf(sheet: BuildSheet, paperSize: keyof typeof PAPERS, on: string): Promise<Uint8Array> {
  const { document, paper, width, height } = await onePage(`${sheet.name}: build sheet`, paperSize);
  const inner = width - 2 * PAGE_MARGIN;
  const half = (inner - 8) / 2;
  const right = PAGE_MARGIN + half + 8;

  let y = PAGE_MARGIN + 4;
  const kind = `${sheet.kind}, ${on}`;
  const readiness = sheet.ready ? "marked ready" : sheet.blocks.length > 0 ? "NOT READY: see cautions" : "not marked ready";
  const readyFont = sheet.ready ? "text" : "bold";
  const beside = Math.max(paper.widthOf(kind, 8.5), paper.widthOf(readiness, 8.5, readyFont));
  paper.heading(PAGE_MARGIN, y, sheet.name, [18, 15, 12.5], inner - beside - 4);
  paper.line(width - PAGE_MARGIN, y - 2, kind, 8.5, { anchor: "end", ink: "soft" });
  paper.line(width - PAGE_MARGIN, y + 2.4, readiness, 8.5, { anchor: "end", font: readyFont });
  y = paper.block(PAGE_MARGIN, y + 7.4, inner, `${sheet.verdict} ${sheet.detail}`, 9);
  y += paper.drawing(sheet.rod, PAGE_MARGIN, y, inner) + 3;
  for (const [i, figure] of sheet.figures.entries()) {
    const x = PAGE_MARGIN + (i % 4) * (inner / 4);
    const row = y + Math.floor(i / 4) * 8.4;
    paper.line(x, row, figure.value, 9, { font: "mono" });
    paper.line(x, row + 3, figure.label, 6.5, { ink: "soft" });
  }
  y += 16.8;
  paper.rule(PAGE_MARGIN, y - 1, inner);

  const columnsAt = y + 4;
  let left = columnsAt;
  paper.line(PAGE_MARGIN, left, "Parts", 10.5, { font: "bold" });
  left += 4.4;
  for (const part of sheet.parts) {
    paper.line(PAGE_MARGIN, left, part.part, 7.2, { font: "bold" });
    left = paper.block(PAGE_MARGIN + 20, left, half - 20, part.words, 7.2);
    if (part.drawer) {
      const price = part.inDrawer ? "" : part.price === null ? ", price not known" : `, ${Number(part.price.toFixed(2))}`;
      left = paper.block(PAGE_MARGIN + 20, left, half - 20, `${part.inDrawer ? "in the drawer: " : ""}${part.drawer}${price}`, 6.4, { ink: "soft" });
    }
    left += 0.5;
  }
  left = paper.block(PAGE_MARGIN, left + 0.8, half, sheet.toBuy.words, 7.2, { font: "bold" });

  let side = columnsAt;
  paper.line(right, side, "Settings card", 10.5, { font: "bold" });
  side += 4.4;
  for (const setting of sheet.settings) {
    paper.line(right, side, setting.foam, 7.6, { font: "bold" });
    paper.line(
      right + 20,
      side,
      setting.setting === null ? "not cleanly with this set-up" : `${setting.setting} at ${setting.feed}`,
      7.4,
      setting.setting === null ? { ink: "soft" } : { font: "mono" },
    );
    paper.line(right + half, side, setting.setting === null ? "" : setting.kerf, 7.4, { font: "mono", anchor: "end" });
    side += 4.1;
  }
  paper.line(right, side, "foam, knob and feed, kerf; cool side of clean", 6.2, { ink: "soft" });
  side += 5;
  paper.line(right, side, "Cautions", 10.5, { font: "bold" });
  side += 4.2;
  if (sheet.cautions.length === 0) side = paper.block(right, side, half, "None beyond the usual: hot wire, fumes, whip.", 7.2);
  for (const caution of sheet.cautions.slice(0, MOST_CAUTIONS)) {
    const danger = caution.severity === "danger";
    side = paper.block(right, side, half, `${danger ? "Danger. " : ""}${caution.words}`, 6.6, danger ? { font: "bold" } : {}) + 0.5;
  }
  if (sheet.cautions.length > MOST_CAUTIONS) side = paper.block(right, side, half, `and ${sheet.cautions.length - MOST_CAUTIONS} more on the desk`, 6.6);

  y = Math.max(left, side) + 1;
  paper.rule(PAGE_MARGIN, y, inner);
  y += 4;
  const listAt = height - PAGE_MARGIN - LIST_HEIGHT_MM;
  // The wiring takes the height that the lists leave.
  paper.line(PAGE_MARGIN, y, "Wiring", 10.5, { font: "bold" });
  const never = sheet.wiringNotes.filter((note) => note.never);
  const wiringWidth = Math.min(inner, ((listAt - y - 7 - never.length * 3.4) * sheet.wiring.width) / sheet.wiring.height);
  const wiringHeight = paper.drawing(sheet.wiring, PAGE_MARGIN + (inner - wiringWidth) / 2, y - 3, wiringWidth);
  let notes = y + wiringHeight + 0.5;
  for (const note of never) notes = paper.block(PAGE_MARGIN, notes, inner, `× ${note.words}`, 6.4);
  paper.rule(PAGE_MARGIN, listAt, inner);
  paper.line(PAGE_MARGIN, listAt + 4, "Before switching on", 10.5, { font: "bold" });
  const rows = Math.ceil(sheet.checklist.length / 2);
  const lists = [sheet.checklist.slice(0, rows), sheet.checklist.slice(rows)];
  for (const [i, items] of lists.entries()) {
    let list = listAt + 9;
    const x = PAGE_MARGIN + i * (half + 8);
    for (const item of items) {
      paper.tick(x, list);
      list = paper.block(x + 4, list, half - 4, item, 6.9) + 0.9;
    }
  }
  paper.line(
    PAGE_MARGIN,
    height - 6,
    "Extra-low voltage only at the wire. Local electrical codes rule; anything on the mains side by a licensed electrician.",
    6.4,
    { ink: "soft" },
  );
  return document.save();
}

/** Height of the checklist at the foot of the page: heading and five rows of at most two lines. */
const LIST_HEIGHT_MM = 31;
/** As many as the page holds next to a full parts list. */
const MOST_CAUTIONS = 6;

/** A cutter's build sheet, made in the sheets' thread. */
export async function makeBuildSheet({
  design,
  drawer,
  foams,
  units,
}: {
  design: Design;
  drawer: readonly Item[];
  foams: Parameters<typeof buildSheet>[2];
  units: keyof typeof PAPERS;
}): Promise<MadeFile> {
  const pdf = await sheetPdf(buildSheet(design, drawer, foams, units), units, new Date().toISOString().slice(0, 10));
  return { body: pdf, type: "application/pdf", name: `${fileStem(design.name)}-build-sheet.pdf` };
}
