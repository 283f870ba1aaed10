/** Grams that a litre of foam weighs: the same figure as kg/m3, and one that a kitchen scale gives. */
export const gramsALitre = (densityKgM3: number): number => densityKgM3;
