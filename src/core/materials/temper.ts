import { STRENGTHS } from "./strength";

/** What a wire says of its temper. */
interface TemperSaid {
  alloy: string | { id: string };
  temper?: "annealed" | "spring" | undefined;
  breaking_N?: number | undefined;
}

/** How hard a wire is drawn: known, or not. A breaking load says it too. */
export type TemperKnown = "annealed" | "spring" | "breaking-load" | "unknown";

/** Alloys that are sold both annealed and hard-drawn: of the others only one temper is tabled. */
export const hasTwoTempers = (alloy: TemperSaid["alloy"]): boolean => STRENGTHS[typeof alloy === "string" ? alloy : alloy.id]?.spring !== undefined;

/** What is known of a wire's temper; null where its alloy has only one. An unknown temper counts as annealed. */
export function temperOf({ alloy, temper, breaking_N }: TemperSaid): TemperKnown | null {
  if (!hasTwoTempers(alloy)) return null;
  return breaking_N !== undefined ? "breaking-load" : (temper ?? "unknown");
}

const WORDS: Readonly<Record<TemperKnown, string>> = {
  annealed: "annealed",
  spring: "hard-drawn",
  "breaking-load": "known by its breaking load",
  unknown: "temper not known",
};

/** The temper in words, to go after alloy and size; empty where there is nothing to say. */
export function temperWords(wire: TemperSaid): string {
  const known = temperOf(wire);
  return known === null || known === "breaking-load" ? "" : WORDS[known];
}

/** How a maker finds a wire's temper out. From memory of the trade. */
export const TEMPER_TESTS =
  "Hard-drawn wire springs out of its coil and back from a bend; annealed wire stays bent. A magnet holds hard-drawn stainless weakly, annealed hardly at all. Or load a piece until it breaks: above 1,500 MPa over its metal it is hard-drawn.";
