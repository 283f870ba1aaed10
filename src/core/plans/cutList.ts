import { MaxRectsPacker } from "maxrects-packer/dist/maxrects-packer.mjs";
import type { Item } from "../drawer/items";
import { foamOf } from "../drawer/things";
import type { FoamSpec } from "../materials/foams";
import { resolveFoam } from "../materials/foams";
import type { Plan } from "./plan";

/** A block or sheet of foam that lies in the drawer. */
export interface Board {
  name: string;
  foam: string;
  family: string;
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
  densityKgM3: number;
  /** in the maker's own money, each; null where none is given */
  price: number | null;
}

/** A blank to be cut out: which part, and its three sizes with what is trimmed off. */
export interface Blank {
  name: string;
  lengthMm: number;
  widthMm: number;
  thickMm: number;
}

/** One blank in its place: on which board and in which layer of it (0 is the uppermost), mm from a corner. */
export interface Placed {
  blank: string;
  board: number;
  layer: number;
  x: number;
  y: number;
  wide: number;
  high: number;
}

export interface CutList {
  board: Board;
  /** How many of the board it takes. */
  boards: number;
  /** Blanks' thickness goes so many times into the board's. */
  layers: number;
  placed: Placed[];
  /** The largest piece that is left whole of each layer that was cut from, board by board: mm, longest first. */
  offcuts: { board: number; layer: number; longMm: number; wideMm: number; thickMm: number }[];
  /** Share of the boards that becomes blanks. */
  used: number;
  price: number | null;
}

/** Width of a saw's or a squaring wire's cut between blanks, mm (common practice). */
export const SAW_MM = 3;

/** Narrower than this is waste, mm (this project's judgement). */
const LEAST_OFFCUT_MM = 40;

/** Blocks in the drawer whose three sizes are known. */
export function boardsOf(items: readonly Item[]): Board[] {
  return items.flatMap((item) => {
    if (item.kind !== "foam" || !item.owned || !item.block_length_mm || !item.block_width_mm || !item.block_thickness_mm) return [];
    const { densityKgM3 } = foamOf(item);
    return [
      {
        name: item.name,
        // Computed exactly, shown to the kilogram.
        foam: resolveFoam({ family: item.family, density_kg_m3: Math.round(densityKgM3) }).name,
        family: item.family,
        lengthMm: item.block_length_mm,
        widthMm: item.block_width_mm,
        thicknessMm: item.block_thickness_mm,
        densityKgM3,
        price: item.price ?? null,
      },
    ];
  });
}

/** Densities closer than this are cut by one setting, as a share (this project's judgement: half of the spread between boards of one sort). */
const SAME_DENSITY = 0.1;

/** Why a board is not the foam that a cutter is set for; null where it is. */
export function otherFoam(board: Board, foam: FoamSpec): string | null {
  const wanted = resolveFoam(foam).name;
  if (board.family === foam.family && Math.abs(board.densityKgM3 / foam.density_kg_m3 - 1) <= SAME_DENSITY) return null;
  return `it is ${board.foam}, and the cutter is set for ${wanted}: its kerf, its pace and its templates are for that foam`;
}

/** The blanks of a plan: one, or a left and a right, distinguished by name so that hands are not confused. */
export function blanksOf(plan: Plan, block: { lengthMm: number; widthMm: number; boardMm: number }): Blank[] {
  // Marked on the foam itself, root end and all, before anything is cut: two mirrored blanks look the same.
  const names = plan.part.hands === "one" ? ["one"] : ["left", "right, mirrored"];
  return names.map((name) => ({ name, lengthMm: block.lengthMm, widthMm: block.widthMm, thickMm: block.boardMm }));
}

/** The blanks of all panels of a part, each distinguished by its panel too. */
export const blanksOfPanels = (panels: readonly { plan: Plan; evaluation: { block: { lengthMm: number; widthMm: number; boardMm: number } } }[]): Blank[] =>
  panels.flatMap(({ plan, evaluation }, i) =>
    blanksOf(plan, evaluation.block).map((blank) =>
      panels.length === 1 ? blank : { ...blank, name: `panel ${i + 1}${blank.name === "one" ? "" : ` ${blank.name}`}` },
    ),
  );

