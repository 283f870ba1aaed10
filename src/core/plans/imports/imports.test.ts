import { readFileSync } from "node:fs";
import path from "node:path";
import DxfParser from "dxf-parser";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { refusal } from "../../../../tests/helpers/headless";
import { offset } from "../../geometry/offset";
import { boundsOf, nearest, type Outline, type Point, perimeter, regionArea, signedArea, transformed, translation } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { writeDxf } from "../outputs/dxf";
import { writeSvg } from "../outputs/svg";
import { drawShape } from "../shapes";
import { knowFont, letters } from "../shapes/text";
import { readCoordinates, writeCoordinates } from "./coordinates";
import { readDxf } from "./dxf";
import type { Imported } from "./imported";
import { joined } from "./joined";
import { readSvg } from "./svg";

const area = ({ regions }: Pick<Imported, "regions">) => regions.reduce((sum, region) => sum + regionArea(region), 0);
const svg = (inner: string, head = 'width="100mm" height="100mm" viewBox="0 0 100 100"') =>
  readSvg(`<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inner}</svg>`, undefined, 0.05);
/** Farthest that two outlines lie apart, either way. */
const apart = (a: Outline, b: Outline) => Math.max(...a.map((point) => nearest(point, b).distance), ...b.map((point) => nearest(point, a).distance));

