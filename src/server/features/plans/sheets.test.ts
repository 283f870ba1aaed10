import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newDesign } from "@/core/cutters/solve/defaults";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import type { Plan } from "@/core/plans/plan";
import { type PdfPiece, readPdf, unreadable } from "../../../../tests/helpers/pdf";
import { TestApp } from "../../../../tests/helpers/testApp";
import { seedDemo } from "../demo/seedDemo";

interface Row {
  id: string;
  plan: Plan;
  cutter?: { id: string; name: string };
}
let app: TestApp;
let rows: Row[];
beforeAll(async () => {
  app = await TestApp.open();
  await seedDemo(app.db);
  rows = (await app.request<{ plans: Row[] }>("GET", "/api/plans")).body.plans;
});
afterAll(() => app.close());

const SOFT = "#565b5d";
const named = (name: string) => {
  const row = rows.find(({ plan }) => plan.name === name);
  if (!row) throw new Error(`no ${name}`);
  return row;
};
const FIN = "Carp's tail fin";
const page = async (at: string) => {
  const response = await app.request("GET", at);
  expect(response.status).toBe(200);
  const read = readPdf(new Uint8Array(response.bytes));
  const piece = (text: string | RegExp): PdfPiece => {
    const found = read.pieces.find((each) => (typeof text === "string" ? each.text === text : text.test(each.text)));
    if (!found) throw new Error(`"${text}" is not on the sheet`);
    return found;
  };
  return { ...read, piece, headers: response.headers, all: read.pieces.map(({ text }) => text).join(" ") };
};
const stored = async (plan: Plan) => (await app.request<{ plan: Row }>("POST", "/api/plans", { plan })).body.plan;

describe("the cut sheet of a face", () => {
  it.each(["metric", "inch"] as const)("in %s: one page, nothing on anything else, nothing beyond the margins", async (units) => {
    // A pace is a search: those of every plan are looked for once.
    for (const { id, plan } of units === "metric" ? rows : [named(FIN)]) {
      const { pages, pieces } = await page(`/api/plans/${id}/sheet?units=${units}`);
      expect(pages).toHaveLength(1);
      expect(pages[0]?.wide).toBeCloseTo(units === "metric" ? 210 : 215.9, 0);
      expect(unreadable({ pages, pieces }, 13), plan.name).toEqual([]);
    }
  });

  it("is read from its head downwards: set-up and block side by side, templates, pace, cautions, what comes after", async () => {
    const { piece, pages, headers } = await page(`/api/plans/${named(FIN).id}/sheet?face=upper`);
    expect(headers.get("content-type")).toBe("application/pdf");
    expect(headers.get("content-disposition")).toBe('attachment; filename="carp-s-tail-fin-cut-sheet-upper.pdf"');
    expect(piece(FIN)).toMatchObject({ bold: true });
    const { wide } = pages[0] as { wide: number };
    const when = piece(/^cut sheet, \d{4}-\d\d-\d\d$/);
    expect([when.colour, Math.abs(when.x + when.wide - (wide - 13)) < 0.6]).toEqual([SOFT, true]);
    const order = ["Set-up", /^Pace: /, "Cautions", "Afterwards"];
    for (let i = 1; i < order.length; i++) expect(piece(order[i] as string).y).toBeGreaterThan(piece(order[i - 1] as string).y + 6);
    for (const heading of order) expect(piece(heading).bold).toBe(true);
    const [left, right] = [piece("Set-up"), piece("Block and weights")];
    expect([left.y, left.x, right.x].map(Math.round)).toEqual([right.y, 13, wide / 2 + 4].map(Math.round));
  });

  it("names every number with its seconds in rows of even height, words over their columns", async () => {
    const { pieces, piece } = await page(`/api/plans/${named(FIN).id}/sheet?face=upper`);
    const table = pieces.filter(({ y }) => y > piece(/^Pace: /).y && y < piece("Cautions").y);
    const over = (word: string) => table.filter(({ text, colour }) => text === word && colour === SOFT);
    const columns = over("to");
    expect(columns.length).toBeGreaterThan(0);
    expect(over("s")).toHaveLength(columns.length);
    expect(over("wait")).toHaveLength(columns.length);
    for (const column of columns) {
      const under = table.filter(({ x, bold, y }) => bold && Math.abs(x - column.x) < 1 && y > column.y);
      expect(under.length).toBeGreaterThan(2);
      const steps = under.slice(1).map(({ y }, i) => y - (under[i] as PdfPiece).y);
      for (const step of steps) expect(Math.abs(step - (steps[0] as number))).toBeLessThan(0.3);
      // Seconds next to each number, one under the other's end.
      const ends = under.map(({ y }) =>
        table.find((each) => each.mono && /^[\d.]+$/.test(each.text) && Math.abs(each.y - y) < 1.2 && each.x > column.x && each.x < column.x + 25),
      );
      expect(ends.every((each) => each !== undefined)).toBe(true);
      const rights = (ends as PdfPiece[]).map(({ x, wide }) => x + wide);
      for (const right of rights) expect(Math.abs(right - (rights[0] as number))).toBeLessThan(0.6);
    }
  });

  it("is of a face and a panel there are; the first face where none is named", async () => {
    const { id } = named(FIN);
    const first = await page(`/api/plans/${id}/sheet`);
    expect(first.headers.get("content-disposition")).toMatch(/cut-sheet-(upper|lower|whole)\.pdf/);
    expect(await app.refusal("GET", `/api/plans/${id}/sheet?face=whole`)).toEqual([422, "not-one-of", "face"]);
    expect(await app.refusal("GET", `/api/plans/${id}/sheet?face=middle`)).toEqual([422, "not-one-of", "face"]);
    expect(await app.refusal("GET", `/api/plans/${id}/sheet?panel=9`)).toEqual([422, "out-of-range", "panel"]);
    expect((await app.refusal("GET", `/api/plans/${id}/sheet?panel=0`))[2]).toBe("panel");
  });

  it("is refused where no cutter cuts it: none named, or one that is gone", async () => {
    const plan = { ...named(FIN).plan, name: "Of no cutter", cutter: null };
    const { id } = await stored(plan);
    expect(await app.refusal("GET", `/api/plans/${id}/sheet`)).toEqual([422, "no-solution", "cutter"]);
    const { body } = await app.request<{ cutter: { id: string } }>("POST", "/api/cutters", { design: newDesign("bow", "Soon gone") });
    const own = await stored({ ...plan, name: "Of a cutter that is gone", cutter: { id: body.cutter.id, name: "Soon gone" } });
    await app.request("DELETE", `/api/cutters/${body.cutter.id}`);
    expect(await app.refusal("GET", `/api/plans/${own.id}/sheet`)).toEqual([422, "no-solution", "cutter"]);
    // Its templates are still to be had.
    expect((await app.request("GET", `/api/plans/${own.id}/templates?as=svg`)).status).toBe(200);
  });
});

