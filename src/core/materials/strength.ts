import type { Source } from "../kernel/provenance";
import { interpolate, type Table } from "../numerics/interpolate";

/** Strengths of one temper: [degC, MPa]. */
interface TemperRow {
  /** 0.2 % proof stress. */
  proof: Table;
  /** Ultimate tensile strength. */
  ultimate: Table;
}

/** Strength and stiffness of a wire alloy. */
interface StrengthRow extends Source {
  annealed: TemperRow;
  /** Hard-drawn spring temper, only where it is sold so. */
  spring?: TemperRow;
  /** Young's modulus at room temperature, Pa. */
  youngPa: number;
}

type Four = [number, number, number, number];
const at = (mpa: Four): Table => [20, 200, 400, 600].map((c, i) => [c, mpa[i] as number] as const);
const temper = (proof: Four, ultimate: Four): TemperRow => ({ proof: at(proof), ultimate: at(ultimate) });
const memory: Source = { basis: "from memory", source: "hot proof stress, ultimate strength and modulus, metals handbooks" };
const nickelChromium: StrengthRow = { annealed: temper([330, 300, 270, 220], [750, 700, 650, 500]), youngPa: 214e9, ...memory };
const stainless: StrengthRow = {
  annealed: temper([240, 160, 130, 110], [620, 500, 470, 370]),
  spring: temper([1500, 1300, 1050, 500], [1700, 1550, 1350, 650]),
  youngPa: 193e9,
  ...memory,
};

/** By alloy id; a custom alloy is taken as nickel-chromium. */
export const STRENGTHS: Readonly<Record<string, StrengthRow>> = {
  "nicr-80-20": nickelChromium,
  "nicr-60-16": { ...nickelChromium, note: "taken as 80/20" },
  fecral: { annealed: temper([450, 400, 330, 120], [650, 600, 520, 250]), youngPa: 220e9, ...memory },
  "ss-304": stainless,
  "ss-316": { ...stainless, note: "taken as 304" },
  "ni-superalloy": { annealed: temper([1000, 960, 940, 900], [1380, 1330, 1280, 1220]), youngPa: 220e9, ...memory },
  "cuni-44": { annealed: temper([150, 130, 110, 80], [420, 390, 350, 280]), youngPa: 162e9, ...memory },
  custom: { ...nickelChromium, note: "taken as nickel-chromium 80/20" },
};

/** The wire as its strength is asked. */
export interface StrengthInput {
  alloyId: string;
  temper: "annealed" | "spring";
  /** Breaking stress at room temperature, Pa, where its breaking load is known: takes the place of the temper. */
  breakingPa?: number | undefined;
}

export interface Strength {
  proofPa: number;
  ultimatePa: number;
  /** A spring temper was asked that this alloy is not tabled in, and the annealed figures were taken. */
  annealedTaken: boolean;
}

const ROOM_C = 20;

/**
 * Proof stress and ultimate strength (Pa) of a wire at a temperature, held at the tables' ends.
 *
 * Where the breaking stress is known instead of the temper, the table whose own room-temperature strength lies nearest (as a ratio) is scaled to it: how a wire
 * softens with heat is taken to go with how it was drawn (estimate).
 */
export function strengthAt({ alloyId, temper: requested, breakingPa }: StrengthInput, wireC: number): Strength {
  const row = STRENGTHS[alloyId] ?? nickelChromium;
  const read = (table: Table, c: number) => 1e6 * interpolate(table, c).y;
  if (breakingPa !== undefined) {
    const tables = [row.annealed, ...(row.spring ? [row.spring] : [])];
    const away = (each: TemperRow) => Math.abs(Math.log(breakingPa / read(each.ultimate, ROOM_C)));
    const nearest = tables.reduce((best, each) => (away(each) < away(best) ? each : best));
    const share = breakingPa / read(nearest.ultimate, ROOM_C);
    return { proofPa: share * read(nearest.proof, wireC), ultimatePa: share * read(nearest.ultimate, wireC), annealedTaken: false };
  }
  const table = requested === "spring" ? row.spring : row.annealed;
  const { proof, ultimate } = table ?? row.annealed;
  return { proofPa: read(proof, wireC), ultimatePa: read(ultimate, wireC), annealedTaken: table === undefined };
}

export function youngPa(alloyId: string): number {
  return (STRENGTHS[alloyId] ?? nickelChromium).youngPa;
}
