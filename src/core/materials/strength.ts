import { interpolate, type Table } from "../numerics/interpolate";
import type { Source } from "../provenance";

/** Strength and stiffness of a wire alloy. */
interface StrengthRow extends Source {
  /** [degC, 0.2 % proof stress in MPa] by temper; spring temper only where it is sold so. */
  annealed: Table;
  spring?: Table;
  /** Young's modulus at room temperature, Pa. */
  youngPa: number;
}

const at = (...mpa: [number, number, number, number]): Table => [20, 200, 400, 600].map((c, i) => [c, mpa[i] as number] as const);
const memory: Source = { standing: "from memory", source: "hot proof stress and modulus, metals handbooks" };
const nickelChromium: StrengthRow = { annealed: at(330, 300, 270, 220), youngPa: 214e9, ...memory };
const stainless: StrengthRow = { annealed: at(240, 160, 130, 110), spring: at(1500, 1300, 1050, 500), youngPa: 193e9, ...memory };

/** By alloy id; a custom alloy is taken as nickel-chromium. */
export const STRENGTHS: Readonly<Record<string, StrengthRow>> = {
  "nicr-80-20": nickelChromium,
  "nicr-60-16": { ...nickelChromium, note: "taken as 80/20" },
  fecral: { annealed: at(450, 400, 330, 120), youngPa: 220e9, ...memory },
  "ss-304": stainless,
  "ss-316": { ...stainless, note: "taken as 304" },
  "ni-superalloy": { annealed: at(1000, 960, 940, 900), youngPa: 220e9, ...memory },
  "cuni-44": { annealed: at(150, 130, 110, 80), youngPa: 162e9, ...memory },
  custom: { ...nickelChromium, note: "taken as nickel-chromium 80/20" },
};

/**
 * Proof stress (Pa) of an alloy and temper at a temperature, held at the table's ends.
 * @returns also whether a spring temper was asked that this alloy is not tabled in, and the annealed figure was taken
 */
export function proofStressPa(alloyId: string, temper: "annealed" | "spring", wireC: number): { pa: number; annealedTaken: boolean } {
  const row = STRENGTHS[alloyId] ?? nickelChromium;
  const table = temper === "spring" ? row.spring : row.annealed;
  return { pa: 1e6 * interpolate(table ?? row.annealed, wireC).y, annealedTaken: table === undefined };
}

export function youngPa(alloyId: string): number {
  return (STRENGTHS[alloyId] ?? nickelChromium).youngPa;
}
