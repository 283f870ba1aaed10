import type { Command } from "opentype.js";
import * as fontPackage from "opentype.js";
import { z } from "zod";
import { cubicPoints, quadraticPoints } from "../../geometry/flatten";
import { fill } from "../../geometry/offset";
import { boundsOf, type Outline, type Point, type Region, regionArea, withoutDoubles } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { plainText } from "../../kernel/parse";
import { drawnFrom, type ShapeRecord } from "./record";

export interface TextShape {
  kind: "text";
  text: string;
  /** a font that was opened; the app's own where there is none */
  font?: string | undefined;
  /** height of a capital letter, mm */
  height_mm?: number | undefined;
}

/** The font that comes with the app. */
export const OWN_FONT = "plain bold";
const DEFAULT_HEIGHT_MM = 100;

/** Node sees the package as one default export, a bundler as many named ones. */
const opentype = fontPackage.default ?? fontPackage;

type Bytes = ArrayBuffer;
const sources = new Map<string, () => Bytes>();
const opened = new Map<string, ReturnType<typeof opentype.parse>>();

/** Makes a font known by a name; its file is read when it is first drawn with. */
export function knowFont(name: string, bytes: () => Bytes): void {
  sources.set(name, bytes);
  opened.delete(name);
}

function fontOf(name: string) {
  const known = opened.get(name);
  if (known) return known;
  const source = sources.get(name);
  if (!source) throw new CoreError("not-one-of", "font", `the font "${name}" is not here: open its file`);
  const font = parseFont(source());
  opened.set(name, font);
  return font;
}

/** A font file's bytes as a font. @throws CoreError `wrong-format` */
export function parseFont(bytes: Bytes) {
  try {
    return opentype.parse(bytes);
  } catch (error) {
    throw new CoreError("wrong-format", "font", `this is no font that can be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** Letters as regions and how far they reach, mm. Curves are flattened at their final size. */
export function letters({ text, font = OWN_FONT, height_mm }: Omit<TextShape, "kind">): { regions: Region[]; advanceMm: number } {
  const face = fontOf(font);
  const capital = face.charToGlyph("H").getMetrics().yMax || face.ascender;
  const size = ((height_mm ?? DEFAULT_HEIGHT_MM) * face.unitsPerEm) / capital;
  const lines: Outline[] = [];
  let line: Point[] = [];
  let here: Point = [0, 0];
  const end = () => {
    const clean = withoutDoubles(line);
    if (clean.length > 2) lines.push(clean);
    line = [];
  };
  const take = (command: Command) => {
    // The font's own drawing has y down.
    const at = (x: number, y: number): Point => [x, -y];
    if (command.type === "M") {
      end();
      here = at(command.x, command.y);
      line = [here];
    } else if (command.type === "Z") end();
    else {
      const to = at(command.x, command.y);
      if (command.type === "L") line.push(to);
      else if (command.type === "Q") line.push(...quadraticPoints(here, at(command.x1, command.y1), to));
      else line.push(...cubicPoints(here, at(command.x1, command.y1), at(command.x2, command.y2), to));
      here = to;
    }
  };
  // Letter by letter with the font's kerning: the package does not know every font's rules of substitution, and cut letters need none.
  let reach = 0;
  let before: ReturnType<typeof face.charToGlyph> | null = null;
  for (const letter of text) {
    const glyph = face.charToGlyph(letter);
    if (before) reach += (face.getKerningValue(before, glyph) * size) / face.unitsPerEm;
    for (const command of glyph.getPath(reach, 0, size).commands) take(command);
    end();
    reach += (glyph.advanceWidth * size) / face.unitsPerEm;
    before = glyph;
  }
  const regions = fill(lines, "nonzero").sort((a, b) => regionArea(b) - regionArea(a));
  return { regions, advanceMm: reach };
}

export const text: ShapeRecord<TextShape> = {
  kind: "text",
  title: "Lettering",
  words: ({ text: words }) => `the letters "${words}"`,
  schema: z.strictObject({
    kind: z.literal("text"),
    text: plainText(200, "must be 1 to 200 characters").trim().min(1, { error: "must be 1 to 200 characters" }),
    font: plainText(100, "must be at most 100 characters").optional(),
    height_mm: z
      .number({ error: "must be a number from 1 to 3000 mm" })
      .min(1, { error: "must be a number from 1 to 3000 mm" })
      .max(3000, { error: "must be a number from 1 to 3000 mm" })
      .optional(),
  }),
  fields: [
    { key: "text", as: "text", label: "Letters", hint: "1 to 200 characters" },
    { key: "height_mm", as: "number", label: "Height of a capital", unit: "mm", min: 1, max: 3000, optional: true },
  ],
  start: () => ({ kind: "text", text: "LANTERN" }),
  needsChord: false,
  law: null,
  draw: (shape, chordMm) => {
    let { regions } = letters(shape);
    if (regions.length === 0) throw new CoreError("no-solution", "text", "these letters have no outline in this font");
    if (chordMm !== undefined) {
      const { minX, maxX } = boundsOf(regions.flatMap(({ outline }) => outline));
      // Drawn again at its final height, so that its curves are as fine as they should be.
      const height = ((shape.height_mm ?? DEFAULT_HEIGHT_MM) * chordMm) / (maxX - minX);
      regions = letters({ ...shape, height_mm: height }).regions;
    }
    return drawnFrom(regions);
  },
  examples: [{ kind: "text", text: "LANTERN" }],
};
