import type { Item } from "../drawer/items";
import { foamOf } from "../drawer/things";
import { LIMITS } from "../units/limits";
import type { Answers } from "./answers";

/** A block of foam in the drawer whose three sizes are known. */
export interface HeldBlock {
  id: string;
  name: string;
  foam: Answers["foam"];
  /** Along the wire, along the cut, and high, mm: the shortest side is up. */
  width_mm: number;
  along_mm: number;
  thickness_mm: number;
}

/** Blocks that can be taken from the drawer. */
export function heldBlocks(rows: readonly { id: string; item: Item }[]): HeldBlock[] {
  return rows.flatMap(({ id, item }) => {
    if (item.kind !== "foam" || !item.owned || !item.block_length_mm || !item.block_width_mm || !item.block_thickness_mm) return [];
    const [thickness_mm, width_mm, along_mm] = [item.block_length_mm, item.block_width_mm, item.block_thickness_mm].sort((a, b) => a - b) as [
      number,
      number,
      number,
    ];
    const { densityKgM3, weighed } = foamOf(item);
    const density_kg_m3 = Math.round(densityKgM3 * 10) / 10;
    const { min, max } = LIMITS.thickness_mm;
    if (thickness_mm < min || thickness_mm > max) return [];
    return [{ id, name: item.name, foam: { family: item.family, density_kg_m3, ...(weighed ? { weighed } : {}) }, width_mm, along_mm, thickness_mm }];
  });
}

/** The job with a block from the drawer: its foam and its sizes. */
export const fromBlock = (answers: Answers, { foam, width_mm, thickness_mm, along_mm }: HeldBlock): Partial<Answers> => ({
  foam,
  width_mm,
  thickness_mm,
  sheet: { ...answers.sheet, along_mm },
});

/** Whether the job is for this block. */
export const isBlock = (answers: Answers, block: HeldBlock): boolean =>
  JSON.stringify({ ...answers, ...fromBlock(answers, block) }) === JSON.stringify(answers);
