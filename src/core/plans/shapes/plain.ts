import { arcPoints, arcSteps } from "../../geometry/flatten";
import { boundsOf, type Outline, type Point, withoutDoubles } from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { CoreError } from "../../kernel/errors";
import { plain, type ValuesOf } from "../../units/field";
import { drawnFrom, shapeOf } from "./record";

const ratio = (start: number) => plain("", "ratio", "Thickness over length", "(share of the chord)", [0.005, 20], start, { hint: "" });
const one = (outline: Outline) => drawnFrom([{ outline: withoutDoubles(outline), holes: [] }]);
const about = (count: number, at: (angle: number) => Point): Outline => Array.from({ length: count }, (_, i) => at((2 * Math.PI * i) / count));

const ellipseFields = [ratio(0.4)];
export type Ellipse = { kind: "ellipse" } & ValuesOf<typeof ellipseFields>;
export const ellipse = shapeOf<Ellipse>({
  kind: "ellipse",
  title: "Ellipse",
  fields: ellipseFields,
  words: ({ ratio }) => (ratio === 1 ? "a circle" : `an ellipse ${ratio} as thick as long`),
  needsChord: true,
  law: null,
  draw: ({ ratio }, chordMm) => {
    const a = (chordMm as number) / 2;
    const b = a * ratio;
    // Equal steps of its own angle stand no farther off than on the circle about it.
    const steps = 4 * Math.ceil(arcSteps(Math.max(a, b), 2 * Math.PI) / 4);
    return one(about(steps, (angle) => [a + a * Math.cos(angle), b * Math.sin(angle)]));
  },
  examples: [{ kind: "ellipse", ratio: 0.4 }],
});

const superellipseFields = [ratio(0.5), plain("", "power", "Power", "", [1, 20], 2.5, { hint: "2 is an ellipse, more is squarer" })];
export type Superellipse = { kind: "superellipse" } & ValuesOf<typeof superellipseFields>;
export const superellipse = shapeOf<Superellipse>({
  kind: "superellipse",
  title: "Superellipse",
  fields: superellipseFields,
  words: ({ ratio, power }) => `a superellipse ${ratio} as thick as long, power ${power}`,
  needsChord: true,
  law: null,
  draw: ({ ratio, power }, chordMm) => {
    const a = (chordMm as number) / 2;
    const b = a * ratio;
    const bend = (value: number) => Math.sign(value) * Math.abs(value) ** (2 / power);
    const steps = 8 * Math.ceil(arcSteps(Math.max(a, b), 2 * Math.PI) / 4);
    return one(about(steps, (angle) => [a + a * bend(Math.cos(angle)), b * bend(Math.sin(angle))]));
  },
  examples: [{ kind: "superellipse", ratio: 0.5, power: 2.5 }],
});

const polygonFields = [plain("", "sides", "Sides", "", [3, 360], 6, { whole: true })];
export type Polygon = { kind: "polygon" } & ValuesOf<typeof polygonFields>;
export const polygon = shapeOf<Polygon>({
  kind: "polygon",
  title: "Regular polygon",
  fields: polygonFields,
  words: ({ sides }) => `a regular polygon of ${sides} sides`,
  needsChord: true,
  law: null,
  draw: ({ sides }, chordMm) => {
    // It is on a flat side.
    const unit = about(sides, (angle) => [Math.cos(angle - Math.PI / 2 + Math.PI / sides), Math.sin(angle - Math.PI / 2 + Math.PI / sides)]);
    const { minX, maxX } = boundsOf(unit);
    const scale = (chordMm as number) / (maxX - minX);
    return one(unit.map(([x, y]) => [(x - minX) * scale, y * scale]));
  },
  examples: [{ kind: "polygon", sides: 6 }],
});