describe("vector drawings", () => {
  it("basic shapes have the areas of their closed forms", () => {
    expect(area(svg('<rect x="10" y="20" width="30" height="12"/>'))).toBeCloseTo(360, 3);
    expect(area(svg('<rect width="30" height="20" rx="4" ry="2"/>'))).toBeCloseTo(600 - (4 - Math.PI) * 8, 1);
    expect(area(svg('<circle cx="50" cy="50" r="20"/>'))).toBeCloseTo(Math.PI * 400, 0);
    expect(area(svg('<ellipse cx="50" cy="50" rx="30" ry="10"/>'))).toBeCloseTo(Math.PI * 300, 0);
    expect(area(svg('<polygon points="0,0 40,0 0 30"/>'))).toBeCloseTo(600, 3);
    expect(area(svg('<polyline points="0,0 40,0 40,30"/>'))).toBeCloseTo(600, 3);
  });
  it("every path command, absolute and relative, repeated and short", () => {
    expect(area(svg('<path d="M10 10H40V30H10Z"/>'))).toBeCloseTo(600, 3);
    expect(area(svg('<path d="m10 10h30v20h-30z"/>'))).toBeCloseTo(600, 3);
    expect(area(svg('<path d="M10,10 40 10 40 30 10 30"/>'))).toBeCloseTo(600, 3);
    // Green's theorem on a cubic: 3/5 of chord times arm for arms square to it; on a quadratic 2/3 of the triangle's.
    expect(area(svg('<path d="M20 50C20 20 80 20 80 50Z"/>'))).toBeCloseTo((3 / 5) * 60 * 30, 0);
    expect(area(svg('<path d="M20 50Q50 10 80 50Z"/>'))).toBeCloseTo((2 / 3) * 60 * 20, 0);
    expect(area(svg('<path d="M20 50c0-15 15-30 30-30s30 15 30 30z"/>'))).toBeGreaterThan(1300);
    expect(area(svg('<path d="M20 50q15-20 30 0t30 0V90H20z"/>'))).toBeCloseTo(60 * 40, 0);
    for (const [flags, share] of [
      ["0 1", 0.25],
      ["1 1", 0.75],
    ] as const) {
      // A quarter or three quarters of a circle of radius 20 cut off by its chord.
      const circle = Math.PI * 400;
      expect(area(svg(`<path d="M50 30A20 20 0 ${flags} 70 50Z"/>`)) / 1).toBeCloseTo(share === 0.25 ? circle / 4 - 200 : (3 * circle) / 4 + 200, 0);
    }
    // Radii too small for their ends are scaled up: half a circle.
    expect(area(svg('<path d="M30 50A1 1 0 0 1 70 50Z"/>'))).toBeCloseTo((Math.PI * 400) / 2, 0);
    expect(area(svg('<path d="M30 50A40 20 90 0 1 70 50Z"/>'))).toBeGreaterThan(0);
  });
  it("its own fill rule, and things that lie over one another are one", () => {
    const nested = (rule: string) => `<path fill-rule="${rule}" d="M0 0H60V60H0ZM10 10H50V50H10Z"/>`;
    expect(area(svg(nested("evenodd")))).toBeCloseTo(2000, 3);
    expect(svg(nested("evenodd")).regions[0]?.holes).toHaveLength(1);
    expect(area(svg(nested("nonzero")))).toBeCloseTo(3600, 3);
    expect(area(svg('<g fill-rule="evenodd"><path d="M0 0H60V60H0ZM10 10H50V50H10Z"/></g>'))).toBeCloseTo(2000, 3);
    expect(
      area(
        svg(
          '<style>.ring{fill-rule:evenodd} #none{fill:none}</style><path class="big ring" d="M0 0H60V60H0ZM10 10H50V50H10Z"/><path id="none" d="M0 0H90V90H0Z"/>',
        ),
      ),
    ).toBeCloseTo(2000, 3);
    expect(svg('<rect width="40" height="40"/><rect x="20" y="20" width="40" height="40"/>').regions).toHaveLength(1);
    expect(area(svg('<rect width="40" height="40"/><rect x="20" y="20" width="40" height="40"/>'))).toBeCloseTo(2800, 3);
  });
  it("transforms, uses, nested drawings and what is not shown", () => {
    expect(area(svg('<g transform="translate(5 5) rotate(30) scale(2)"><rect width="10" height="5" transform="skewX(20)"/></g>'))).toBeCloseTo(200, 2);
    expect(area(svg('<rect width="10" height="5" transform="matrix(0 3 -2 0 40 10)"/>'))).toBeCloseTo(300, 2);
    expect(
      area(svg('<defs><rect id="a" width="10" height="10"/></defs><use href="#a" x="20"/><use xmlns:xlink="x" xlink:href="#a" x="50" y="5"/>')),
    ).toBeCloseTo(200, 2);
    expect(area(svg('<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol><use href="#s" width="30" height="30"/>'))).toBeCloseTo(900, 2);
    expect(area(svg('<svg x="10" y="10" width="50" height="50" viewBox="0 0 5 5"><rect width="5" height="5"/></svg>'))).toBeCloseTo(2500, 2);
    expect(
      area(
        svg(
          '<rect width="10" height="10"/><rect display="none" width="90" height="90"/><g visibility="hidden"><rect width="80" height="80"/></g><clipPath id="c"><rect width="70" height="70"/></clipPath>',
        ),
      ),
    ).toBeCloseTo(100, 2);
  });
  it("units and viewBox: a millimetre is a millimetre regardless of the numbers inside", () => {
    const width = (head: string) => {
      const { minX, maxX } = boundsOf(svg('<rect width="10" height="10"/>', head).regions[0]?.outline as Outline);
      return maxX - minX;
    };
    expect(width('width="100mm" height="100mm" viewBox="0 0 10 10"')).toBeCloseTo(100, 6);
    expect(width('width="2in" height="2in" viewBox="0 0 20 20"')).toBeCloseTo(25.4, 6);
    expect(width('width="10cm" height="4cm" viewBox="0 0 20 20"')).toBeCloseTo(20, 6);
    expect(width('width="10cm" height="4cm" viewBox="0 0 20 20" preserveAspectRatio="none"')).toBeCloseTo(50, 6);
    expect(width('width="96" height="96"')).toBeCloseTo((10 * 25.4) / 96, 4);
    expect(width("")).toBeCloseTo((10 * 25.4) / 96, 4);
    const bare = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 50 50"><rect width="10" height="10"/></svg>';
    const { minX, maxX, minY, maxY } = boundsOf(readSvg(bare, "mm", 0.05).regions[0]?.outline as Outline);
    // y is turned up: what is at the top of the drawing stands high.
    expect([maxX - minX, minY, maxY]).toEqual([10, 40, 50]);
    expect(area(readSvg(bare, "in", 0.05))).toBeCloseTo(100 * 25.4 ** 2, 1);
  });
  it("lines without a fill are cut lines: joined where they meet; what encloses nothing is reported", () => {
    const four = '<g fill="none" stroke="red"><path d="M0 0H50"/><path d="M50.02 0V40"/><path d="M0 40H50"/><path d="M0 40V0.01"/></g>';
    const read = svg(four);
    expect(area(read)).toBeCloseTo(2000, -1);
    expect(read.notes.join("\n")).toMatch(/lines to cut along[\s\S]*joined: /);
    expect(refusal(() => svg('<path fill="none" stroke="red" d="M0 0H50"/>')).message).toMatch(
      /nothing in this drawing encloses anything.*1 line not imported/,
    );
    expect(refusal(() => svg("<text>hello</text>")).message).toContain("1 text not read");
  });
  it("a fault in a path's data ends it there, as the standard says, and is reported", () => {
    const read = svg('<path d="M0 0H40V40H0Z M5 5 L nonsense"/>');
    expect(area(read)).toBeCloseTo(1600, 3);
    expect(read.warnings).toMatchObject([{ code: "path", share: 1 }]);
  });
  it.each([
    ["no drawing", "hello"],
    ["another language", "<html><body/></html>"],
    ["cut short", "<svg><path d='M0 0"],
    ["a use of itself", '<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/></g></svg>'],
    ["too deep", `<svg>${"<g>".repeat(5000)}${"</g>".repeat(5000)}</svg>`],
    ["far away", '<svg><rect x="1e12" width="5" height="5"/></svg>'],
    ["entities without end", '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]><svg><text>&b;&b;</text></svg>'],
  ])("%s is refused in words", (_name, text) => {
    expect(["wrong-format", "out-of-range", "no-solution"]).toContain(refusal(() => readSvg(text, undefined, 0.05)).code);
  });
});

