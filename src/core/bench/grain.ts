import { type FoamFamilyId, foamFamily } from "../materials/foams";

/** How uneven a block is: seeded, so that the same block cuts the same twice. */
export interface Grain {
  seed: number;
  /** Size of a bead or cell of unevenness, m. */
  cellM: number;
  /** Spread of how easily it melts, share. */
  spread: number;
  /** Share of cells that hold something a wire does not melt (boards with recycled content). */
  inclusions: number;
}

/** Share of cells in a recycled board that stop the wire (estimate). */
const RECYCLED_SHARE = 0.0015;
/** How easily an inclusion gives way against the foam about it. */
const INCLUSION_GIVES = 0.04;

export function grainOf(family: FoamFamilyId, seed: number, recycled = false): Grain {
  return { seed, ...foamFamily(family).grain, inclusions: recycled ? RECYCLED_SHARE : 0 };
}

/** No unevenness at all: for checks against the offline engine. */
export const EVEN: Grain = { seed: 0, cellM: 1, spread: 0, inclusions: 0 };

/** A number from 0 to 1 that belongs to a cell. */
function hash(seed: number, a: number, b: number, c: number): number {
  let h = Math.imul((seed | 0) ^ a, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15) ^ b, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15) ^ c, 0x9e3779b1);
  h ^= h >>> 15;
  h = Math.imul(h, 0x85ebca6b);
  return ((h ^ (h >>> 13)) >>> 0) / 4294967296;
}

/**
 * How easily the foam melts at a place, as a multiple of the mean: about 1.
 * @param x along the wire, @param p along the cut, @param q across it, m
 */
export function grainAt({ seed, cellM, spread, inclusions }: Grain, x: number, p: number, q: number): number {
  if (spread === 0 && inclusions === 0) return 1;
  const a = Math.floor(x / cellM);
  const b = Math.floor(p / cellM);
  const c = Math.floor(q / cellM);
  if (inclusions > 0 && hash(seed + 1, a, b, c) < inclusions) return INCLUSION_GIVES;
  // Two cells averaged: closer to a bell than to a die.
  return 1 + spread * (hash(seed, a, b, c) + hash(seed + 7, a, b, c) - 1) * 2.4;
}
