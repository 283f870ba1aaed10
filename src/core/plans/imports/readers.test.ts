import { describe, expect, it } from "vitest";
import { boundsOf, type Point, regionArea, signedArea } from "../../geometry/points";
import { readCoordinates } from "./coordinates";
import { readDxf } from "./dxf";
import type { Imported } from "./imported";
import { readSvg } from "./svg";

const svg = (inner: string) =>
  readSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50">${inner}</svg>`, undefined, 0.05);
const areas = ({ regions }: Imported) => regions.map((region) => Number(regionArea(region).toFixed(2)));
const codes = ({ warnings }: Pick<Imported, "warnings">) => warnings.map(({ code }) => code);

/** Entities in the exchange format: pairs of code and value. */
const entity = (type: string, ...pairs: (string | number)[]) => {
  let text = `0\n${type}\n`;
  for (let i = 0; i < pairs.length; i += 2) text += `${pairs[i]}\n${pairs[i + 1]}\n`;
  return text;
};
const square = (size: number, layer = "0", more: (string | number)[] = []) =>
  entity("LWPOLYLINE", 8, layer, ...more, 90, 4, 70, 1, ...[0, 0, size, 0, size, size, 0, size].flatMap((value, i) => [i % 2 === 0 ? 10 : 20, value]));
const dxf = (entities: string, layers = "") =>
  readDxf(
    `${layers === "" ? "" : `0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n70\n9\n${layers}0\nENDTAB\n0\nENDSEC\n`}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`,
    "mm",
    0.05,
  );
const layer = (name: string, colour: number, flags: number) => entity("LAYER", 2, name, 70, flags, 62, colour, 6, "CONTINUOUS");