const dxfOf = (entities: string, header = "") => `0\nSECTION\n2\nHEADER\n${header}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const pairs = (...codes: (string | number)[]) => `${codes.join("\n")}\n`;
const line = (x1: number, y1: number, x2: number, y2: number) => pairs(0, "LINE", 8, "0", 10, x1, 20, y1, 30, 0, 11, x2, 21, y2, 31, 0);
const MM = pairs(9, "$INSUNITS", 70, 4);

describe("exchange drawings", () => {
  it("lines in any order and direction become one outline; doubles and stubs are dropped and reported", () => {
    const read = readDxf(
      dxfOf([line(0, 0, 50, 0), line(50, 30, 50, 0.02), line(0, 30, 50, 30), line(0, 30, 0, 0), line(50, 0, 0, 0), line(7, 7, 7, 7)].join(""), MM),
      undefined,
      0.05,
    );
    expect(area(read)).toBeCloseTo(1500, 0);
    expect(read.notes.join("\n")).toMatch(/1 line without length[\s\S]*1 line drawn twice[\s\S]*joined: 1 pair/);
  });
  it("bulges, arcs, circles, ellipses: closed forms", () => {
    const stadium = pairs(0, "LWPOLYLINE", 8, "0", 90, 4, 70, 1, 10, 0, 20, 0, 10, 40, 20, 0, 42, 1, 10, 40, 20, 20, 10, 0, 20, 20, 42, 1);
    expect(area(readDxf(dxfOf(stadium, MM), undefined, 0.05))).toBeCloseTo(800 + Math.PI * 100, 0);
    const lens = pairs(0, "LWPOLYLINE", 8, "0", 90, 2, 70, 1, 10, 0, 20, 0, 42, 0.5, 10, 40, 20, 0, 42, 0.5);
    const sweep = 4 * Math.atan(0.5);
    const r = 20 / Math.sin(sweep / 2);
    expect(area(readDxf(dxfOf(lens, MM), undefined, 0.05))).toBeCloseTo(r * r * (sweep - Math.sin(sweep)), 0);
    expect(area(readDxf(dxfOf(pairs(0, "CIRCLE", 8, "0", 10, 5, 20, 5, 40, 30), MM), undefined, 0.05))).toBeCloseTo(Math.PI * 900, 0);
    expect(
      area(readDxf(dxfOf(pairs(0, "ELLIPSE", 8, "0", 10, 0, 20, 0, 30, 0, 11, 30, 21, 40, 31, 0, 40, 0.4, 41, 0, 42, 6.283185307179586), MM), undefined, 0.05)),
    ).toBeCloseTo(Math.PI * 50 * 20, 0);
    const pie = [line(0, 0, 20, 0), pairs(0, "ARC", 8, "0", 10, 0, 20, 0, 40, 20, 50, 0, 51, 90), line(0, 20, 0, 0)].join("");
    expect(area(readDxf(dxfOf(pie, MM), undefined, 0.05))).toBeCloseTo(Math.PI * 100, 0);
  });
  it("a rational spline that is a circle is a circle", () => {
    const s = Math.SQRT1_2;
    const points: [number, number, number][] = [
      [1, 0, 1],
      [1, 1, s],
      [0, 1, 1],
      [-1, 1, s],
      [-1, 0, 1],
      [-1, -1, s],
      [0, -1, 1],
      [1, -1, s],
      [1, 0, 1],
    ];
    const spline = pairs(
      0,
      "SPLINE",
      8,
      "0",
      70,
      5,
      71,
      2,
      72,
      12,
      73,
      9,
      ...[0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4].flatMap((knot) => [40, knot]),
      ...points.flatMap(([, , w]) => [41, w]),
      ...points.flatMap(([x, y]) => [10, 25 * x, 20, 25 * y, 30, 0]),
    );
    const { regions } = readDxf(dxfOf(spline, MM), undefined, 0.05);
    expect(regionArea(regions[0] as never)).toBeCloseTo(Math.PI * 625, 0);
    for (const [x, y] of regions[0]?.outline ?? []) expect(Math.abs(Math.hypot(x, y) - 25)).toBeLessThan(1e-4);
  });
  it("blocks are placed, turned and scaled; what draws no line is reported; an outline in an outline is a hole", () => {
    const blocks = `0\nSECTION\n2\nBLOCKS\n${pairs(0, "BLOCK", 8, "0", 2, "tile", 70, 0, 10, 0, 20, 0, 30, 0)}${pairs(0, "LWPOLYLINE", 8, "0", 90, 4, 70, 1, 10, 0, 20, 0, 10, 10, 20, 0, 10, 10, 20, 10, 10, 0, 20, 10)}${pairs(0, "ENDBLK", 8, "0")}0\nENDSEC\n`;
    const text = dxfOf(pairs(0, "INSERT", 8, "0", 2, "tile", 10, 100, 20, 0, 41, 3, 42, 2, 50, 30) + pairs(0, "POINT", 8, "0", 10, 1, 20, 1), MM).replace(
      "0\nSECTION\n2\nENTITIES",
      `${blocks}0\nSECTION\n2\nENTITIES`,
    );
    const read = readDxf(text, undefined, 0.05);
    expect(area(read)).toBeCloseTo(600, 3);
    expect(boundsOf(read.regions[0]?.outline as Outline).minX).toBeCloseTo(100 - 20 * Math.sin(Math.PI / 6), 4);
    const ring = readDxf(dxfOf(pairs(0, "CIRCLE", 8, "0", 10, 0, 20, 0, 40, 30) + pairs(0, "CIRCLE", 8, "0", 10, 0, 20, 0, 40, 10), MM), undefined, 0.05);
    expect(ring.regions[0]?.holes).toHaveLength(1);
    expect(area(ring)).toBeCloseTo(Math.PI * 800, 0);
  });
  it("the file's own unit counts before the person's; without either millimetres are taken, and it is said", () => {
    const circle = pairs(0, "CIRCLE", 8, "0", 10, 0, 20, 0, 40, 10);
    expect(area(readDxf(dxfOf(circle, pairs(9, "$INSUNITS", 70, 1)), "mm", 0.05))).toBeCloseTo(Math.PI * 254 ** 2, -1);
    expect(area(readDxf(dxfOf(circle), "cm", 0.05))).toBeCloseTo(Math.PI * 100 ** 2, -1);
    const read = readDxf(dxfOf(circle), undefined, 0.05);
    expect(read.notes.join()).toContain("the file does not say, millimetres taken");
  });
  it.each([
    ["nothing", ""],
    ["prose", "a drawing of a fin"],
    ["a spline without knots", dxfOf(pairs(0, "SPLINE", 8, "0", 71, 3, 10, 0, 20, 0, 10, 5, 20, 5, 10, 9, 20, 0))],
    [
      "a block in itself",
      dxfOf(pairs(0, "INSERT", 8, "0", 2, "me", 10, 0, 20, 0)).replace(
        "0\nSECTION\n2\nENTITIES",
        `0\nSECTION\n2\nBLOCKS\n${pairs(0, "BLOCK", 8, "0", 2, "me", 10, 0, 20, 0)}${pairs(0, "INSERT", 8, "0", 2, "me", 10, 0, 20, 0)}${pairs(0, "ENDBLK")}0\nENDSEC\n0\nSECTION\n2\nENTITIES`,
      ),
    ],
  ])("%s is refused in words", (_name, text) => {
    expect(["wrong-format", "out-of-range", "no-solution"]).toContain(refusal(() => readDxf(text, undefined, 0.05)).code);
  });
});

describe("joining", () => {
  it("a shuffled, turned about outline of hundreds of pieces comes back whole, in any order", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 200 }), fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })), (n, dice) => {
        const roll = () => dice.next().value as number;
        const outline = Array.from({ length: n }, (_, i): Point => [200 * Math.cos((2 * Math.PI * i) / n), 200 * Math.sin((2 * Math.PI * i) / n)]);
        const pieces = outline.map((point, i) => {
          const piece = [point, outline[(i + 1) % n] as Point];
          return roll() < 0.5 ? piece : piece.reverse();
        });
        for (let i = pieces.length - 1; i > 0; i--) {
          const j = Math.floor(roll() * i);
          [pieces[i], pieces[j]] = [pieces[j] as Point[], pieces[i] as Point[]];
        }
        const { closed, open } = joined(pieces, 0.05);
        expect(open).toEqual([]);
        expect(closed).toHaveLength(1);
        expect(Math.abs(signedArea(closed[0] as Outline))).toBeCloseTo(Math.abs(signedArea(outline)), 6);
      }),
      { numRuns: 40, examples: [[3, [0.1, 0.9, 0.4, 0.6, 0.2, 0.8, 0.5, 0.5, 0.5][Symbol.iterator]() as never]] },
    );
  });
  it("gaps within what is allowed are bridged and no wider ones", () => {
    const gappy = (gap: number): Point[][] => [
      [
        [0, 0],
        [50, 0],
      ],
      [
        [50, gap],
        [50, 30],
      ],
      [
        [50, 30],
        [0, 30],
      ],
      [
        [0, 30],
        [0, 0],
      ],
    ];
    expect(joined(gappy(0.04), 0.05).closed).toHaveLength(1);
    expect(joined(gappy(0.06), 0.05)).toMatchObject({ closed: [], open: [expect.anything()] });
    expect(joined(gappy(0.06), 0.1).closed).toHaveLength(1);
  });
});

describe("section coordinates", () => {
  const fin = drawShape({ kind: "naca4", code: "2412" }, 1).regions[0]?.outline as Outline;
  const nose = fin.reduce((best, point, i) => (point[0] < (fin[best]?.[0] as number) ? i : best), 0);
  const upper = fin.slice(0, nose + 1).reverse();
  const lower = fin.slice(nose);
  const text = (points: readonly Point[], scale = 1) => points.map(([x, y]) => `  ${(x * scale).toFixed(6)}  ${(y * scale).toFixed(6)}`).join("\n");
  it.each([
    ["once round, with a title", `A fin\n${text(fin)}\n`],
    ["once round the other way, without", text([...fin].reverse())],
    ["per cent, commas, comments", `# a fin\n${text(fin, 100).replaceAll(/(\d) {2}(-?\d)/g, "$1, $2")}\n! end`],
    ["two faces after their counts", `A fin\n ${upper.length}.  ${lower.length}.\n\n${text(upper)}\n\n${text(lower)}\n`],
    ["two faces apart by a blank line", `A fin\r\n${text(upper)}\r\n\r\n${text(lower)}`.replaceAll("\n", "\r\n")],
    ["two faces end to end", text([...upper, ...lower])],
  ])("%s", (_name, file) => {
    const { outline } = readCoordinates(file);
    const { minX, maxX } = boundsOf(outline);
    const back = outline.map(([x, y]): Point => [x / (maxX - minX), y / (maxX - minX)]);
    expect(signedArea(outline)).toBeGreaterThan(0);
    expect(apart(back, fin)).toBeLessThan(2e-4);
  });
  it("title kept, numbers as the file has them, and what is no section refused", () => {
    expect(readCoordinates(`  A fin of mine \n${text(fin)}`).title).toBe("A fin of mine");
    for (const bad of ["", "a title only", "1 0\n0 0", "1 0\n0.5 0\n0 0"]) expect(refusal(() => readCoordinates(bad)).code).toBe("wrong-format");
  });
});

