import fc from "fast-check";
import { expect, it } from "vitest";
import { fill, offset } from "../../geometry/offset";
import { type Outline, type Point, regionArea, signedArea } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { onePath } from "../../motion/path/onePath";
import { readDxf } from "./dxf";
import { readSvg } from "./svg";

/** As many as the release's figures use: UPWIND_OUTLINES=5000. */
const RUNS = Number(process.env.UPWIND_OUTLINES ?? 150);

/** An outline drawn badly, and the same drawn well: one region, or two where a bridge without width leads to an island. */
interface Drawn {
  bad: Outline;
  good: Outline[];
}

const round = ([x, y]: Point, places: number): Point => [Number(x.toFixed(places)), Number(y.toFixed(places))];

const clean = fc
  .record({
    radii: fc.array(fc.double({ min: 20, max: 90, noNaN: true }), { minLength: 4, maxLength: 24 }),
    square: fc.boolean(),
    // Coordinates as drawings have them: whole and half millimetres lead to upright and level lines, where libraries fail.
    places: fc.constantFrom(0, 1, 3),
    turned: fc.boolean(),
    mirrored: fc.boolean(),
  })
  .map(({ radii, square, places, turned, mirrored }): Outline => {
    const [a = 50, b = 50] = radii;
    const outline: Point[] = square
      ? [
          [0, 0],
          [a, 0],
          [a, b],
          [0, b],
        ]
      : radii.map((r, i) => [r * Math.cos((2 * Math.PI * i) / radii.length), r * Math.sin((2 * Math.PI * i) / radii.length)]);
    const placed = outline.map(([x, y]) => round([(turned ? y : x) + 100, (mirrored ? -1 : 1) * (turned ? x : y) + 100], places));
    return signedArea(placed) < 0 ? placed.reverse() : placed;
  });

type Fault = "overshoot" | "spike" | "bent spike" | "double" | "on the line" | "touching" | "bridge";
const faults = fc.array(
  fc.record({
    kind: fc.constantFrom<Fault>("overshoot", "spike", "bent spike", "double", "on the line", "touching", "bridge"),
    at: fc.nat(1000),
    mm: fc.constantFrom(1e-5, 1e-3, 0.01, 0.5, 1, 20),
  }),
  { minLength: 1, maxLength: 4 },
);

/** Draws a fault into an outline; faults enclose nothing, but for triangles that touch it in one point or hang on a bridge, to its right. */
function corruptAt(drawn: Drawn, { kind, at, mm }: { kind: Fault; at: number; mm: number }): Drawn {
  const { bad, good } = drawn;
  const i = at % bad.length;
  const [a, b] = [bad[i] as Point, bad[(i + 1) % bad.length] as Point];
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (long < 1e-3) return drawn;
  const along = (from: Point, by: number): Point => [from[0] + ((b[0] - a[0]) / long) * by, from[1] + ((b[1] - a[1]) / long) * by];
  const insert = (...points: Point[]): Outline => [...bad.slice(0, i + 1), ...points, ...bad.slice(i + 1)];
  if (kind === "overshoot") return { bad: insert(along(b, mm), b), good };
  const middle = along(a, long / 2);
  const out: Point = [middle[0] + 0.6 * mm, middle[1] - 0.8 * mm];
  if (kind === "spike") return { bad: insert(middle, out, middle), good };
  if (kind === "bent spike") return { bad: insert(middle, out, [out[0] + mm, out[1]], out, middle), good };
  if (kind === "double") return { bad: insert(a, a), good };
  if (kind === "on the line") return { bad: insert(along(a, long / 3), middle), good };
  // At the point farthest right, one each.
  const right = bad.reduce((best, [x], k) => (x > (bad[best] as Point)[0] ? k : best), 0);
  const [x, y] = bad[right] as Point;
  const reach = kind === "bridge" ? 15 : 0;
  const island: Point[] = [
    [x + reach, y],
    [x + reach + 12, y - 4],
    [x + reach + 12, y + 9],
  ];
  if (good.length > 1) return drawn;
  return { bad: [...bad.slice(0, right + 1), ...island, island[0] as Point, [x, y], ...bad.slice(right + 1)], good: [...good, island] };
}

