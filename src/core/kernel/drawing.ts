import { WRITTEN_BY } from "./version";

/** Inks of a drawing, named for what they mean; a renderer picks the colours of its surface. */
export type Ink = "graphite" | "soft" | "line" | "cool" | "straw" | "amber" | "ember" | "paper" | "none";

/** One stroke or word of a drawing. Coordinates run right and down from the top left, in the drawing's own units. */
export type Shape =
  | { kind: "path"; d: string; stroke?: Ink; fill?: Ink; width?: number; dash?: readonly number[] }
  | { kind: "text"; x: number; y: number; text: string; size: number; anchor?: "start" | "middle" | "end"; bold?: boolean; mono?: boolean; ink?: Ink };

/** A drawing that any surface can show: screen, SVG file, PDF page. */
export interface Drawing {
  title: string;
  width: number;
  height: number;
  shapes: Shape[];
}

/** A stroke of usual width. */
export const path = (d: string, rest: Partial<Extract<Shape, { kind: "path" }>> = {}): Shape => ({ kind: "path", d, width: 0.6, ...rest });
/** Words of usual size, about their middle. */
export const text = (x: number, y: number, words: string, rest: Partial<Extract<Shape, { kind: "text" }>> = {}): Shape => ({
  kind: "text",
  x,
  y,
  text: words,
  size: 4.2,
  anchor: "middle",
  ...rest,
});
/** A box of paper with its edge drawn. */
export const box = (x: number, y: number, w: number, h: number, rest: Partial<Extract<Shape, { kind: "path" }>> = {}) =>
  path(`M${x} ${y}h${w}v${h}h${-w}z`, { fill: "paper", ...rest });
/** A filled dot where lines are joined. */
export const dot = (x: number, y: number) => path(`M${x - 0.9} ${y}a0.9 0.9 0 1 0 1.8 0a0.9 0.9 0 1 0 -1.8 0`, { fill: "graphite" });
/** Zigzag of a resistance from x over `w`. */
export const zigzag = (x: number, y: number, w: number, teeth: number) => {
  const step = w / teeth / 2;
  return `M${x} ${y}${Array.from({ length: teeth }, () => `l${step / 2} -3 l${step} 6 l${step / 2} -3`).join("")}`;
};

const xml = (text: string) =>
  text
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;")
    // Control characters have no place in XML, not even as references.
    // biome-ignore lint/suspicious/noControlCharactersInRegex: these are exactly the ones to take out
    .replaceAll(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, "");

/** Inks on white paper. */
export const PRINT_INKS: Readonly<Record<Ink, string>> = {
  graphite: "#26292b",
  soft: "#565b5d",
  line: "#b9b3a6",
  cool: "#2b5d73",
  straw: "#a9812f",
  amber: "#bd6420",
  ember: "#a3341a",
  paper: "#ffffff",
  none: "none",
};

/** The drawing as an SVG file, its size in millimetres as its units say. */
export function drawingToSvg(drawing: Drawing, inks: Readonly<Record<Ink, string>> = PRINT_INKS): string {
  const shapes = drawing.shapes.map((shape) => {
    if (shape.kind === "text") {
      const { x, y, text, size, anchor = "start", bold, mono, ink = "graphite" } = shape;
      return `  <text x="${x}" y="${y}" font-size="${size}" text-anchor="${anchor}"${bold ? ' font-weight="700"' : ""} font-family="${mono ? "monospace" : "serif"}" fill="${inks[ink]}">${xml(text)}</text>`;
    }
    const { d, stroke = "graphite", fill = "none", width = 0.5, dash } = shape;
    return `  <path d="${xml(d)}" fill="${inks[fill]}" stroke="${inks[stroke]}" stroke-width="${width}"${dash ? ` stroke-dasharray="${dash.join(" ")}"` : ""} stroke-linecap="round" stroke-linejoin="round"/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${drawing.width}mm" height="${drawing.height}mm" viewBox="0 0 ${drawing.width} ${drawing.height}">
  <title>${xml(drawing.title)}</title>
  <desc>${WRITTEN_BY}</desc>
${shapes.join("\n")}
</svg>
`;
}