describe("vector drawings", () => {
  it("character references are resolved, in path data too; entities that a file declares are not", () => {
    expect(areas(svg('<path d="M10 10&#10;H30&#x20;V20H10z"/>'))).toEqual([200]);
    expect(areas(svg('<polygon points="0,0&#9;10,0&#13;&#10;10,10"/>'))).toEqual([50]);
  });

  it("lengths in per cent are shares of the viewport: across, down, and of its diagonal", () => {
    expect(areas(svg('<rect x="10%" y="10%" width="50%" height="50%"/>'))).toEqual([50 * 25]);
    expect(boundsOf(svg('<rect x="10%" y="20%" width="50%" height="50%"/>').regions[0]?.outline ?? [])).toMatchObject({ minX: 10, maxY: 40 });
    // The diagonal over the root of two: 79.06 for 100 by 50.
    const [disc] = areas(svg('<circle cx="50%" cy="50%" r="10%"/>'));
    expect((disc as number) / (Math.PI * (Math.hypot(100, 50) / Math.SQRT2 / 10) ** 2)).toBeCloseTo(1, 3);
    // Within an inner viewport, of that.
    expect(areas(svg('<svg x="10" width="20" height="10" viewBox="0 0 200 100"><rect width="50%" height="50%"/></svg>'))).toEqual([50]);
  });

  it("clip paths are applied: of groups, of things, clipped themselves, and in shares of a thing's box", () => {
    const clip = '<clipPath id="c"><rect x="0" y="0" width="20" height="50"/></clipPath>';
    expect(areas(svg(`${clip}<rect x="10" y="10" width="30" height="10" clip-path="url(#c)"/>`))).toEqual([100]);
    expect(areas(svg(`<defs>${clip}</defs><g style="clip-path: url('#c')"><rect x="10" y="10" width="30" height="10"/></g>`))).toEqual([100]);
    expect(areas(svg(`${clip}<g clip-path="url(#c)" transform="translate(5)"><rect x="10" y="10" width="30" height="10"/></g>`))).toEqual([100]);
    const half = '<clipPath id="h" clipPathUnits="objectBoundingBox"><rect width=".5" height="1"/></clipPath>';
    const halved = svg(`${half}<rect x="10" y="10" width="30" height="10" clip-path="url(#h)"/>`);
    expect(areas(halved)).toEqual([150]);
    expect([boundsOf(halved.regions[0]?.outline ?? []).minX, codes(halved)]).toEqual([10, []]);
    // Of a group's own box, or with letters in it: not applied, and said.
    expect(codes(svg(`${half}<g clip-path="url(#h)"><rect width="30" height="10"/></g>`))).toEqual(["clip"]);
    expect(codes(svg('<clipPath id="t"><text>a</text></clipPath><rect width="30" height="10" clip-path="url(#t)"/>'))).toEqual(["clip"]);
  });

  it("masks show what is white in them and hide what is black; greys are not applied, and said", () => {
    const mask = (hole: string) =>
      `<mask id="m"><rect width="100" height="50" fill="#fff"/><circle cx="25" cy="15" r="4" fill="${hole}"/></mask><rect x="10" y="10" width="30" height="10" mask="url(#m)"/>`;
    const seen = svg(mask("black"));
    expect(seen.regions[0]?.holes).toHaveLength(1);
    expect((areas(seen)[0] as number) - (300 - Math.PI * 16)).toBeCloseTo(0, 0);
    expect(codes(svg(mask("rgb(128,128,128)")))).toEqual(["clip"]);
  });

  it("white shapes cut out what was painted before them, and nothing that comes later", () => {
    const [white, black] = ['<rect x="20" y="10" width="10" height="10" fill="#FFF"/>', '<rect x="10" y="5" width="40" height="20"/>'];
    expect(areas(svg(black + white))).toEqual([700]);
    expect(areas(svg(white + black))).toEqual([800]);
    // A page's white ground is no part.
    expect(areas(svg(`<rect width="100%" height="100%" fill="rgb(100%,100%,100%)"/>${black}`))).toEqual([800]);
    expect(svg(black + white).notes).toEqual(["cut out: 1 white shape from what lies under"]);
    // Where all is white, white is paper: lines around it are cut lines.
    const drawn = svg(`<g fill="white" stroke="black"><rect x="10" y="5" width="40" height="20"/><rect x="20" y="10" width="10" height="10"/></g>`);
    expect([areas(drawn), codes(drawn)]).toEqual([[700], []]);
    const bare = svg(`<rect x="10" y="5" width="40" height="20" fill="white"/>`);
    expect([areas(bare), codes(bare)]).toEqual([[800], ["all-white"]]);
    // What cannot be seen is not there.
    expect(areas(svg(`${black}<rect width="90" height="45" fill-opacity="0"/><g opacity="0"><rect width="90" height="45"/></g>`))).toEqual([800]);
  });

  it("strokes widened to outlines are taken as one line along their middle", () => {
    const ring = '<path fill-rule="evenodd" d="M9.9 9.9H40.1V20.1H9.9z M10.1 10.1V19.9H39.9V10.1z"/>';
    const inner = '<path fill-rule="evenodd" d="M19.9 13.9H30.1V16.1H19.9z M20.1 14.1V15.9H29.9V14.1z"/>';
    const read = svg(ring + inner);
    expect([areas(read), codes(read)]).toEqual([[300 - 20], ["stroke-outline"]]);
    expect(codes(svg('<path fill-rule="evenodd" d="M9 9H41V21H9z M10 10V20H40V10z"/>'))).toEqual([]);
  });

  it("wide strokes that enclose nothing become outlines; thin ones and those that join do not", () => {
    const wide = 'fill="none" stroke="black" stroke-width="4"';
    expect(areas(svg(`<path ${wide} d="M10 10H50"/>`))).toEqual([160]);
    const [round] = areas(svg(`<path ${wide} stroke-linecap="round" d="M10 10H50"/>`));
    expect((round as number) - (160 + Math.PI * 4)).toBeCloseTo(0, 1);
    expect(areas(svg(`<path ${wide} d="M10 10H50V20"/><path ${wide} d="M50 20H10V10"/>`))).toEqual([400]);
    const thin = svg('<rect width="5" height="5"/><path fill="none" stroke="black" stroke-width="0.2" d="M10 10H50"/>');
    expect([areas(thin), codes(thin)]).toEqual([[25], ["open-line"]]);
  });

  it("an outline without a fill within a filled shape is named, not dropped", () => {
    const read = svg('<rect x="10" y="5" width="40" height="20"/><circle cx="20" cy="15" r="3" fill="none" stroke="red"/>');
    expect([areas(read), read.warnings]).toMatchObject([[800], [{ code: "line-on-fill", share: 0.5 }]]);
  });
});

