import type { Holdings } from "./holdings";

/** Rows and columns of the matrix that are worked out and drawn at once: about as many cells as an eye can take in. */
export const MATCH_PAGE = { wires: 40, supplies: 20 } as const;

/** A place in the matrix: which page of wires, which of supplies, from nought. */
export interface MatchPlace {
  wires: number;
  supplies: number;
}

const pagesOf = (count: number, size: number) => Math.max(1, Math.ceil(count / size));

/** How many pages a drawer's matrix has each way. */
export function matchPages(holdings: Holdings): MatchPlace {
  return { wires: pagesOf(holdings.wires.length, MATCH_PAGE.wires), supplies: pagesOf(holdings.supplies.length, MATCH_PAGE.supplies) };
}

/** The parts of one page; a place beyond the last page is the last page. */
export function matchPage(holdings: Holdings, place: MatchPlace): Holdings {
  const pages = matchPages(holdings);
  const slice = <T>(all: readonly T[], page: number, last: number, size: number) => {
    const at = Math.min(Math.max(0, page), last - 1) * size;
    return all.slice(at, at + size);
  };
  return {
    wires: slice(holdings.wires, place.wires, pages.wires, MATCH_PAGE.wires),
    supplies: slice(holdings.supplies, place.supplies, pages.supplies, MATCH_PAGE.supplies),
    controls: holdings.controls,
  };
}
