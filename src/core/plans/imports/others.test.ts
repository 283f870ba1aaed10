import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { optimize } from "svgo";
import { afterAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../../cutters/design/demoCutters";
import type { Design } from "../../cutters/design/schema";
import { regionArea, signedArea } from "../../geometry/points";
import { writeDxf } from "../outputs/dxf";
import { templatesDrawing } from "../outputs/templates";
import { evaluatePanels } from "../panels";
import { firstPlan } from "../plan";
import { readDxf } from "./dxf";
import { readSvg } from "./svg";

const folder = mkdtempSync(path.join(tmpdir(), "others-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const PYTHON = "/usr/bin/python3";
const hasOther = existsSync("/usr/lib/python3/dist-packages/ezdxf/__init__.py");
const python = (script: string, ...args: string[]) => execFileSync(PYTHON, ["-c", script, ...args], { encoding: "utf8", maxBuffer: 1e8 });

/** Writes drawings of closed lines of every kind in several versions of the format, and says the area that its own flattening finds. */
const WRITE = `
import sys, json, math, random, ezdxf
from ezdxf import path
folder, count = sys.argv[1], int(sys.argv[2])
random.seed(7)
said = {}
def area(points):
    return abs(sum(a.x * b.y - b.x * a.y for a, b in zip(points, points[1:] + points[:1]))) / 2
for i in range(count):
    version = ["R12", "R2000", "R2007", "R2010", "R2018"][i % 5]
    doc = ezdxf.new(version); doc.header["$INSUNITS"] = 4
    msp = doc.modelspace()
    kind = ["bulges", "circle", "lines", "arcs", "ellipse", "spline"][(i // 5) % 6]
    if version == "R12" and kind in ("ellipse", "spline"): kind = "bulges"
    n = random.randint(4, 9)
    ring = [(random.uniform(20, 60) * math.cos(2 * math.pi * k / n), random.uniform(20, 60) * math.sin(2 * math.pi * k / n)) for k in range(n)]
    if kind == "bulges":
        pts = [(x, y, 0, 0, random.uniform(-0.4, 0.9)) for x, y in ring]
        e = msp.add_polyline2d([(x, y, b) for x, y, _, _, b in pts], format="xyb", close=True) if version == "R12" else msp.add_lwpolyline(pts, close=True)
        found = area(list(path.make_path(e).flattening(0.0005))[:-1])
    elif kind == "circle":
        r = random.uniform(5, 80); msp.add_circle((3, 4), r); found = math.pi * r * r
    elif kind == "lines":
        order = list(range(n)); random.shuffle(order)
        for k in order:
            a, b = ring[k], ring[(k + 1) % n]
            if random.random() < 0.5: a, b = b, a
            msp.add_line(a, b)
        found = abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, ring[1:] + ring[:1]))) / 2
    elif kind == "arcs":
        r, w = random.uniform(5, 20), random.uniform(30, 90)
        msp.add_line((0, 0), (w, 0)); msp.add_arc((w, r), r, 270, 90); msp.add_line((w, 2 * r), (0, 2 * r)); msp.add_arc((0, r), r, 90, 270)
        found = 2 * r * w + math.pi * r * r
    elif kind == "ellipse":
        a, q = random.uniform(20, 70), random.uniform(0.2, 0.95)
        msp.add_ellipse((1, 2), (a * 0.8, a * 0.6), q); found = math.pi * a * a * q
    else:
        e = msp.add_open_spline([(x, y, 0) for x, y in ring + ring[:1]], degree=random.choice([2, 3, 4]))
        found = area(list(path.make_path(e).flattening(0.0005))[:-1])
    name = f"{i}-{version}-{kind}.dxf"
    doc.saveas(folder + "/" + name); said[name] = found
print(json.dumps(said))
`;

/** Reads a drawing and says layers, unit and the area of every closed line, and each text. */
const READ = `
import sys, json, ezdxf
doc = ezdxf.readfile(sys.argv[1]); audit = doc.audit()
def area(p): return sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(p, p[1:] + p[:1])) / 2
msp = doc.modelspace()
print(json.dumps({
  "errors": [str(e.message) for e in audit.errors], "unit": doc.header["$INSUNITS"],
  "lines": [{"layer": e.dxf.layer, "closed": e.closed, "points": [list(p)[:2] for p in e.get_points("xy")]} for e in msp.query("LWPOLYLINE")],
  "texts": [e.dxf.text for e in msp.query("TEXT")]}))
`;

describe.skipIf(!hasOther)("another program's drawings in the exchange format (python3-ezdxf)", () => {
  it("what it saves, in five versions and of every kind of line, has the area that it finds itself, within half a per cent", () => {
    const said = JSON.parse(python(WRITE, folder, "60")) as Record<string, number>;
    expect(Object.keys(said).length).toBe(60);
    for (const [name, area] of Object.entries(said)) {
      const { regions } = readDxf(readFileSync(path.join(folder, name), "utf8"), undefined, 0.05);
      const found = regions.reduce((sum, region) => sum + regionArea(region), 0);
      // A line that crosses itself encloses by a rule; the other program's area is signed: only simple ones compare.
      if (regions.length === 1) expect(Math.abs(found / area - 1), name).toBeLessThan(0.005);
      else expect(found, name).toBeGreaterThan(0);
    }
  }, 60_000);
  it("what is given out it reads without a complaint: the same points, closed where they are, layers in words, millimetres", () => {
    const drawing = templatesDrawing(evaluatePanels(firstPlan(), DEMO_CUTTERS[0] as Design, false));
    const file = path.join(folder, "out.dxf");
    writeFileSync(file, writeDxf(drawing));
    const read = JSON.parse(python(READ, file)) as {
      errors: string[];
      unit: number;
      lines: { layer: string; closed: boolean; points: [number, number][] }[];
      texts: string[];
    };
    expect(read.errors).toEqual([]);
    expect(read.unit).toBe(4);
    expect(read.texts).toEqual(drawing.texts.map(({ text }) => text));
    expect(read.lines.map(({ layer, closed }) => [layer, closed])).toEqual(drawing.lines.map(({ layer, closed }) => [layer, closed]));
    for (const [i, { points }] of read.lines.entries()) {
      const mine = drawing.lines[i]?.points ?? [];
      expect(points.length).toBe(mine.length);
      for (const [k, [x, y]] of points.entries()) expect(Math.hypot(x - (mine[k]?.[0] ?? 0), y - (mine[k]?.[1] ?? 0))).toBeLessThan(1e-6);
    }
    expect(signedArea(read.lines.find(({ layer }) => layer === "finished part")?.points ?? [])).toBeGreaterThan(0);
  });
});

describe("drawings that an optimiser has rewritten", () => {
  it("a hundred icons enclose the same area before and after, within half a per cent", () => {
    const icons = path.resolve("node_modules/bootstrap-icons/icons");
    const names = readdirSync(icons).filter((_, i) => i % 20 === 7);
    expect(names.length).toBeGreaterThanOrEqual(100);
    const areaOf = (text: string) => readSvg(text, "mm", 0.05).regions.reduce((sum, region) => sum + regionArea(region), 0);
    for (const name of names) {
      const text = readFileSync(path.join(icons, name), "utf8").replace('width="16" height="16"', 'width="160mm" height="160mm"');
      const { data } = optimize(text, { multipass: true, plugins: ["preset-default", "convertShapeToPath", "mergePaths"] });
      expect(data, name).not.toBe(text);
      expect(Math.abs(areaOf(data) / areaOf(text) - 1), name).toBeLessThan(0.005);
    }
  }, 60_000);
});
