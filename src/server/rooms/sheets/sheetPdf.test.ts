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
import { sheetPdf } from "@/server/rooms/sheets/sheetPdf";

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

describe("the wiring as an SVG file", () => {
  it("is well-formed whatever the cutter is called (read by an outside XML parser)", () => {
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