describe("what goes out comes back in", () => {
  const shapes = [drawShape({ kind: "naca4", code: "4412" }, 300), drawShape({ kind: "rounded", ratio: 0.4, radius_mm: 12 }, 150)];
  it("as SVG and in the exchange format within 0.01 mm, and another reader finds the same layers, unit and lengths", () => {
    for (const { regions } of shapes) {
      const outline = regions[0]?.outline as Outline;
      const grown = offset(regions, 0.5)[0]?.outline as Outline;
      const drawing = {
        title: "fin <root>",
        lines: [
          { layer: "guide", points: grown, closed: true },
          { layer: "finished part", points: outline, closed: true },
        ],
        texts: [{ layer: "words", at: [0, 0] as const, heightMm: 4, text: "root & tip" }],
      };
      const dxf = writeDxf(drawing);
      const back = readDxf(dxf, undefined, 0.01);
      expect(apart(back.regions[0]?.outline as Outline, grown)).toBeLessThan(0.01);
      expect(apart([...(back.regions[0]?.holes[0] ?? [])], outline)).toBeLessThan(0.01);
      expect(back.warnings.map(({ code }) => code)).toEqual(["unread", "thin-ring"]);
      const other = new DxfParser().parseSync(dxf);
      expect(other?.header.$INSUNITS).toBe(4);
      expect(Object.keys(other?.tables.layer.layers ?? {})).toEqual(expect.arrayContaining(["guide", "finished part", "words"]));
      const written = other?.entities.find((entity) => entity.layer === "guide") as unknown as { vertices: { x: number; y: number }[] };
      expect(perimeter(written.vertices.map(({ x, y }) => [x, y] as const))).toBeCloseTo(perimeter(grown), 3);
      const alone = writeSvg({ ...drawing, lines: drawing.lines.slice(0, 1), texts: [] });
      const svgBack = readSvg(alone, undefined, 0.01).regions[0]?.outline as Outline;
      const [a, b] = [boundsOf(svgBack), boundsOf(grown)];
      expect(apart(transformed(svgBack, translation(b.minX - a.minX, b.minY - a.minY)), grown)).toBeLessThan(0.01);
      expect(/width="([\d.]+)mm"/.exec(alone)?.[1]).toBe(String(Number((b.maxX - b.minX + 10).toFixed(4))));
    }
  });
  it("as section coordinates", () => {
    const outline = drawShape({ kind: "naca5", code: "23012" }, 200).regions[0]?.outline as Outline;
    const { title, outline: back } = readCoordinates(writeCoordinates("A lantern rib", outline));
    expect(title).toBe("A lantern rib");
    const { minX, maxX } = boundsOf(outline);
    expect(
      apart(
        back.map(([x, y]): Point => [x * (maxX - minX) + minX, y * (maxX - minX)]),
        outline,
      ),
    ).toBeLessThan(0.01);
  });
});