const area = (regions: readonly { outline: Outline; holes: readonly Outline[] }[]) => regions.reduce((sum, region) => sum + regionArea(region), 0);
const svgOf = (outline: Outline) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="500mm" height="500mm" viewBox="0 0 500 500"><path d="M${outline.map(([x, y]) => `${x} ${y}`).join("L")}z"/></svg>`;
const dxfOf = (outline: Outline) =>
  `0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n90\n${outline.length}\n70\n1\n${outline.map(([x, y]) => `10\n${x}\n20\n${y}\n`).join("")}0\nENDSEC\n0\nEOF\n`;

it("a bridge without width, drawn there in one stroke and back in two, leaves no strip behind when it grows", () => {
  // A four-sided part whose last side runs 20 mm past its end, where a triangle hangs.
  const [x, y] = [131.43475, 116.40887];
  const part: Point[] = [
    [100, 120],
    [80, 100],
    [100, 71.3],
    [120, 100],
  ];
  const island: Point[] = [
    [x, y],
    [x + 12, y - 4],
    [x + 12, y + 9],
  ];
  const drawn: Point[] = [...part.slice(0, 3), ...island, island[0] as Point, part[3] as Point];
  const apart = [part, island].map((outline) => ({ outline, holes: [] }));
  const filled = fill([drawn], "nonzero");
  expect(filled).toHaveLength(2);
  expect(area(offset(filled, 1.5))).toBeCloseTo(area(offset(apart, 1.5)), 2);
});

const refused = { drawings: 0, of: 0 };
/** The result, or null where the drawing is refused. */
function unlessRefused<T>(make: () => T): T | null {
  refused.of += 1;
  try {
    return make();
  } catch (error) {
    // Parts closer than the kerf are refused with reason.
    if (error instanceof CoreError && error.path === "kerf_mm") return null;
    refused.drawings += 1;
    if (error instanceof CoreError && error.code === "no-solution") return null;
    throw error;
  }
}

it(`${RUNS} outlines with stubs, spikes, doubled and touching points keep their material through import, offset and path, or are refused`, () => {
  fc.assert(
    fc.property(clean, faults, fc.boolean(), (outline, all, backwards) => {
      // A star whose rounded points cross itself has no area of its own to compare with.
      fc.pre(outline.length > 2 && Math.abs(area(fill([outline], "nonzero")) - signedArea(outline)) < 1e-6 * signedArea(outline));
      const { bad: drawnBad, good } = all.reduce(corruptAt, { bad: outline, good: [outline] });
      const bad = backwards ? [...drawnBad].reverse() : drawnBad;
      const wanted = good.reduce((sum, each) => sum + Math.abs(signedArea(each)), 0);
      for (const imported of [unlessRefused(() => readSvg(svgOf(bad), "mm", 0.05).regions), unlessRefused(() => readDxf(dxfOf(bad), "mm", 0.05).regions)])
        if (imported) expect(Math.abs(area(imported) / wanted - 1)).toBeLessThan(1e-3);
      const regions = good.map((each) => ({ outline: signedArea(each) > 0 ? each : [...each].reverse(), holes: [] }));
      for (const mm of [1.5, -0.7]) {
        const [got, well] = [unlessRefused(() => offset(fill([bad], "nonzero"), mm)), offset(regions, mm)];
        if (got) expect(Math.abs(area(got) / area(well) - 1)).toBeLessThan(1e-3);
      }
      const path = unlessRefused(() => onePath({ shapes: fill([bad], "nonzero"), kerfMm: 0.9, join: "apart" }));
      const well = unlessRefused(() => onePath({ shapes: fill(good, "nonzero"), kerfMm: 0.9, join: "apart" }));
      // An island on a bridge without width may be cut with it or by a link of its own.
      if (path && well) expect(Math.abs(path.lengthMm / well.lengthMm - 1)).toBeLessThan(good.length === 1 ? 1e-3 : 0.02);
    }),
    { numRuns: RUNS },
  );
  // A refusal is honest, but no way to pass.
  // The few hundred of the short form may hold one or two by chance.
  expect(refused.drawings).toBeLessThanOrEqual(Math.max(3, refused.of / 1000));
});

it("a line that runs past its own start keeps its corner", () => {
  const { regions } = readSvg(
    '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200"><path d="M50 50V100H150V50H49.999z"/></svg>',
    "mm",
    0.05,
  );
  expect(area(regions)).toBeCloseTo(5000, 1);
});
