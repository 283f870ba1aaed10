import { readFile } from "node:fs/promises";
import path from "node:path";
import fontkit from "@pdf-lib/fontkit";
import { PDFDocument, type PDFFont, type PDFPage, rgb } from "pdf-lib";
import { type Drawing, type Ink, PRINT_INKS } from "@/core/kernel/drawing";
import { WRITTEN_BY } from "@/core/kernel/version";
import type { BuildSheet } from "@/core/sheets/buildSheet";

const MM = 72 / 25.4;
const PAPERS = { metric: { width: 210, height: 297 }, inch: { width: 215.9, height: 279.4 } } as const;
const MARGIN = 13;

/** A figure is not parted from its unit at a line's end. */
const FIGURE_AND_UNIT = /(\d) (°C|°F|mm|m|in|ft|A|V|W\/m|W\/in|W|N|lbf|ohm|AWG|Hz|s)\b/g;

interface Fonts {
  text: PDFFont;
  bold: PDFFont;
  mono: PDFFont;
}

const fontFile = (name: string) => readFile(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", `${name}.ttf`));

const colour = (ink: Ink) => {
  const hex = PRINT_INKS[ink];
  return rgb(Number.parseInt(hex.slice(1, 3), 16) / 255, Number.parseInt(hex.slice(3, 5), 16) / 255, Number.parseInt(hex.slice(5, 7), 16) / 255);
};

/** A page written on in millimetres from its top left. */
class Paper {
  constructor(
    private readonly page: PDFPage,
    private readonly fonts: Fonts,
  ) {}

  private up(y: number): number {
    return this.page.getHeight() - y * MM;
  }

  /** One line of text, its baseline at y; size in points. */
  line(x: number, y: number, text: string, size: number, look: { font?: keyof Fonts; ink?: Ink; anchor?: "start" | "middle" | "end" } = {}): void {
    const font = this.fonts[look.font ?? "text"];
    const width = font.widthOfTextAtSize(text, size) / MM;
    const left = look.anchor === "middle" ? x - width / 2 : look.anchor === "end" ? x - width : x;
    this.page.drawText(text, { x: left * MM, y: this.up(y), size, font, color: colour(look.ink ?? "graphite") });
  }

  /** Text broken into lines of a width; returns the y below it. */
  block(x: number, y: number, width: number, text: string, size: number, look: { font?: keyof Fonts; ink?: Ink } = {}): number {
    const font = this.fonts[look.font ?? "text"];
    const lead = (size * 1.28) / MM;
    let at = y;
    let row = "";
    const put = () => {
      if (row) this.line(x, at, row, size, look);
      at += lead;
      row = "";
    };
    for (const word of text.replaceAll(FIGURE_AND_UNIT, "$1\u00a0$2").split(/[ \n\t]+/)) {
      const longer = row ? `${row} ${word}` : word;
      if (row && font.widthOfTextAtSize(longer, size) / MM > width) {
        put();
        row = word;
      } else row = longer;
    }
    put();
    return at;
  }

  rule(x: number, y: number, width: number): void {
    this.page.drawLine({ start: { x: x * MM, y: this.up(y) }, end: { x: (x + width) * MM, y: this.up(y) }, thickness: 0.6, color: colour("line") });
  }

  /** An empty box to tick. */
  tick(x: number, y: number): void {
    this.page.drawRectangle({ x: x * MM, y: this.up(y), width: 2.6 * MM, height: 2.6 * MM, borderWidth: 0.7, borderColor: colour("graphite") });
  }

  /** A drawing as vectors, `width` millimetres wide; returns its height. */
  drawing(drawing: Drawing, x: number, y: number, width: number): number {
    const scale = width / drawing.width;
    for (const shape of drawing.shapes) {
      if (shape.kind === "text") {
        this.line(x + shape.x * scale, y + shape.y * scale, shape.text, shape.size * scale * MM, {
          font: shape.mono ? "mono" : shape.bold ? "bold" : "text",
          ...(shape.ink ? { ink: shape.ink } : {}),
          ...(shape.anchor ? { anchor: shape.anchor } : {}),
        });
        continue;
      }
      const stroke = shape.stroke ?? "graphite";
      const fill = shape.fill ?? "none";
      this.page.drawSvgPath(shape.d, {
        x: x * MM,
        y: this.up(y),
        // Strokes and dashes are scaled with the path.
        scale: scale * MM,
        ...(stroke === "none" ? {} : { borderColor: colour(stroke), borderWidth: shape.width ?? 0.5 }),
        ...(fill === "none" ? {} : { color: colour(fill) }),
        ...(shape.dash ? { borderDashArray: [...shape.dash] } : {}),
      });
    }
    return drawing.height * scale;
  }
}

/**
 * The build sheet as one PDF page with vector drawings: A4, or letter for inch people.
 * @param on the day, as it should be printed
 */
export async function sheetPdf(sheet: BuildSheet, paperSize: keyof typeof PAPERS, on: string): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(`${sheet.name}: build sheet`);
  document.setCreator(WRITTEN_BY);
  const [text, bold, mono] = await Promise.all(["DejaVuSerif", "DejaVuSerif-Bold", "DejaVuSansMono"].map(fontFile));
  const fonts: Fonts = {
    text: await document.embedFont(text as Buffer, { subset: true }),
    bold: await document.embedFont(bold as Buffer, { subset: true }),
    mono: await document.embedFont(mono as Buffer, { subset: true }),
  };
  const { width, height } = PAPERS[paperSize];
  const page = document.addPage([width * MM, height * MM]);
  const paper = new Paper(page, fonts);
  const inner = width - 2 * MARGIN;
  const half = (inner - 8) / 2;
  const right = MARGIN + half + 8;

  let y = MARGIN + 4;
  paper.line(MARGIN, y, sheet.name.length > 46 ? `${sheet.name.slice(0, 45)}…` : sheet.name, 18, { font: "bold" });
  paper.line(width - MARGIN, y - 2, `${sheet.kind}, ${on}`, 8.5, { anchor: "end", ink: "soft" });
  paper.line(width - MARGIN, y + 2.4, sheet.ready ? "marked ready" : sheet.blocks.length > 0 ? "NOT READY: see cautions" : "not marked ready", 8.5, {
    anchor: "end",
    font: sheet.ready ? "text" : "bold",
  });
  y = paper.block(MARGIN, y + 7.4, inner, `${sheet.verdict} ${sheet.detail}`, 9);
  y += paper.drawing(sheet.rod, MARGIN, y, inner) + 3;
  for (const [i, figure] of sheet.figures.entries()) {
    const x = MARGIN + (i % 4) * (inner / 4);
    const row = y + Math.floor(i / 4) * 8.4;
    paper.line(x, row, figure.value, 9, { font: "mono" });
    paper.line(x, row + 3, figure.label, 6.5, { ink: "soft" });
  }
  y += 16.8;
  paper.rule(MARGIN, y - 1, inner);

  const columnsAt = y + 4;
  let left = columnsAt;
  paper.line(MARGIN, left, "Parts", 10.5, { font: "bold" });
  left += 4.4;
  for (const part of sheet.parts) {
    paper.line(MARGIN, left, part.part, 7.2, { font: "bold" });
    left = paper.block(MARGIN + 20, left, half - 20, part.words, 7.2);
    if (part.drawer) {
      const price = part.inDrawer ? "" : part.price === null ? ", price not known" : `, ${Number(part.price.toFixed(2))}`;
      left = paper.block(MARGIN + 20, left, half - 20, `${part.inDrawer ? "in the drawer: " : ""}${part.drawer}${price}`, 6.4, { ink: "soft" });
    }
    left += 0.5;
  }
  left = paper.block(MARGIN, left + 0.8, half, sheet.toBuy.words, 7.2, { font: "bold" });

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
  paper.rule(MARGIN, y, inner);
  y += 4;
  const listAt = height - MARGIN - LIST_HEIGHT_MM;
  // The wiring takes whatever height the lists leave it.
  paper.line(MARGIN, y, "Wiring", 10.5, { font: "bold" });
  const never = sheet.wiringNotes.filter((note) => note.never);
  const wiringWidth = Math.min(inner, ((listAt - y - 7 - never.length * 3.4) * sheet.wiring.width) / sheet.wiring.height);
  const wiringHeight = paper.drawing(sheet.wiring, MARGIN + (inner - wiringWidth) / 2, y - 3, wiringWidth);
  let notes = y + wiringHeight + 0.5;
  for (const note of never) notes = paper.block(MARGIN, notes, inner, `× ${note.words}`, 6.4);
  paper.rule(MARGIN, listAt, inner);
  paper.line(MARGIN, listAt + 4, "Before switching on", 10.5, { font: "bold" });
  const rows = Math.ceil(sheet.checklist.length / 2);
  const lists = [sheet.checklist.slice(0, rows), sheet.checklist.slice(rows)];
  for (const [i, items] of lists.entries()) {
    let list = listAt + 9;
    const x = MARGIN + i * (half + 8);
    for (const item of items) {
      paper.tick(x, list);
      list = paper.block(x + 4, list, half - 4, item, 6.9) + 0.9;
    }
  }
  paper.line(
    MARGIN,
    height - 6,
    "Extra-low voltage only at the wire. Local electrical codes rule; anything on the mains side by a licensed electrician.",
    6.4,
    { ink: "soft" },
  );
  return document.save();
}

/** Height of the checklist at the foot of the page: heading and five rows of at most two lines. */
const LIST_HEIGHT_MM = 31;
/** As many as the page holds beside a full parts list. */
const MOST_CAUTIONS = 6;