/** How many corrupted files are tried: `npm run long -- corrupted` asks for thousands. */
const CORRUPTED = Number(process.env.UPWIND_CORRUPTED ?? 300);

describe("corrupted files", () => {
  it("fonts with bytes changed or cut off: letters or a refusal, never a crash or a second's wait", () => {
    const whole = new Uint8Array(readFileSync(path.resolve("node_modules/dejavu-fonts-ttf/ttf/DejaVuSansMono.ttf")));
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 1, noNaN: true }),
        fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 12 }),
        (saved, changes) => {
          const bytes = whole.slice(0, Math.floor(saved < 0.5 ? saved * 2 * whole.length : whole.length));
          // Most of a font is outlines: half of the changes go to its tables' heads.
          for (const [i, [where, value]] of changes.entries()) bytes[Math.floor(where * (i % 2 === 0 ? Math.min(400, bytes.length) : bytes.length))] = value;
          const started = performance.now();
          try {
            knowFont("spoilt", () => bytes.buffer);
            letters({ text: "Hag", font: "spoilt" });
          } catch (error) {
            expect(error).toBeInstanceOf(CoreError);
          }
          expect(performance.now() - started).toBeLessThan(1000);
        },
      ),
      { numRuns: Math.ceil(CORRUPTED / 20), examples: [[0.1, [[0, 255]]]] },
    );
  }, 600_000);

  it("a few hundred mutated drawings: a result or a refusal, never a crash or a second's wait", () => {
    const good = [
      [
        "svg",
        '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20"><g transform="rotate(3)"><path d="M0 0C5 5 10 -5 20 8A4 4 0 0 1 3 9Z"/><rect x="5" y="5" width="30" height="10" rx="2"/></g></svg>',
      ],
      ["dxf", dxfOf(line(0, 0, 50, 0) + line(50, 0, 50, 30) + line(50, 30, 0, 0) + pairs(0, "CIRCLE", 8, "0", 10, 0, 20, 0, 40, 30), MM)],
      ["coordinates", "A fin\n1 0\n0.5 0.06\n0 0\n0.5 -0.02\n"],
    ] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...good),
        fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.constantFrom("delete", "double", "swap"), fc.string({ maxLength: 4 })), {
          minLength: 1,
          maxLength: 4,
        }),
        ([format, text], edits) => {
          let corrupt: string = text;
          for (const [where, how, what] of edits) {
            const at = Math.floor(where * corrupt.length);
            corrupt =
              how === "delete"
                ? corrupt.slice(0, at) + corrupt.slice(at + 3)
                : how === "double"
                  ? corrupt.slice(0, at) + corrupt.slice(Math.max(0, at - 20))
                  : corrupt.slice(0, at) + what + corrupt.slice(at + what.length);
          }
          const started = performance.now();
          try {
            if (format === "svg") readSvg(corrupt, undefined, 0.05);
            else if (format === "dxf") readDxf(corrupt, undefined, 0.05);
            else readCoordinates(corrupt);
          } catch (error) {
            expect(error).toBeInstanceOf(CoreError);
          }
          expect(performance.now() - started).toBeLessThan(1000);
        },
      ),
      { numRuns: CORRUPTED },
    );
  });
});
