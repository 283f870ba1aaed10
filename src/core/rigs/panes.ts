import { CoreError } from "../kernel/errors";
import { cutList, type Placed } from "../plans/cutList";

export interface Pane {
  long: number;
  wide: number;
  count: number;
}

/**
 * Strips and panes laid out on sheets of one size, a kerf between neighbours.
 * @param wanted [long, wide, how many] of each kind, mm
 * @returns each sheet's panes as they lie, and how many of each kind it gives
 * @throws CoreError `out-of-range` for a pane that no sheet holds
 */
export function packed(
  wanted: readonly (readonly [number, number, number])[],
  longMm: number,
  wideMm: number,
  kerfMm: number,
  field: string,
): { placed: Placed[][]; sheets: Pane[][] } {
  const blanks = wanted.flatMap(([lengthMm, widthMm, count], kind) =>
    Array.from({ length: count }, () => ({ name: String(kind), lengthMm, widthMm, thickMm: 1 })),
  );
  if (blanks.length === 0) return { placed: [], sheets: [] };
  const board = { name: "sheet", foam: "", lengthMm: longMm, widthMm: wideMm, thicknessMm: 1, densityKgM3: 1, price: null, family: "" };
  const list = cutList(blanks, board, kerfMm);
  if ("refused" in list) {
    const [long, wide] = wanted.find(([l, w]) => Math.max(l, w) > Math.max(longMm, wideMm) || Math.min(l, w) > Math.min(longMm, wideMm)) ?? wanted[0] ?? [0, 0];
    throw new CoreError("out-of-range", field, `${field}: a pane of ${long} by ${wide} mm does not lie on a sheet of ${longMm} by ${wideMm} mm`);
  }
  const placed = Array.from({ length: list.boards }, (_, i) => list.placed.filter(({ board: on }) => on === i));
  const sheets = placed.map((panes) =>
    wanted.flatMap(([long, wide], kind): Pane[] => {
      const count = panes.filter(({ blank }) => blank === String(kind)).length;
      return count > 0 ? [{ long, wide, count }] : [];
    }),
  );
  return { placed, sheets };
}
