import { readFile } from "node:fs/promises";
import path from "node:path";
import fontkit from "@pdf-lib/fontkit";
import { PDFDocument, type PDFFont, type PDFPage, rgb } from "pdf-lib";
import { type Drawing, type Ink, PRINT_INKS } from "@/core/kernel/drawing";
import { WRITTEN_BY } from "@/core/kernel/version";

const MM = 72 / 25.4;
/** Papers by the units people use, mm. */
export const PAPERS = { metric: { width: 210, height: 297 }, inch: { width: 215.9, height: 279.4 } } as const;
/** White at every edge, mm. */
export const PAGE_MARGIN = 13;

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
export class SheetPaper {
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
    const width = this.widthOf(text, size, look.font);
    const left = look.anchor === "middle" ? x - width / 2 : look.anchor === "end" ? x - width : x;
    this.page.drawText(text, { x: left * MM, y: this.up(y), size, font, color: colour(look.ink ?? "graphite") });
  }

  /** A heading of one line, in the largest of the sizes at which it fits so many mm; in the smallest what does not is left out, with an ellipsis. */
  heading(x: number, y: number, text: string, sizes: readonly [number, ...number[]], width: number): void {
    const fits = (some: string, size: number) => this.widthOf(some, size, "bold") <= width;
    const size = sizes.find((each) => fits(text, each)) ?? Math.min(...sizes);
    const letters = [...text];
    const short = (many: number) => (many < letters.length ? `${letters.slice(0, many).join("").trimEnd()}…` : text);
    let many = letters.length;
    while (many > 1 && !fits(short(many), size)) many--;
    this.line(x, y, short(many), size, { font: "bold" });
  }

  /** Width of a text on one line, mm. */
  widthOf(text: string, size: number, font: keyof Fonts = "text"): number {
    return this.fonts[font].widthOfTextAtSize(text, size) / MM;
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

/** A document of one page to be written on, in the app's own faces. */
export async function onePage(
  title: string,
  paperSize: keyof typeof PAPERS,
): Promise<{ document: PDFDocument; paper: SheetPaper; width: number; height: number }> {
  const document = await PDFDocument.create();
  document.registerFontkit(fontkit);
  document.setTitle(title);
  document.setCreator(WRITTEN_BY);
  const [text, bold, mono] = await Promise.all(["DejaVuSerif", "DejaVuSerif-Bold", "DejaVuSansMono"].map(fontFile));
  const fonts: Fonts = {
    text: await document.embedFont(text as Buffer, { subset: true }),
    bold: await document.embedFont(bold as Buffer, { subset: true }),
    mono: await document.embedFont(mono as Buffer, { subset: true }),
  };
  const { width, height } = PAPERS[paperSize];
  return { document, paper: new SheetPaper(document.addPage([width * MM, height * MM]), fonts), width, height };
}
