import type { Command } from "opentype.js";
import * as fontPackage from "opentype.js";
import { z } from "zod";
import { cubicPoints, quadraticPoints } from "../../geometry/flatten";
import { fill } from "../../geometry/offset";
import { boundsOf, type Outline, type Point, type Region, regionArea, withoutDoubles } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { plainText } from "../../kernel/parse";
import { type Begun, plain, typedText, type ValuesOf } from "../../units/field";
import { drawnFrom, shapeOf } from "./record";

/** The font that comes with the app. */
export const OWN_FONT = "plain bold";
const DEFAULT_HEIGHT_MM = 100;

/** Node sees the package as one default export, a bundler as many named ones. */
const opentype = fontPackage.default ?? fontPackage;

/** Largest font file that is opened, bytes, and as it is in a plan, characters. */
export const MAX_FONT_BYTES = 2_000_000;
const MAX_FONT_CHARACTERS = Math.ceil(MAX_FONT_BYTES / 3) * 4;

const fontSchema = z
  .string({ error: "must be a font file in base64" })
  .max(MAX_FONT_CHARACTERS, { error: `must be a font file of at most ${MAX_FONT_BYTES / 1e6} MB` })
  .regex(/^[A-Za-z0-9+/]*={0,2}$/, { error: "must be a font file in base64" })
  .optional();
const textFields = [
  typedText("text", "Letters", plainText(200, "must be 1 to 200 characters").trim().min(1, { error: "must be 1 to 200 characters" }), "LANTERN", {
    hint: "1 to 200 characters",
  }),
  // The file of a font that was opened, base64: it goes with the plan, so that another workshop draws the same.
  { as: "font", group: "", key: "font_file", label: "Font file", nameKey: "font", schema: fontSchema, start: undefined } as Begun<
    "font_file",
    string | undefined
  >,
  plain("", "height_mm", "Height of a capital", "mm", [1, 3000], undefined),
];
export type TextShape = { kind: "text" /** a font's name; the app's own where there is none */; font?: string | undefined } & ValuesOf<typeof textFields>;

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

/** Fonts that came with a plan, the last few by their files. */
const carried = new Map<string, ReturnType<typeof opentype.parse>>();
const MOST_CARRIED = 4;

function bytesOf(base64: string): Bytes {
  try {
    return Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0)).buffer;
  } catch {
    throw new CoreError("wrong-format", "font_file", "this font file is no base64");
  }
}

function carriedFont(base64: string) {
  const known = carried.get(base64);
  if (known) return known;
  const font = parseFont(bytesOf(base64));
  const [oldest] = carried.keys();
  if (carried.size >= MOST_CARRIED && oldest !== undefined) carried.delete(oldest);
  carried.set(base64, font);
  return font;
}

/** Bytes of an opened font file as they are in a plan. @throws CoreError `out-of-range` where it is too large, `wrong-format` where it is no font */
export function fontFile(bytes: Bytes): string {
  if (bytes.byteLength > MAX_FONT_BYTES) throw new CoreError("out-of-range", "font_file", `a font file has at most ${MAX_FONT_BYTES / 1e6} MB`);
  parseFont(bytes);
  let text = "";
  const view = new Uint8Array(bytes);
  // In pieces: all at once is more arguments than a call takes.
  for (let i = 0; i < view.length; i += 0x8000) text += String.fromCharCode(...view.subarray(i, i + 0x8000));
  return btoa(text);
}

/** A font file's bytes as a font. @throws CoreError `wrong-format` */
export function parseFont(bytes: Bytes) {
  try {
    return opentype.parse(bytes);
  } catch (error) {
    throw new CoreError("wrong-format", "font", `this is no font that can be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/**
 * Letters as regions and how far they reach, mm. Curves are flattened at their final size.
 * @throws CoreError `wrong-format` where the font is damaged, `not-one-of` where it is not here
 */
export function letters({ text, font = OWN_FONT, font_file, height_mm }: Omit<TextShape, "kind">): { regions: Region[]; advanceMm: number } {
  const face = font_file === undefined ? fontOf(font) : carriedFont(font_file);
  try {
    return lettersOf(face, text, height_mm);
  } catch (error) {
    // A font may open and yet have a damaged letter.
    throw new CoreError("wrong-format", "font", `this font cannot draw these letters: ${error instanceof Error ? error.message : String(error)}`);
  }
}

function lettersOf(face: ReturnType<typeof opentype.parse>, text: string, height_mm: number | undefined): { regions: Region[]; advanceMm: number } {
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

export const textShape = shapeOf<TextShape>(
  {
    kind: "text",
    title: "Lettering",
    fields: textFields,
    words: ({ text: words, font, font_file }) => `the letters "${words}"${font_file === undefined ? "" : ` in ${font ?? "a font of their own"}`}`,
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
  },
  (own) => own.extend({ font: plainText(100, "must be at most 100 characters").optional() }),
);
