import { boundsOf } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { extentOf, type OutDrawing, ROOM_MM } from "./drawing";

/** Papers, mm, upright. ISO 216 and ANSI letter. */
export const PAPERS_MM = { a4: [210, 297], a3: [297, 420], letter: [215.9, 279.4] } as const;
export type Paper = keyof typeof PAPERS_MM;

/** What a printer leaves white, how far neighbouring sheets overlap, and the strip at the foot for the ruler and the sheet's name, mm. */
export const SHEET = { marginMm: 8, overlapMm: 12, footMm: 16 } as const;
const MOST_SHEETS = 200;

/** One sheet: which part of the drawing it shows. */
export interface PageTile {
  row: number;
  column: number;
  /** lower left corner of its window in the drawing, mm */
  x: number;
  y: number;
}

export interface Tiling {
  paperMm: readonly [number, number];
  /** The window each sheet shows, mm of the drawing. */
  windowMm: readonly [number, number];
  rows: number;
  columns: number;
  tiles: PageTile[];
}

/**
 * A drawing cut into sheets, row by row from its top left; neighbours overlap.
 * @param scale printed size over true size that makes up for a printer: the drawing is drawn so many times larger
 * @throws CoreError `out-of-range` where it would take more sheets than anybody glues
 */
export function tile(drawing: OutDrawing, paper: Paper, scale = 1): Tiling {
  const paperMm = PAPERS_MM[paper];
  const { minX, maxX, minY, maxY } = extentOf(drawing);
  const wide = (paperMm[0] - 2 * SHEET.marginMm) / scale;
  const high = (paperMm[1] - 2 * SHEET.marginMm - SHEET.footMm) / scale;
  const count = (extent: number, window: number) => Math.max(1, Math.ceil((extent - SHEET.overlapMm) / (window - SHEET.overlapMm) - 1e-9));
  const [columns, rows] = [count(maxX - minX, wide), count(maxY - minY, high)];
  if (columns * rows > MOST_SHEETS)
    throw new CoreError("out-of-range", "paper", `this would take ${columns * rows} sheets: choose a larger paper, or give it out as SVG`);
  const points = boundsOf(drawing.lines.flatMap((line) => line.points));
  const tiles: PageTile[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const x = minX + column * (wide - SHEET.overlapMm);
      const y = maxY - high - row * (high - SHEET.overlapMm);
      if (x < points.maxX + ROOM_MM) tiles.push({ row, column, x, y });
    }
  }
  return { paperMm, windowMm: [wide, high], rows, columns, tiles };
}
