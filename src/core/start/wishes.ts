import { foamFamily } from "../materials/foams";
import type { Answers, Exactness, Wanted } from "./answers";

/** Kerf a job of an exactness accepts, mm (this project's judgement: common practice loses about 1 mm a face and sands fine hairs). */
export const KERF_MM: Readonly<Record<Exactness, number>> = { rough: 3.5, fair: 2.5, fine: 1.6 };
/** A calm pace in foam of 20 kg/m3, mm/s, and how it falls with density and family (common practice: about four seconds an inch in light bead foam). */
const CALM_MM_S = 6;
const BRISK = 1.35;

/** A pace a hand can keep in this foam, mm/s. */
export function paceFor({ foam, brisk, exact }: Pick<Answers, "foam" | "brisk" | "exact">): number {
  const calm = CALM_MM_S * foamFamily(foam.family).pace * Math.sqrt(20 / foam.density_kg_m3);
  const pace = calm * (brisk ? BRISK : 1) * (exact === "fine" ? 0.85 : 1);
  return Number(Math.min(9, Math.max(1.5, pace)).toFixed(1));
}

export const WANTED_WORDS: Readonly<Record<Wanted, string>> = {
  straight: "cut straight",
  shape: "cut to a shape",
  sheets: "sliced into sheets",
  pockets: "pockets and grooves",
};
export const EXACT_WORDS: Readonly<Record<Exactness, string>> = {
  rough: "a few millimetres either way",
  fair: "within about a millimetre",
  fine: "as exact as it goes",
};
