/** What of the font package is used here; it ships no types of its own. */
declare module "opentype.js" {
  export type Command =
    | { type: "M"; x: number; y: number }
    | { type: "L"; x: number; y: number }
    | { type: "Q"; x: number; y: number; x1: number; y1: number }
    | { type: "C"; x: number; y: number; x1: number; y1: number; x2: number; y2: number }
    | { type: "Z" };
  interface Glyph {
    advanceWidth: number;
    getMetrics(): { yMax: number };
    getPath(x: number, y: number, size: number): { commands: Command[] };
  }
  interface Font {
    unitsPerEm: number;
    ascender: number;
    charToGlyph(letter: string): Glyph;
    getKerningValue(left: Glyph, right: Glyph): number;
  }
  export function parse(bytes: ArrayBuffer): Font;
  const whole: { parse: typeof parse } | undefined;
  export default whole;
}