const roundedFields = [ratio(0.5), plain("", "radius_mm", "Corner radius", "mm", [0, 2000], 10)];
export type Rounded = { kind: "rounded" } & ValuesOf<typeof roundedFields>;
export const rounded = shapeOf<Rounded>({
  kind: "rounded",
  title: "Rounded rectangle",
  fields: roundedFields,
  words: ({ ratio, radius_mm }) => `a rectangle ${ratio} as thick as long, corners of ${radius_mm} mm`,
  needsChord: true,
  law: null,
  draw: ({ ratio, radius_mm: r }, chordMm) => {
    const width = chordMm as number;
    const half = (width * ratio) / 2;
    const most = Math.min(width / 2, half);
    if (r > most + TOLERANCE.same) throw new CoreError("no-solution", "radius_mm", `radius_mm must be at most half the shorter side, ${most.toFixed(2)} mm`);
    const corner = (cx: number, cy: number, from: number): Point[] =>
      r === 0 ? [[cx, cy]] : [[cx + r * Math.cos(from), cy + r * Math.sin(from)], ...arcPoints([cx, cy], r, from, Math.PI / 2)];
    return one([
      ...corner(width - r, half - r, 0),
      ...corner(r, half - r, Math.PI / 2),
      ...corner(r, -half + r, Math.PI),
      ...corner(width - r, -half + r, 1.5 * Math.PI),
    ]);
  },
  examples: [{ kind: "rounded", ratio: 0.5, radius_mm: 10 }],
});

const waveFields = [plain("", "crests", "Crests", "", [1, 200], 4, { whole: true }), plain("", "height_mm", "Height", "mm", [0.1, 2000], 40)];
export type Wave = { kind: "wave" } & ValuesOf<typeof waveFields>;
export const wave = shapeOf<Wave>({
  kind: "wave",
  title: "Wave",
  fields: waveFields,
  words: ({ crests, height_mm }) => `a wave of ${crests} crests, ${height_mm} mm high`,
  needsChord: true,
  law: null,
  draw: ({ crests, height_mm: h }, chordMm) => {
    const width = chordMm as number;
    // Tightest at crest and trough: radius of a cosine there.
    const radius = 1 / ((h / 2) * ((2 * Math.PI * crests) / width) ** 2);
    const steps = crests * Math.max(24, Math.ceil((width / crests / Math.max(radius, 1e-3)) * Math.sqrt(radius / (8 * TOLERANCE.flatten)) * 2));
    const n = Math.min(40_000, steps);
    // Crests above a foot as high as they are: trough to trough along the chord.
    const top = Array.from({ length: n + 1 }, (_, i): Point => [width * (1 - i / n), (h / 2) * (1 - Math.cos((2 * Math.PI * crests * (n - i)) / n))]);
    return one([...top, [0, -h], [width, -h]]);
  },
  examples: [{ kind: "wave", crests: 4, height_mm: 40 }],
});

const arcFields = [
  plain("", "ratio", "Rise over span", "(share of the chord)", [0.01, 0.5], 0.2, { hint: "" }),
  plain("", "thickness_mm", "Thickness", "mm", [0.2, 1000], 12),
];
export type Arc = { kind: "arc" } & ValuesOf<typeof arcFields>;
export const arc = shapeOf<Arc>({
  kind: "arc",
  title: "Bent strip",
  fields: arcFields,
  words: ({ ratio, thickness_mm }) => `a strip ${thickness_mm} mm thick, bent to ${ratio} of its span`,
  needsChord: true,
  law: null,
  draw: ({ ratio, thickness_mm: t }, chordMm) => {
    const outer = chordMm as number;
    const rise = outer * ratio;
    const radius = (outer * outer) / 8 / rise + rise / 2;
    if (t >= radius) throw new CoreError("no-solution", "thickness_mm", `thickness_mm must be less than the bend's own radius, ${radius.toFixed(1)} mm`);
    const centre: Point = [outer / 2, rise - radius];
    const half = Math.asin(Math.min(1, outer / 2 / radius));
    const [from, sweep] = [Math.PI / 2 - half, 2 * half];
    const at = (r: number, angle: number): Point => [centre[0] + r * Math.cos(angle), centre[1] + r * Math.sin(angle)];
    return one([
      at(radius, from),
      ...arcPoints(centre, radius, from, sweep),
      at(radius - t, from + sweep),
      ...arcPoints(centre, radius - t, from + sweep, -sweep),
    ]);
  },
  examples: [{ kind: "arc", ratio: 0.2, thickness_mm: 12 }],
});