describe("templates as files", () => {
  const get = (id: string, query: string) => app.request("GET", `/api/plans/${id}/templates?${query}`);

  it.each([
    ["as=svg", "image/svg+xml", "carp-s-tail-fin-templates.svg", /<svg /],
    ["as=dxf&end=tip", "application/dxf", "carp-s-tail-fin-templates-tip.dxf", /LWPOLYLINE/],
    ["as=pdf&paper=a3", "application/pdf", "carp-s-tail-fin-templates-a3.pdf", /^%PDF/],
    ["as=pdf&end=root", "application/pdf", "carp-s-tail-fin-templates-root-a4.pdf", /^%PDF/],
    ["as=coordinates", "text/plain; charset=utf-8", "carp-s-tail-fin-root.dat", /^Carp's tail fin, root/],
    ["as=coordinates&end=tip", "text/plain; charset=utf-8", "carp-s-tail-fin-tip.dat", /^Carp's tail fin, tip/],
  ])("%s", async (query, type, name, begins) => {
    const response = await get(named(FIN).id, query);
    expect([response.status, response.headers.get("content-type")]).toEqual([200, type]);
    expect(response.headers.get("content-disposition")).toBe(`attachment; filename="${name}"`);
    expect(response.bytes.toString("latin1")).toMatch(begins);
  });

  it("both ends together hold what either holds alone", async () => {
    const { id } = named(FIN);
    const paths = async (end: string) => [...(await get(id, `as=svg&end=${end}`)).bytes.toString().matchAll(/ d="([^"]+)"/g)].length;
    expect(await paths("both")).toBe((await paths("root")) + (await paths("tip")));
    expect(await paths("root")).toBeGreaterThan(0);
  });

  it("on sheets of their own: named by row and column, a ruler on each, marks that meet", async () => {
    const response = await get(named(FIN).id, "as=pdf&paper=a4");
    const { pages, pieces } = readPdf(new Uint8Array(response.bytes));
    expect(pages.length).toBeGreaterThan(1);
    for (let i = 1; i <= pages.length; i++) {
      const own = pieces.filter(({ page: each }) => each === i);
      expect(own.filter(({ text }) => text === "100 mm")).toHaveLength(1);
      const title = own.find(({ text }) => /: row \d+ of \d+, column \d+ of \d+$/.test(text)) as PdfPiece;
      const ruler = own.find(({ text }) => text === "100 mm") as PdfPiece;
      expect(title.y).toBeGreaterThan(ruler.y + 2);
      expect(title.x).toBeLessThan(ruler.x - 95);
    }
    const places = pieces.flatMap(({ text }) => /row (\d+) of (\d+), column (\d+) of (\d+)$/.exec(text)?.slice(1).map(Number) ?? []);
    expect(places.length).toBe(4 * pages.length);
    for (let i = 0; i < places.length; i += 4) {
      const [row, rowsAll, column, columnsAll] = places.slice(i, i + 4) as [number, number, number, number];
      expect(row >= 1 && row <= rowsAll && column >= 1 && column <= columnsAll).toBe(true);
    }
    expect((await app.refusal("GET", `/api/plans/${named(FIN).id}/templates?as=pdf&ruler_mm=80`))[2]).toBe("ruler_mm");
    expect((await app.refusal("GET", `/api/plans/${named(FIN).id}/templates?as=png`))[2]).toBe("as");
    expect(await app.refusal("GET", `/api/plans/${named(FIN).id}/templates?as=coordinates&panel=12`)).toEqual([422, "out-of-range", "panel"]);
  });

  it("are held back where a twist is in them that nobody asked for", async () => {
    const { plan } = named(FIN);
    const { id } = await stored({ ...plan, name: "Twisted", part: { ...plan.part, washout_deg: 3 }, template: { ...plan.template, twist: false } });
    const [status, code] = await app.refusal("GET", `/api/plans/${id}/templates?as=svg`);
    expect([status, code]).toEqual([422, "no-solution"]);
    expect((await get(id, "as=coordinates")).status).toBe(200);
  });

  it("the app's own lettering is given out for the page that draws it", async () => {
    const { status, headers, bytes } = await app.request("GET", "/api/lettering");
    expect([status, headers.get("content-type"), headers.get("cache-control")]).toEqual([200, "font/ttf", "public, max-age=31536000, immutable"]);
    // A TrueType file begins with its version, 1.0 (OpenType specification, Organization of an OpenType font).
    expect(bytes.readUInt32BE(0)).toBe(0x00010000);
    expect(DEMO_PLANS.length).toBeGreaterThan(2);
  });
});