describe("drawings in the exchange format", () => {
  it("layers off or frozen, definition points and invisible entities are left out, and said with their share", () => {
    const layers = layer("0", 7, 0) + layer("NOTES", -3, 0) + layer("OLD", 3, 1);
    expect(areas(dxf(square(10), layers))).toEqual([100]);
    for (const hidden of [square(90, "NOTES"), square(90, "OLD"), square(90, "Defpoints"), square(90, "0", [60, 1])]) {
      const read = dxf(square(10) + hidden, layers);
      expect([areas(read), read.warnings]).toMatchObject([[100], [{ code: "hidden", share: 0.5 }]]);
    }
    // A spline and a hatch are hidden too.
    const spline = (name: string) => entity("SPLINE", 8, name, 70, 1, 71, 3, 74, 4, 11, 0, 21, 0, 11, 90, 21, 0, 11, 90, 21, 90, 11, 0, 21, 90);
    expect(areas(dxf(square(10) + spline("OLD"), layers))).toEqual([100]);
    // Hidden within a block too.
    const block = `0\nSECTION\n2\nBLOCKS\n${entity("BLOCK", 8, "0", 2, "B", 10, 0, 20, 0)}${square(10, "OLD")}${square(5)}${entity("ENDBLK", 8, "0")}0\nENDSEC\n`;
    const read = readDxf(
      `0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n70\n9\n${layers}0\nENDTAB\n0\nENDSEC\n${block}0\nSECTION\n2\nENTITIES\n${entity("INSERT", 8, "0", 2, "B", 10, 0, 20, 0)}0\nENDSEC\n0\nEOF\n`,
      "mm",
      0.05,
    );
    expect([areas(read), codes(read)]).toEqual([[25], ["hidden"]]);
  });

  it("splines with fit points only are smooth: a circle's points give the circle, open ones keep their end tangents", () => {
    const points = Array.from({ length: 24 }, (_, i) => [50 + 30 * Math.cos((i * Math.PI) / 12), 50 + 30 * Math.sin((i * Math.PI) / 12)]);
    const through = (all: number[][]) => all.flatMap(([x, y]) => [11, x as number, 21, y as number]);
    const [circle] = areas(dxf(entity("SPLINE", 8, "0", 70, 1, 71, 3, 74, 24, ...through(points))));
    // The polygon through the points has 0.9886 of it.
    expect((circle as number) / (Math.PI * 900)).toBeCloseTo(1, 3);
    const half = points.slice(0, 13);
    const chord = entity("LINE", 8, "0", 10, 20, 20, 50, 11, 80, 21, 50);
    const [disc] = areas(dxf(entity("SPLINE", 8, "0", 70, 0, 71, 3, 74, 13, 12, 0, 22, 1, 13, 0, 23, -1, ...through(half)) + chord));
    expect(Math.abs((disc as number) / (Math.PI * 450) - 1)).toBeLessThan(2e-4);
  });

  it("hatches give their boundaries: polylines with bulges, lines and arcs either way, with holes; those over outlines count once", () => {
    const polyline = [91, 1, 92, 7, 72, 1, 73, 1, 93, 2, 10, 0, 20, 0, 42, 1, 10, 20, 20, 0, 42, 1, 97, 0];
    const [disc] = areas(dxf(entity("HATCH", 8, "0", 10, 0, 20, 0, 30, 0, 210, 0, 220, 0, 230, 1, 2, "SOLID", 70, 1, 71, 0, ...polyline, 75, 0, 76, 1, 98, 0)));
    expect((disc as number) / (Math.PI * 100)).toBeCloseTo(1, 3);
    // Half a disc of radius 10 about (10, 0): its arc clockwise from left to right, then back along its chord.
    for (const [ccw, from, to] of [
      [0, 180, 360],
      [1, 0, 180],
    ] as const) {
      const edges = [91, 1, 92, 1, 93, 2, 72, 2, 10, 10, 20, 0, 40, 10, 50, from, 51, to, 73, ccw, 72, 1, 10, 20, 20, 0, 11, 0, 21, 0, 97, 0];
      const read = dxf(entity("HATCH", 8, "0", 2, "SOLID", 70, 1, 71, 0, ...edges, 75, 0, 76, 1, 98, 1, 10, 5, 20, 5));
      expect((areas(read)[0] as number) / (Math.PI * 50)).toBeCloseTo(1, 3);
      expect(boundsOf(read.regions[0]?.outline ?? []).maxY).toBeCloseTo(10, 2);
    }
    const corners = (size: number) => [0, 0, size, 0, size, size, 0, size].flatMap((value, i) => [i % 2 === 0 ? 10 : 20, value + (size === 4 ? 3 : 0)]);
    const path = (size: number) => [92, 3, 72, 0, 73, 1, 93, 4, ...corners(size), 97, 0];
    const holed = entity("HATCH", 8, "0", 2, "ANSI31", 70, 0, 71, 0, 91, 2, ...path(10), ...path(4), 75, 0, 76, 1, 52, 0, 41, 1, 77, 0, 78, 0, 98, 0);
    expect(areas(dxf(holed))).toEqual([84]);
    const over = entity("HATCH", 8, "0", 2, "ANSI31", 70, 0, 71, 0, 91, 1, ...path(10), 75, 0, 98, 0);
    const read = dxf(square(10) + over);
    expect([areas(read), read.notes.join()]).toEqual([[100], expect.stringContaining("1 hatches")]);
  });

  it("what is not read is a warning with its share: letters, a block that is missing", () => {
    const read = dxf(square(10) + entity("TEXT", 8, "0", 10, 0, 20, 0, 40, 5, 1, "a") + entity("INSERT", 8, "0", 2, "NONE", 10, 0, 20, 0));
    expect(read.warnings).toMatchObject([
      { code: "unread", share: 1 / 3 },
      { code: "unread", share: 1 / 3 },
    ]);
  });
});

