import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { removeFolders } from "./folders";

/** A piece of text on a page as an outside reader (poppler) finds it, mm from the page's top left; size in points, colour as "#rrggbb". */
export interface PdfPiece {
  text: string;
  x: number;
  y: number;
  wide: number;
  high: number;
  size: number;
  colour: string;
  bold: boolean;
  mono: boolean;
  page: number;
}
// The most that the reader allows.
const ZOOM = 3;
const MM = 25.4 / (72 * ZOOM);
const words = (xml: string) =>
  xml
    .replace(/<[^>]*>/g, "")
    .replaceAll("&lt;", "<")
    .replaceAll("&gt;", ">")
    .replaceAll("&quot;", '"')
    .replaceAll("&#34;", '"')
    .replaceAll("&#160;", " ")
    .replaceAll("\u00a0", " ")
    .replaceAll("&amp;", "&");

/** Every piece of text of a PDF, in the order it was written, and its pages' sizes in mm. */
export function readPdf(bytes: Uint8Array): { pieces: PdfPiece[]; pages: { wide: number; high: number }[] } {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-pdf-"));
  try {
    const file = path.join(folder, "x.pdf");
    writeFileSync(file, bytes);
    const xml = execFileSync("pdftohtml", ["-xml", "-stdout", "-i", "-zoom", String(ZOOM), "-nomerge", "-hidden", file], {
      encoding: "utf8",
      stdio: ["ignore", "pipe", "ignore"],
    });
    const fonts = new Map<string, { size: number; colour: string; mono: boolean }>();
    const pieces: PdfPiece[] = [];
    const pages: { wide: number; high: number }[] = [];
    const one =
      /<page [^>]*height="(\d+)" width="(\d+)"|<fontspec id="(\d+)" size="(-?\d+)" family="([^"]*)" color="([^"]*)"|<text top="(-?\d+)" left="(-?\d+)" width="(-?\d+)" height="(\d+)" font="(\d+)">(.*?)<\/text>/gs;
    for (const [, pageHigh, pageWide, id, size, family, colour, top, left, width, height, font, text] of xml.matchAll(one)) {
      if (pageHigh) pages.push({ wide: Number(pageWide) * MM, high: Number(pageHigh) * MM });
      if (id) fonts.set(id, { size: Number(size) / ZOOM, colour: String(colour), mono: /Mono/.test(String(family)) });
      if (text === undefined) continue;
      const look = fonts.get(String(font)) ?? { size: 0, colour: "", mono: false };
      pieces.push({
        ...look,
        text: words(text),
        bold: text.startsWith("<b>"),
        x: Number(left) * MM,
        y: Number(top) * MM,
        wide: Number(width) * MM,
        high: Number(height) * MM,
        page: pages.length,
      });
    }
    return { pieces, pages };
  } finally {
    removeFolders(folder);
  }
}

/** Pieces that lie on one another by more than a hair, or leave the page's margin: what a reader could not read. */
export function unreadable({ pieces, pages }: ReturnType<typeof readPdf>, margin: number, among: (piece: PdfPiece) => boolean = () => true): string[] {
  const faults: string[] = [];
  const own = pieces.filter((piece) => piece.text.trim() !== "" && among(piece));
  for (const [i, a] of own.entries()) {
    const page = pages[a.page - 1] as { wide: number; high: number };
    if (a.x < margin - 0.3 || a.x + a.wide > page.wide - margin + 0.3 || a.y < 2 || a.y + a.high > page.high - 2) faults.push(`"${a.text}" leaves the page`);
    for (const b of own.slice(i + 1)) {
      if (a.page !== b.page) continue;
      const across = Math.min(a.x + a.wide, b.x + b.wide) - Math.max(a.x, b.x);
      // A letter's box is higher than its ink by a third.
      const down = Math.min(a.y + a.high, b.y + b.high) - Math.max(a.y, b.y) - 0.42 * Math.min(a.high, b.high);
      if (across > 0.3 && down > 0) faults.push(`"${a.text}" lies on "${b.text}"`);
    }
  }
  return faults;
}
