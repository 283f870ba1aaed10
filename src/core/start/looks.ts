import type { FoamFamilyId } from "../materials/foams";

/** How people tell foams apart without a data sheet (common practice). */
export const LOOKS: Readonly<Record<FoamFamilyId, { look: string; feel: string }>> = {
  eps: { look: "White, with beads you can see", feel: "Squeaks, dents, and breaks with a crunch along its beads" },
  xps: { look: "Coloured board, smooth, no beads", feel: "Stiff; snaps clean" },
  epp: { look: "Beads, mostly black, grey or white", feel: "Springs back from a pinch; bends and does not snap" },
  pe: { look: "Fine soft cells, often with a skin", feel: "Folds double, feels waxy" },
};

/** Grams that a litre of foam weighs: the same figure as kg/m3, and one that a kitchen scale gives. */
export const gramsALitre = (densityKgM3: number): number => densityKgM3;
