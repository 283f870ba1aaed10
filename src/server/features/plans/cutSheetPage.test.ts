import { describe, expect, it } from "vitest";
import type { CutSheet } from "@/core/pace/cutSheet";
import { type PdfPiece, readPdf, unreadable } from "../../../../tests/helpers/pdf";
import { cutSheetPdf } from "./cutSheet";

/** A sheet of so many numbers; the rest as a cut has it. */
const sheet = (numbers: number, notes = 2): CutSheet => ({
  title: "Lantern rib",
  face: "all round",
  setUp: [
    ["cutter", "Long Tom"],
    ["wire", "0.64 mm, 1300 mm live, and words enough to take a second line"],
  ],
  templates: { title: "templates", width: 180, height: 40, shapes: [{ kind: "text", x: 90, y: 20, text: "templates here", size: 4 }] },
  block: ["300 mm × 200 mm × 60 mm", "Lower side down."],
  rows: Array.from({ length: numbers }, (_, i) => ({
    to: `${i + 1}`,
    seconds: (1 + i / 10).toFixed(1),
    root: `${(6 + i / 100).toFixed(2)} mm/s`,
    tip: "3.00 mm/s",
    wait: i % 9 === 4 ? "2.0" : "",
  })),
  total: "4 min 10 s",
  cautions: Array.from({ length: notes }, (_, i) => `Caution ${i + 1}.`),
  afterwards: ["Weigh it.", "Measure it."],
});
const page = async (made: CutSheet, paper: "metric" | "inch" = "metric") => {
  const read = readPdf(await cutSheetPdf(made, paper, "2026-11-26"));
  const piece = (text: string | RegExp): PdfPiece => {
    const found = read.pieces.find((each) => (typeof text === "string" ? each.text === text : text.test(each.text)));
    if (!found) throw new Error(`"${text}" is not on the sheet`);
    return found;
  };
  const { wide, high } = read.pages[0] as { wide: number; high: number };
  const heading = piece(/^Pace: /);
  const numbers = read.pieces.filter(({ text, bold, y }) => bold && /^\d+$/.test(text) && y > heading.y && y < piece("Cautions").y);
  /** Numbers column by column. */
  const columns: PdfPiece[][] = [];
  for (const each of numbers) {
    const own = columns.find(([first]) => Math.abs((first as PdfPiece).x - each.x) < 1);
    if (own) own.push(each);
    else columns.push([each]);
  }
  return { ...read, piece, wide, high, heading, columns, numbers };
};

describe("the page of a cut sheet", () => {
  it.each([
    [1, 1],
    [14, 1],
    [15, 3],
    [40, 3],
    [41, 4],
    [72, 4],
    [73, 5],
  ])("%d numbers are in %d columns at most, one after the other downwards, all of them, none on another", async (many, most) => {
    for (const paper of ["metric", "inch"] as const) {
      const read = await page(sheet(many), paper);
      expect(unreadable(read, 13)).toEqual([]);
      expect(read.columns.flat().map(({ text }) => Number(text))).toEqual(Array.from({ length: many }, (_, i) => i + 1));
      expect(read.columns.length).toBeLessThanOrEqual(most);
      // They are read from the left: each column stands a share of the page from the last.
      for (const [i, [first]] of read.columns.entries()) expect((first as PdfPiece).x).toBeCloseTo(13 + (i * (read.wide - 26)) / most, 0);
      // Root feeds are printed where there is room for them.
      expect(read.pieces.some(({ text }) => /mm\/s$/.test(text))).toBe(most <= 3);
      for (const column of read.columns)
        for (const [i, each] of column.entries()) {
          if (i === 0) continue;
          const step = each.y - (column[i - 1] as PdfPiece).y;
          expect(step).toBeGreaterThan(3.3);
          expect(step).toBeLessThan(5.9);
        }
    }
  });

  it("few numbers stand large and far apart, many as small as they must, and never smaller than is read at arm's length", async () => {
    const [few, many] = [await page(sheet(8)), await page(sheet(200))];
    expect(Math.round((few.numbers[0] as PdfPiece).size)).toBe(11);
    expect(((few.numbers[7] as PdfPiece).y - (few.numbers[0] as PdfPiece).y) / 7).toBeCloseTo(5.6, 1);
    expect((many.numbers[0] as PdfPiece).size).toBeLessThan(10);
    expect((many.numbers[0] as PdfPiece).size).toBeGreaterThanOrEqual(7.5);
    expect((many.numbers[1] as PdfPiece).y - (many.numbers[0] as PdfPiece).y).toBeGreaterThan(3.4);
  });

  it("numbers that have no room are counted, and nothing else gives way", async () => {
    const { numbers, piece, pieces, pages } = await page(sheet(400));
    const more = piece(/^and \d+ more numbers: on the screen$/);
    expect(numbers.length + Number(/\d+/.exec(more.text)?.[0])).toBe(400);
    expect(numbers.length).toBeGreaterThan(100);
    expect(piece("Cautions").y).toBeGreaterThan(more.y + 3);
    expect(unreadable({ pieces, pages }, 13)).toEqual([]);
    expect((await page(sheet(100))).pieces.some(({ text }) => text.includes("more numbers"))).toBe(false);
  });

  it("what comes after the table keeps its room, however much it is", async () => {
    for (const notes of [0, 1, 6, 10]) {
      const { piece, high, pages, pieces } = await page(sheet(60, notes));
      const last = piece("Measure it.");
      expect(high - last.y).toBeGreaterThan(10);
      expect(high - last.y).toBeLessThan(36);
      expect(last.x).toBeCloseTo(17, 0);
      expect(unreadable({ pages, pieces }, 13)).toEqual([]);
      if (notes > 1) expect(piece("Caution 2.").y).toBeGreaterThan(piece("Caution 1.").y + 2.5);
    }
  });

  it("the drawing is between what is set up and the pace, in the middle of the page", async () => {
    const { piece, wide, heading } = await page(sheet(20));
    const drawn = piece("templates here");
    expect(drawn.y).toBeGreaterThan(piece("Set-up").y + 15);
    expect(heading.y).toBeGreaterThan(drawn.y + 15);
    expect(heading.y).toBeLessThan(drawn.y + 35);
    expect(drawn.x).toBeCloseTo(wide / 2, 0);
    expect(piece("4 min 10 s").x + piece("4 min 10 s").wide).toBeCloseTo(wide - 13, 0);
    expect(piece("cutter")).toMatchObject({ colour: "#565b5d" });
    expect(piece("Long Tom")).toMatchObject({ mono: true });
    expect(piece("Long Tom").x).toBeCloseTo(13 + 26, 0);
  });
});
