import type { Relation } from "../../kernel/provenance";

/** Next to the sum itself: a page that only describes it need not load it. */
export const AXIAL: Relation = {
  id: "axial",
  title: "Heat along the wire",
  formula: "d/dx(k A dT/dx) + I^2 R'(T) - q'_zone(T) = 0; clamps at both ends",
  words: "The clamps cool the ends, the foam cools the middle, and the bare stretches between run hottest.",
  range: "steady; constant conductivity; foam taken as the kerf model's heat at each point's own temperature",
  basis: "published",
  source: "finite volumes on the one-dimensional heat equation; losses as for the bare wire and the kerf",
};
