/** How far a number can be trusted; shown next to it everywhere. */
export type Basis = "published" | "common practice" | "from memory" | "estimate";

/** Where a number comes from. No source, no row. */
export interface Source {
  basis: Basis;
  /** Citation, or what the estimate rests on. */
  source: string;
  note?: string;
}

/** A relation of physics as a record: docs, the "why?" panel and warnings all read this one place. */
export interface Relation extends Source {
  id: string;
  title: string;
  /** The formula in plain text. */
  formula: string;
  /** What it means, in a sentence a maker can read. */
  words: string;
  /** Where it holds. */
  range: string;
}
