import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { RigDocument } from "@/core/rigs/rig";
import { type PdfPiece, readPdf, unreadable } from "../../../../tests/helpers/pdf";
import { TestApp } from "../../../../tests/helpers/testApp";
import { seedDemo } from "../demo/seedDemo";

interface Row {
  id: string;
  rig: RigDocument;
}
let app: TestApp;
let rows: Row[];
beforeAll(async () => {
  app = await TestApp.open();
  await seedDemo(app.db);
  rows = (await app.request<{ rigs: Row[] }>("GET", "/api/rigs")).body.rigs;
});
afterAll(() => app.close());

const [SOFT, EMBER] = ["#565b5d", "#a3341a"];
const named = (name: string) => {
  const row = rows.find(({ rig }) => rig.name === name);
  if (!row) throw new Error(`no ${name}`);
  return row;
};
const SWING = "Long Tom on the swing arm";
const page = async (id: string, units = "metric") => {
  const response = await app.request("GET", `/api/rigs/${id}/drawing?as=pdf&units=${units}`);
  expect(response.status).toBe(200);
  const read = readPdf(new Uint8Array(response.bytes));
  const piece = (text: string | RegExp): PdfPiece => {
    const found = read.pieces.find((each) => (typeof text === "string" ? each.text === text : text.test(each.text)));
    if (!found) throw new Error(`"${text}" is not on the sheet`);
    return found;
  };
  return { ...read, piece, headers: response.headers, all: read.pieces.map(({ text }) => text).join(" ") };
};

describe("a rig's build sheet", () => {
  it("every demo rig's: one page, words of the sheet not on one another and within its margins, whichever the paper", async () => {
    for (const units of ["metric", "inch"] as const)
      for (const { id, rig } of rows) {
        const { pages, pieces } = await page(id, units);
        expect(pages).toHaveLength(1);
        expect(pages[0]?.wide).toBeCloseTo(units === "metric" ? 210 : 215.9, 0);
        // A drawing's own words are tried at full size, and are closer when it is drawn small.
        const below = pieces.find(({ text }) => text.startsWith("Drawn at 1 to")) as PdfPiece;
        expect(
          unreadable({ pages, pieces }, 13, ({ y }) => y >= below.y - 0.1 || y < 25),
          rig.name,
        ).toEqual([]);
      }
  });

  it("is read from its name down: what it says, the drawing, its scale, figures beside what to build, cautions, the mains", async () => {
    const { piece, pages, headers, all, pieces } = await page(named(SWING).id);
    expect(headers.get("content-disposition")).toBe('attachment; filename="long-tom-on-the-swing-arm-rig.pdf"');
    const { wide, high } = pages[0] as { wide: number; high: number };
    const [name, kind, scale, mains] = [
      piece(SWING),
      pieces.find(({ size, colour }) => Math.round(size) === 11 && colour === SOFT) as PdfPiece,
      piece(/^Drawn at 1 to \d+/),
      piece(/^Mains wiring follows/),
    ];
    expect([name.bold, Math.round(kind.x + kind.wide), Math.abs(name.y - kind.y) < 3]).toEqual([true, Math.round(wide - 13), true]);
    expect([scale.colour, mains.colour]).toEqual([SOFT, SOFT]);
    expect(all).toContain("For Long Tom.");
    expect(all).toContain("Cuts Carp's tail fin.");
    expect(high - mains.y).toBeGreaterThan(8);
    expect(high - mains.y).toBeLessThan(14);
    const heads = ["wood", "hardware", "wiring"].flatMap((word) => pieces.filter(({ text, bold }) => text === word && bold));
    expect(heads.length).toBeGreaterThan(0);
    for (const head of heads) {
      expect(head.x).toBeCloseTo(wide / 2 + 4, 0);
      expect(head.y).toBeGreaterThan(scale.y + 3);
      // What to build is a list to tick, set in from its heading.
      const next = pieces.find(({ y, x }) => y > head.y + 1 && x > wide / 2) as PdfPiece;
      expect(next.x - head.x).toBeCloseTo(5, 0);
    }
    const figures = pieces.filter(({ mono, x, wide: own }) => mono && Math.abs(x + own - (13 + (wide - 26 - 8) / 2)) < 0.6);
    expect(figures.length).toBeGreaterThan(3);
    for (const [i, figure] of figures.entries()) {
      if (i > 0) expect(figure.y - (figures[i - 1] as PdfPiece).y).toBeCloseTo(4.4, 0);
      const label = pieces.find(({ x, y }) => Math.abs(x - 13) < 0.5 && Math.abs(y - figure.y) < 1);
      expect(label?.colour).toBe("#26292b");
    }
  });

  it("cautions are under everything else, the gravest first, in their own ink; what has no room is counted", async () => {
    const { rig } = named(SWING);
    // Too heavy a weight for too thin a thread, swung too far: many cautions.
    const response = await app.request<{ rig: Row }>("POST", "/api/rigs", { rig: { ...rig, name: "Asking for it", cutter: null, plan: null } });
    for (const id of [named(SWING).id, response.body.rig.id, ...rows.map((row) => row.id)]) {
      const { pieces, piece, pages } = await page(id);
      const mains = piece(/^Mains wiring follows/);
      const { high } = pages[0] as { high: number };
      const last = Math.max(...pieces.filter(({ colour, y }) => colour === "#26292b" && y < mains.y - 1).map(({ y }) => y));
      const notes = pieces.filter(({ y, size }) => y > last && y < mains.y - 1 && Math.round(size) === 8);
      let soft = false;
      for (const { colour, x, bold, text } of notes) {
        expect(x).toBeCloseTo(13, 0);
        expect([SOFT, EMBER]).toContain(colour);
        if (bold) expect(text).toMatch(/^\d+ more cautions are next to the rig/);
        // Notes come after what is worse.
        else if (colour === SOFT) soft = true;
        else expect(soft).toBe(false);
      }
      for (const { y } of notes) expect(y).toBeLessThan(high - 13);
    }
  });

  it("is drawn at full size as SVG and DXF under its own name; what there is not is refused", async () => {
    const { id } = named(SWING);
    for (const [as, type] of [
      ["svg", "image/svg+xml"],
      ["dxf", "application/dxf"],
    ] as const) {
      const response = await app.request("GET", `/api/rigs/${id}/drawing?as=${as}`);
      expect([response.status, response.headers.get("content-type")]).toEqual([200, type]);
      expect(response.headers.get("content-disposition")).toBe(`attachment; filename="long-tom-on-the-swing-arm-rig.${as}"`);
    }
    expect((await app.refusal("GET", `/api/rigs/${id}/drawing?as=png`))[2]).toBe("as");
    expect((await app.refusal("GET", `/api/rigs/${id}/drawing?as=svg&units=cubits`))[2]).toBe("units");
    expect(await app.refusal("GET", "/api/rigs/00000000-0000-4000-8000-000000000000/drawing?as=svg")).toEqual([404, "not-found"]);
  });

  it("measures are in the units asked for", async () => {
    const inch = await page(named(SWING).id, "inch");
    expect(inch.all).toMatch(/\d in\b/);
    const metric = await page(named(SWING).id);
    expect(metric.all).toMatch(/\d mm\b/);
    expect(metric.all).not.toMatch(/\d in\b/);
  });
});
