import type { CarriageLayout } from "./carriages";

export interface Machine {
  /** of the near carriage, then of the far one where it has its own */
  axes: readonly string[];
  /** how the block stands; the carriages are at its faces where it is not said */
  layout: CarriageLayout | null;
  travelMm: readonly (readonly [number, number])[] | null;
  /** a turntable: turned by so much between passes */
  turn: { axis: string; deg: number; passes: number } | null;
}

/** Full heat, as the S word says it. */
export const FULL_HEAT = 1000;