describe("section coordinates", () => {
  /** Upper and lower face from nose to tail. */
  const UPPER: Point[] = [
    [0, 0],
    [0.1, 0.05],
    [0.4, 0.08],
    [0.8, 0.04],
    [1, 0],
  ];
  const LOWER: Point[] = [
    [0, 0],
    [0.1, -0.03],
    [0.4, -0.02],
    [0.8, -0.01],
    [1, 0],
  ];
  const AREA = Math.abs(signedArea([...[...UPPER].reverse(), ...LOWER.slice(1)]));
  const round = [...[...UPPER].reverse(), ...LOWER.slice(1)];
  const text = (points: readonly Point[], write: (x: number, y: number, i: number) => string) => points.map(([x, y], i) => write(x, y, i)).join("\n");
  const dots = (x: number, y: number) => `${x.toFixed(5)} ${y.toFixed(5)}`;
  const comma = (value: number) => value.toFixed(5).replace(".", ",");

  it.each<[string, string, string | null]>([
    ["once round", text(round, dots), null],
    ["decimal commas and blanks", `Rib\n${text(round, (x, y) => `${comma(x)} ${comma(y)}`)}`, "Rib"],
    ["decimal commas and semicolons", text(round, (x, y) => `${comma(x)};${comma(y)}`), null],
    ["decimal commas and tabs", text(round, (x, y) => `${comma(x)}\t${comma(y)}`), null],
    ["points and commas between them", text(round, (x, y) => `${x.toFixed(4)},${y.toFixed(4)}`), null],
    ["a title of one number", `2412\n${text(round, dots)}`, "2412"],
    ["a title of two numbers", `2412 150\n${text(round, dots)}`, "2412 150"],
    ["an index column", text(round, (x, y, i) => `${i + 1} ${dots(x, y)}`), null],
    ["an index from nought", `Rib\n${text(round, (x, y, i) => `${i}\t${dots(x, y)}`)}`, "Rib"],
    ["a third column", text(round, (x, y) => `${dots(x, y)} 0.0`), null],
    ["exponents of Fortran", text(round, (x, y) => `${(10 * x).toFixed(4)}D-01 ${(100 * y).toFixed(4)}d-02`), null],
    ["both faces from the nose", `${text(UPPER, dots)}\n\n${text(LOWER, dots)}`, null],
    ["both faces from the nose without a gap", `${text(UPPER, dots)}\n${text(LOWER, dots)}`, null],
    ["both faces from the tail", `${text([...UPPER].reverse(), dots)}\n\n${text([...LOWER].reverse(), dots)}`, null],
    ["both faces from the tail without a gap", `${text([...UPPER].reverse(), dots)}\n${text([...LOWER].reverse(), dots)}`, null],
    ["counts of each face", `Rib\n5. 5.\n\n${text(UPPER, dots)}\n\n${text(LOWER, dots)}`, "Rib"],
  ])("%s", (_name, given, title) => {
    const read = readCoordinates(given);
    expect(Math.abs(signedArea(read.outline))).toBeCloseTo(AREA, 4);
    expect([read.title, read.warnings]).toEqual([title, []]);
  });

  it("a closed trapezoid is not taken for two faces; lines that are not read are a warning with their share", () => {
    const box = "0 0\n100 0\n100 10\n0 10\n0 0";
    expect(Math.abs(signedArea(readCoordinates(box).outline))).toBe(1000);
    expect(readCoordinates(`${box}\nend of file`).warnings).toMatchObject([{ code: "unread", share: 1 / 6 }]);
  });
});
