import { boundsOf, type Line, type Point } from "../../geometry/points";

/** One line of a drawing to be given out, mm. Its layer says in words what it is for. */
export interface OutLine {
  layer: string;
  points: Line;
  closed: boolean;
}

/** Words on a drawing; `at` is the left end of their foot. */
export interface OutText {
  layer: string;
  at: Point;
  heightMm: number;
  text: string;
}

/** A drawing to be given out: full size, mm, y up. */
export interface OutDrawing {
  title: string;
  lines: readonly OutLine[];
  texts: readonly OutText[];
}

/** Room round a drawing, mm. */
export const ROOM_MM = 5;

/** What a drawing covers, with room round it. */
export function extentOf({ lines, texts }: OutDrawing) {
  const bounds = boundsOf([
    ...lines.flatMap(({ points }) => points),
    ...texts.flatMap(({ at: [x, y], heightMm, text }): Point[] => [
      [x, y - 0.25 * heightMm],
      [x + LETTER * heightMm * text.length, y + heightMm],
    ]),
  ]);
  return { minX: bounds.minX - ROOM_MM, minY: bounds.minY - ROOM_MM, maxX: bounds.maxX + ROOM_MM, maxY: bounds.maxY + ROOM_MM };
}

/** About how wide a letter is, of its height. */
const LETTER = 0.6;

/** Layers in the order they first come. */
export const layersOf = ({ lines, texts }: OutDrawing): string[] => [...new Set([...lines, ...texts].map(({ layer }) => layer))];