/**
 * The packing that takes the fewest boards of a few: blanks turned as the packer likes, or all as they are, or all the other way where they fit so. A packer that turns one
 * for a better beginning may want one board more than rows and columns would.
 */
function fewest(blanks: readonly Blank[], length: number, width: number, sawMm: number): MaxRectsPacker {
  const packed = (allowRotation: boolean, turned: (blank: Blank) => boolean) => {
    // Every blank with a cut on two of its sides, on a board larger by one: cuts lie between blanks, not round them.
    const packer = new MaxRectsPacker(length + sawMm, width + sawMm, 0, { smart: false, pot: false, square: false, allowRotation });
    packer.addArray(
      blanks.map((blank) => {
        const [w, h] = turned(blank) ? [blank.widthMm, blank.lengthMm] : [blank.lengthMm, blank.widthMm];
        return { width: w + sawMm, height: h + sawMm, x: 0, y: 0, name: blank.name };
      }) as never,
    );
    return packer;
  };
  const along = ({ lengthMm, widthMm }: Blank) => lengthMm <= length && widthMm <= width;
  const across = ({ lengthMm, widthMm }: Blank) => widthMm <= length && lengthMm <= width;
  return [packed(true, () => false), packed(false, (blank) => !along(blank)), packed(false, across)].reduce((best, each) =>
    each.bins.length < best.bins.length ? each : best,
  );
}

/**
 * Blanks laid out on boards of one kind, layer by layer, turned where that helps (maximal rectangles, a kept library).
 * @returns the list, or why a blank does not come out of such a board
 */
export function cutList(blanks: readonly Blank[], board: Board, sawMm = SAW_MM): CutList | { board: Board; refused: string } {
  const [length, width] = [board.lengthMm, board.widthMm];
  for (const { name, lengthMm, widthMm, thickMm } of blanks) {
    if (thickMm > board.thicknessMm)
      return { board, refused: `${name} needs ${thickMm.toFixed(0)} mm of thickness, the board has ${board.thicknessMm.toFixed(0)}` };
    const fits = (l: number, w: number) => lengthMm <= l && widthMm <= w;
    if (!fits(length, width) && !fits(width, length))
      return { board, refused: `${name} is ${lengthMm.toFixed(0)} by ${widthMm.toFixed(0)} mm, the board ${length.toFixed(0)} by ${width.toFixed(0)}` };
  }
  const thick = Math.max(...blanks.map(({ thickMm }) => thickMm));
  const layers = Math.max(1, Math.floor((board.thicknessMm + sawMm) / (thick + sawMm)));
  const packer = fewest(blanks, length, width, sawMm);
  const placed = packer.bins.flatMap((bin, sheet) =>
    bin.rects.map((rect): Placed => {
      // A turned one keeps its own two sizes and says that it is turned.
      const [w, h] = rect.rot ? [rect.height, rect.width] : [rect.width, rect.height];
      const { x, y } = rect;
      return {
        blank: (rect as unknown as { name: string }).name,
        board: Math.floor(sheet / layers),
        layer: sheet % layers,
        x,
        y,
        wide: w - sawMm,
        high: h - sawMm,
      };
    }),
  );
  const boards = Math.ceil(packer.bins.length / layers);
  const offcuts = packer.bins.flatMap((bin, at) => {
    // Free rectangles of the packing, less the saw's cut next to them.
    const free = bin.freeRects
      .map((rect) => [Math.max(rect.width, rect.height) - sawMm, Math.min(rect.width, rect.height) - sawMm] as const)
      .filter(([, wide]) => wide >= LEAST_OFFCUT_MM);
    const best = free.sort((a, b) => b[0] * b[1] - a[0] * a[1])[0];
    return best ? [{ board: Math.floor(at / layers), layer: at % layers, longMm: best[0], wideMm: best[1], thickMm: Math.min(thick, board.thicknessMm) }] : [];
  });
  const volume = blanks.reduce((sum, { lengthMm, widthMm, thickMm }) => sum + lengthMm * widthMm * thickMm, 0);
  return {
    board,
    boards,
    layers,
    placed,
    offcuts,
    used: volume / (boards * length * width * board.thicknessMm),
    price: board.price === null ? null : boards * board.price,
  };
}
