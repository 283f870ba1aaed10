import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import type { Design } from "@/core/cutters/design/schema";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import { drawingToSvg } from "@/core/kernel/drawing";
import { buildSheet } from "@/core/sheets/buildSheet";
import { sheetPdf } from "@/server/features/sheets/sheetPdf";
import { type PdfPiece, readPdf, unreadable } from "../../../../tests/helpers/pdf";

const folder = mkdtempSync(path.join(tmpdir(), "upwind-sheet-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const foams = DEMO_CUTTERS.map((design) => design.job.foam);

/** The PDF as poppler's tools read it. */
async function read(design: Design, units: "metric" | "inch") {
  const file = path.join(folder, "sheet.pdf");
  writeFileSync(file, await sheetPdf(buildSheet(design, DEMO_DRAWER, foams, units), units, "2026-11-23"));
  const tool = (name: string, ...args: string[]) => {
    const result = spawnSync(name, args, { encoding: "utf8" });
    if (result.error || result.status !== 0) throw new Error(`${name}: ${result.error?.message ?? result.stderr}`);
    return result.stdout;
  };
  return { info: tool("pdfinfo", file), text: tool("pdftotext", "-layout", file, "-"), images: tool("pdfimages", "-list", file) };
}

describe("the build sheet as PDF, opened by an outside tool (poppler)", () => {
  it.each(DEMO_CUTTERS.map((design) => [design.name, design] as const))("%s: one A4 page with its text, in vectors only", async (name, design) => {
    const { info, text, images } = await read(design, "metric");
    expect(info).toMatch(/Pages:\s+1\n/);
    expect(info).toMatch(/Page size:\s+595\.\d+ x 841\.\d+ pts \(A4\)/);
    for (const words of [
      name,
      "Parts",
      "Settings card",
      "Cautions",
      "Wiring",
      "Before switching on",
      "mains side: by a licensed",
      "Local electrical codes rule",
    ])
      expect(text).toContain(words);
    // Nothing but the two heading lines of the list: no picture in it.
    expect(images.trim().split("\n")).toHaveLength(2);
  });

  it("is letter paper in inch units for inch people", async () => {
    const { info, text } = await read(DEMO_CUTTERS[0] as Design, "inch");
    expect(info).toMatch(/Page size:\s+612 x 792 pts \(letter\)/);
    expect(text).toMatch(/51\.18 in between posts/);
    expect(text).toMatch(/lbf/);
    expect(text).not.toMatch(/\d mm\b/);
  });

  it("is printed for a foam that gives way a degree above the room, the narrowest the limits allow", async () => {
    const soft: Design = {
      ...(DEMO_CUTTERS[0] as Design),
      name: "Soft as wax",
      ambient_C: 60,
      job: { ...(DEMO_CUTTERS[0] as Design).job, foam: { family: "eps", density_kg_m3: 20, collapse_C: 61 } },
    };
    const sheet = buildSheet(soft, DEMO_DRAWER, [soft.job.foam, ...foams], "metric");
    expect(sheet.settings.length).toBeGreaterThan(0);
    const { info, text } = await read(soft, "metric");
    expect(info).toMatch(/Pages:\s+1\n/);
    expect(text).toContain("Soft as wax");
    expect(text).not.toMatch(/NaN|Infinity/);
  });

  it("stands any name, and the longest notes of hazard still fit one page", async () => {
    const worst: Design = {
      ...(DEMO_CUTTERS[4] as Design),
      name: "Ωμέγα <carp> & fin — 漢字, an eighty-character name that goes on and on till here",
      supply: { kind: "battery", chemistry: "lead-acid", cells: 12, capacity_Ah: 40 },
      tension: { device: "spring", hot_N: 400 },
      wiring: { fuse_A: null, jumper: false, insulatedPost: false, switch: "none", isolation: "unknown" },
    };
    const { info, text } = await read(worst, "metric");
    expect(info).toMatch(/Pages:\s+1\n/);
    expect(text).toContain("NOT READY");
    expect(text).toContain("Ωμέγα <carp> & fin");
    expect(text).toMatch(/and \d+ more on the desk/);
  });
});

describe("what is where on the build sheet", () => {
  const SOFT = "#565b5d";
  const worst: Design = {
    ...(DEMO_CUTTERS[4] as Design),
    name: "A cutter of a name that is far too long for one line of the sheet",
    supply: { kind: "battery", chemistry: "lead-acid", cells: 12, capacity_Ah: 40 },
    tension: { device: "spring", hot_N: 400 },
    wiring: { fuse_A: null, jumper: false, insulatedPost: false, switch: "none", isolation: "unknown" },
  };
  const designs = [...DEMO_CUTTERS, worst].map((design) => [design.name, design] as const);
  const made = async (design: Design, units: "metric" | "inch" = "metric") => {
    const sheet = buildSheet(design, DEMO_DRAWER, foams, units);
    const page = readPdf(await sheetPdf(sheet, units, "2026-11-23"));
    const piece = (text: string | RegExp, nth = 0): PdfPiece => {
      const found = page.pieces.filter((each) => (typeof text === "string" ? each.text === text : text.test(each.text)))[nth];
      if (!found) throw new Error(`"${text}" is not on the sheet`);
      return found;
    };
    const { wide, high } = page.pages[0] as { wide: number; high: number };
    return { sheet, page, piece, wide, high, all: page.pieces.map(({ text }) => text).join(" ") };
  };
  /** A text that was broken into lines is found in one piece. */
  const holds = (all: string, text: string) => all.includes(text.replaceAll(/\s+/g, " "));

  it.each(designs)("%s: nothing lies on anything else or leaves the margins, on either paper", async (_name, design) => {
    for (const units of ["metric", "inch"] as const) {
      const { page } = await made(design, units);
      expect(unreadable(page, 13)).toEqual([]);
    }
  });

  it.each(designs)("%s: the parts are read downwards on the left, settings and cautions on the right, then wiring and list", async (_name, design) => {
    const { sheet, page, piece, all, wide, high } = await made(design);
    const order = [
      ["Parts", "Wiring", "Before switching on"],
      ["Settings card", "Cautions", "Wiring"],
    ] as const;
    for (const column of order)
      for (let i = 1; i < column.length; i++) expect(piece(column[i] as string).y).toBeGreaterThan(piece(column[i - 1] as string).y + 5);
    for (const heading of ["Parts", "Settings card", "Cautions", "Wiring", "Before switching on"])
      expect(piece(heading)).toMatchObject({ bold: true, size: 10 + 2 / 3 });
    expect(piece("Parts").y).toBeCloseTo(piece("Settings card").y, 6);
    expect(piece("Parts").x).toBeCloseTo(13, 0);
    expect(piece("Settings card").x).toBeCloseTo(wide / 2 + 4, 0);
    for (const { part, words, drawer, inDrawer } of sheet.parts) {
      expect(piece(part).bold).toBe(true);
      expect(holds(all, words), words).toBe(true);
      if (drawer) expect(holds(all, `${inDrawer ? "in the drawer: " : ""}${drawer}`), drawer).toBe(true);
    }
    const soft = piece(/^in the drawer: /);
    expect([soft.colour, soft.x > 32]).toEqual([SOFT, true]);
    expect(holds(all, sheet.toBuy.words)).toBe(true);
    for (const { foam, setting, feed, kerf } of sheet.settings) {
      expect(piece(foam).bold).toBe(true);
      if (setting === null) continue;
      const row = page.pieces.find(({ text, y }) => text === `${setting} at ${feed}` && Math.abs(y - piece(foam).y) < 1);
      expect([foam, row?.mono]).toEqual([foam, true]);
      expect(holds(all, kerf)).toBe(true);
    }
    const key = piece("foam, knob and feed, kerf; cool side of clean");
    expect([key.colour, key.y > piece((sheet.settings.at(-1) as { foam: string }).foam).y]).toEqual([SOFT, true]);
    for (const item of sheet.checklist) expect(holds(all, item), item).toBe(true);
    expect(piece(/^Extra-low voltage only/)).toMatchObject({ colour: SOFT });
    // The list keeps its place at the foot regardless of what is above it.
    expect(high - piece("Before switching on").y).toBeCloseTo(13 + 31 - 4 + 3.4, 0);
  });

  it.each(designs)("%s: dangers are said to be, in bold, and no more cautions than there is room for", async (_name, design) => {
    const { sheet, all, page } = await made(design);
    const shown = sheet.cautions.slice(0, 6);
    for (const { severity, words } of shown) expect(holds(all, `${severity === "danger" ? "Danger. " : ""}${words}`), words).toBe(true);
    const dangers = page.pieces.filter(({ text }) => text.startsWith("Danger. "));
    expect(dangers.length).toBe(shown.filter(({ severity }) => severity === "danger").length);
    for (const { bold } of dangers) expect(bold).toBe(true);
    for (const { severity, words } of shown)
      if (severity !== "danger")
        expect(page.pieces.find(({ text }) => text.length > 12 && words.replaceAll(/\s+/g, " ").startsWith(text))?.bold, words).toBe(false);
    expect(/and (\d+) more on the desk/.exec(all)?.[1]).toBe(sheet.cautions.length > 6 ? String(sheet.cautions.length - 6) : undefined);
    expect(all.includes("None beyond the usual")).toBe(sheet.cautions.length === 0);
    for (const { never, words } of sheet.wiringNotes) expect(holds(all, `× ${words}`)).toBe(never);
  });

  it("the head: its name, what it is and when, and whether it is ready, at the right edge", async () => {
    const { sheet, piece, wide } = await made(worst);
    // Smaller where it is long, and only what has no room even then is left out.
    const sizes: number[] = [];
    for (const letters of [12, 36, 42, 48, 54]) {
      const name = worst.name.slice(0, letters).trim();
      const own = (await made({ ...worst, name })).piece(name);
      expect(own.bold).toBe(true);
      sizes.push(Math.round(own.size));
    }
    expect([...new Set(sizes)]).toEqual([18, 15, 13]);
    const longer = await made(worst);
    const cut = longer.piece(/^A cutter of a name/);
    expect([cut.size, cut.text.endsWith("…"), worst.name.startsWith(cut.text.slice(0, -1).trimEnd())]).toEqual([12 + 2 / 3, true, true]);
    const gap = Math.min(longer.piece(/, 2026-11-23$/).x, longer.piece("NOT READY: see cautions").x) - cut.x - cut.wide;
    expect([gap > 3, gap < 9]).toEqual([true, true]);
    const [kind, not] = [piece(`${sheet.kind}, 2026-11-23`), piece("NOT READY: see cautions")];
    for (const { x, wide: own } of [kind, not]) expect(x + own).toBeCloseTo(wide - 13, 0);
    expect([kind.colour, not.bold, not.y > kind.y]).toEqual([SOFT, true, true]);
    const sound = await made(DEMO_CUTTERS[0] as Design);
    expect(sound.piece("not marked ready").bold).toBe(true);
    expect(sound.piece("Long Tom")).toMatchObject({ bold: true, size: 18 });
    const ready = await made({ ...(DEMO_CUTTERS[0] as Design), ready: true });
    expect(ready.piece("marked ready").bold).toBe(false);
  });

  it("figures are in four columns, the value over its name", async () => {
    const { sheet, piece, wide } = await made(DEMO_CUTTERS[0] as Design);
    for (const [i, { value, label }] of sheet.figures.entries()) {
      const [over, under] = [piece(value), piece(label)];
      expect([over.mono, under.colour, under.mono]).toEqual([true, SOFT, false]);
      expect(over.x).toBeCloseTo(under.x, 0);
      expect(over.x).toBeCloseTo(13 + ((i % 4) * (wide - 26)) / 4, 0);
      expect(under.y - over.y).toBeGreaterThan(2);
      const above = sheet.figures[i - 4];
      if (above) expect(over.y - piece(above.value).y).toBeCloseTo(8.4, 0);
    }
  });
});

describe("the wiring as an SVG file", () => {
  it("is well-formed for any name of the cutter (read by an outside XML parser)", () => {
    const file = path.join(folder, "wiring.svg");
    for (const design of [...DEMO_CUTTERS, { ...(DEMO_CUTTERS[0] as Design), name: '<script>"&\u0007' }]) {
      writeFileSync(file, drawingToSvg(buildSheet(design, [], [], "metric").wiring));
      const result = spawnSync(
        "python3",
        [
          "-c",
          "import sys,xml.dom.minidom as m; d=m.parse(sys.argv[1]); print(d.documentElement.tagName, len(d.getElementsByTagName('path')), len(d.getElementsByTagName('script')))",
          file,
        ],
        { encoding: "utf8" },
      );
      expect(result.stdout).toMatch(/^svg \d\d+ 0\n$/);
    }
  });
});
