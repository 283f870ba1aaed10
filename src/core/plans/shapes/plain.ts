import { z } from "zod";
import { arcPoints, arcSteps } from "../../geometry/flatten";
import { boundsOf, type Outline, type Point, withoutDoubles } from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { bounded, boundedWhole } from "../../kernel/bounded";
import { CoreError } from "../../kernel/errors";
import { drawnFrom, type ShapeRecord } from "./record";

const share = (least: number, most: number) => bounded(least, most, "(share of the chord)");
const size = (least: number, most: number) => bounded(least, most, "mm");
const one = (outline: Outline) => drawnFrom([{ outline: withoutDoubles(outline), holes: [] }]);
const about = (count: number, at: (angle: number) => Point): Outline => Array.from({ length: count }, (_, i) => at((2 * Math.PI * i) / count));

export interface Ellipse {
  kind: "ellipse";
  ratio: number;
}
export const ellipse: ShapeRecord<Ellipse> = {
  kind: "ellipse",
  title: "Ellipse",
  words: ({ ratio }) => (ratio === 1 ? "a circle" : `an ellipse ${ratio} as thick as long`),
  schema: z.strictObject({ kind: z.literal("ellipse"), ratio: share(0.005, 20) }),
  fields: [{ key: "ratio", as: "number", label: "Thickness over length", unit: "", min: 0.005, max: 20 }],
  start: () => ({ kind: "ellipse", ratio: 0.4 }),
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
};

export interface Superellipse {
  kind: "superellipse";
  ratio: number;
  power: number;
}
export const superellipse: ShapeRecord<Superellipse> = {
  kind: "superellipse",
  title: "Superellipse",
  words: ({ ratio, power }) => `a superellipse ${ratio} as thick as long, power ${power}`,
  schema: z.strictObject({
    kind: z.literal("superellipse"),
    ratio: share(0.005, 20),
    power: z
      .number({ error: "must be a number from 1 to 20" })
      .min(1, { error: "must be a number from 1 to 20" })
      .max(20, { error: "must be a number from 1 to 20" }),
  }),
  fields: [
    { key: "ratio", as: "number", label: "Thickness over length", unit: "", min: 0.005, max: 20 },
    { key: "power", as: "number", label: "Power", unit: "2 is an ellipse, more is squarer", min: 1, max: 20 },
  ],
  start: () => ({ kind: "superellipse", ratio: 0.5, power: 2.5 }),
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
};

export interface Polygon {
  kind: "polygon";
  sides: number;
}
export const polygon: ShapeRecord<Polygon> = {
  kind: "polygon",
  title: "Regular polygon",
  words: ({ sides }) => `a regular polygon of ${sides} sides`,
  schema: z.strictObject({ kind: z.literal("polygon"), sides: boundedWhole(3, 360) }),
  fields: [{ key: "sides", as: "number", label: "Sides", unit: "", min: 3, max: 360, whole: true }],
  start: () => ({ kind: "polygon", sides: 6 }),
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
};

export interface Rounded {
  kind: "rounded";
  ratio: number;
  radius_mm: number;
}
export const rounded: ShapeRecord<Rounded> = {
  kind: "rounded",
  title: "Rounded rectangle",
  words: ({ ratio, radius_mm }) => `a rectangle ${ratio} as thick as long, corners of ${radius_mm} mm`,
  schema: z.strictObject({ kind: z.literal("rounded"), ratio: share(0.005, 20), radius_mm: size(0, 2000) }),
  fields: [
    { key: "ratio", as: "number", label: "Thickness over length", unit: "", min: 0.005, max: 20 },
    { key: "radius_mm", as: "number", label: "Corner radius", unit: "mm", min: 0, max: 2000 },
  ],
  start: () => ({ kind: "rounded", ratio: 0.5, radius_mm: 10 }),
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
};

export interface Wave {
  kind: "wave";
  crests: number;
  height_mm: number;
}
export const wave: ShapeRecord<Wave> = {
  kind: "wave",
  title: "Wave",
  words: ({ crests, height_mm }) => `a wave of ${crests} crests, ${height_mm} mm high`,
  schema: z.strictObject({ kind: z.literal("wave"), crests: boundedWhole(1, 200), height_mm: size(0.1, 2000) }),
  fields: [
    { key: "crests", as: "number", label: "Crests", unit: "", min: 1, max: 200, whole: true },
    { key: "height_mm", as: "number", label: "Height", unit: "mm", min: 0.1, max: 2000 },
  ],
  start: () => ({ kind: "wave", crests: 4, height_mm: 40 }),
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
};

export interface Arc {
  kind: "arc";
  ratio: number;
  thickness_mm: number;
}
export const arc: ShapeRecord<Arc> = {
  kind: "arc",
  title: "Bent strip",
  words: ({ ratio, thickness_mm }) => `a strip ${thickness_mm} mm thick, bent to ${ratio} of its span`,
  schema: z.strictObject({ kind: z.literal("arc"), ratio: share(0.01, 0.5), thickness_mm: size(0.2, 1000) }),
  fields: [
    { key: "ratio", as: "number", label: "Rise over span", unit: "", min: 0.01, max: 0.5 },
    { key: "thickness_mm", as: "number", label: "Thickness", unit: "mm", min: 0.2, max: 1000 },
  ],
  start: () => ({ kind: "arc", ratio: 0.2, thickness_mm: 12 }),
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
};
