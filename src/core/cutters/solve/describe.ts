import { supplyLimitA } from "../../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import type { DesignEvaluation, DesignVerdict } from "./evaluate";

/** One word for lists and badges; never colour alone. */
export const VERDICT_WORD: Readonly<Record<DesignVerdict, string>> = {
  clean: "Clean",
  drags: "Drags",
  smokes: "Smokes",
  wide: "Cuts wide",
  overload: "Supply can't",
  "too-cold": "Too cold",
  "short-wire": "Wire too short",
};

/**
 * Why a set-up has no cut to speak of, in a few words that are where its kerf, bow and ratio would; null where it has one. Figures of what would flow if a supply held
 * are of a cut nobody will make.
 */
export function noCut({ verdict, cautions }: Pick<DesignEvaluation, "verdict" | "cautions">): string | null {
  if (verdict === "overload") return "supply can't";
  if (verdict === "too-cold") return "never warms";
  if (verdict === "short-wire") return "wire too short";
  const refused = (code: string) => cautions.some((caution) => caution.code === code);
  if (refused("touch-voltage")) return "refused: shock";
  return refused("glowing") ? "would glow" : null;
}

export interface VerdictWords {
  headline: string;
  detail: string;
}

/** The nearest border of a clean set-up, by relative change of feed or heat. */
function nearestLimit(evaluation: DesignEvaluation, units: UnitSystem): string {
  const { feeds, heats, feedMPerS, cut } = evaluation;
  const feed = (mPerS: number) => formatQuantity("feed", mPerS * 1000, units, units === "metric" ? 1 : 2);
  const heat = (wPerM: number) => formatQuantity("heat", wPerM, units, units === "metric" ? 0 : 2);
  const ways = [
    { distance: feeds.to / feedMPerS - 1, words: `drags faster than ${feed(feeds.to)}` },
    { distance: 1 - feeds.from / feedMPerS, words: `${feeds.below === "smokes" ? "smokes" : "cuts wide"} slower than ${feed(feeds.from)}` },
    { distance: heats.to / cut.powerWPerM - 1, words: `${heats.above === "smokes" ? "smokes" : "cuts wide"} above ${heat(heats.to)}` },
    { distance: 1 - heats.from / cut.powerWPerM, words: `drags below ${heat(heats.from)}` },
  ];
  ways.sort((a, b) => a.distance - b.distance);
  return ways[0]?.words ?? "";
}

/** The verdict in the voice of the sentence above it. */
export function describeVerdict(design: Design, evaluation: DesignEvaluation, units: UnitSystem): VerdictWords {
  const { cut, circuit, feeds, heats, pair } = evaluation;
  const feed = formatQuantity("feed", design.job.feed_mm_s, units);
  const at = (mPerS: number) => formatQuantity("feed", mPerS * 1000, units, units === "metric" ? 1 : 2);
  const kerf = formatQuantity("kerf", cut.kerfM * 1000, units);
  switch (evaluation.verdict) {
    case "clean":
      return {
        headline: `Clean. Heat margin ${Math.round(100 * (1 - heats.from / cut.powerWPerM))} %.`,
        detail: `Nearest limit: ${nearestLimit(evaluation, units)}.`,
      };
    case "drags":
      return {
        headline: `Drags at ${feed}.`,
        detail: `At this heat the wire melts freely up to ${at(feeds.to)}; faster, it bows and tears. It wants ${formatQuantity("heat", heats.from, units)} here and gets ${formatQuantity("heat", cut.powerWPerM, units)}.`,
      };
    case "smokes":
      return {
        headline: `Smokes at ${feed}.`,
        detail: `In the cut the wire runs near ${formatQuantity("temperature", cut.wireC, units)}, past the fume limit of ${formatQuantity("temperature", pair.foam.fumeLimitC, units)}. ${
          heats.to > heats.from ? `This feed wants ${formatQuantity("heat", heats.to, units)} at most.` : "This wire has no clean heat at this feed."
        }`,
      };
    case "wide":
      return {
        headline: `Cuts wide: a kerf of ${kerf}.`,
        detail: `The job accepts ${formatQuantity("kerf", design.job.maxKerf_mm, units)}. Too much heat stays in each millimetre: edges round over.`,
      };
    case "overload":
      return {
        headline: "The supply can't.",
        detail: `It would be asked for ${formatQuantity("current", circuit.supplyCurrentA, units)} and its plate says ${formatQuantity("current", supplyLimitA(design.supply), units)}.`,
      };
    case "too-cold":
      return {
        headline: "The wire never warms.",
        detail: `In air it settles at ${formatQuantity("temperature", circuit.wireC, units)}; the foam gives way at ${formatQuantity("temperature", pair.foam.collapseC, units)}.`,
      };
    case "short-wire":
      return {
        headline: "The wire does not reach across.",
        detail: `Foam ${formatQuantity("length", design.job.width_mm, units)} wide on a wire of ${formatQuantity("length", design.wire.length_mm, units)}.`,
      };
  }
}
