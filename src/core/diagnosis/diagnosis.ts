import { designOfCut } from "../calibration/measured";
import type { Design } from "../cutters/design/schema";
import { evaluateDesign, knobOf, settable, settingForHeat, withSetting } from "../cutters/solve/evaluate";
import type { Relation } from "../kernel/provenance";
import type { CutFace, Diagnosis, TestCut } from "../log/entries";
import { waitReach } from "../physics/string/reach";
import { knobWords } from "../sheets/buildSheet";
import { HEAT_PLACE } from "../sheets/settingCard";
import { LIMITS } from "../units/limits";
import { formatQuantity, type UnitSystem } from "../units/units";

export const DIAGNOSIS: Relation = {
  id: "diagnosis",
  title: "What went wrong with a cut",
  formula: "the face names the fault; the cut's own figures say which of its causes is likelier; what did not help before comes last",
  words: "One change at a time, then another test cut as wide as the job: two changes at once teach nothing.",
  range: "faces as drawn; figures as calibrated",
  basis: "common practice",
  source: "the trade's table of faults, read against the cut and circuit models",
};

/** One change that may fix a fault. */
export interface Remedy {
  /** Stable name of the cause: what is remembered as having helped or not. */
  cause: string;
  /** What the figures say for it. */
  reading: string;
  /** The one thing to change. */
  change: string;
  /** The open design with the change made; null where it is a matter of the hand. */
  design: Design | null;
  /** What became of it before, if it was tried. */
  before: "helped" | "no help" | null;
}

export interface Diagnosed {
  fault: CutFace;
  /** Best first; empty for a cut that is right. */
  remedies: Remedy[];
}

/** More tension by this much, where the wire trails. */
const TIGHTER = 1.5;
/** Slower by this much, where nothing better is known. */
const SLOWER = 0.75;
/** Less or more heat by this much, where the model thought the cut right and the face says otherwise. */
const HEAT_NUDGE = 0.15;

type Draft = Omit<Remedy, "before"> & {
  /** Higher is likelier. */
  weight: number;
};

/**
 * What may have gone wrong with a test cut, the likeliest cause first by the cut's own figures, each with one change.
 * @param design the open design: changes are made to it
 * @param past earlier diagnoses of this cutter: a change that did not help comes after those not tried yet
 */
export function diagnose(design: Design, cut: TestCut, past: readonly Diagnosis[], units: UnitSystem): Diagnosed {
  const made = designOfCut(design, cut);
  const evaluation = evaluateDesign(made);
  const { feeds, heats } = evaluation;
  const heatNow = cut.current_A !== undefined || cut.heat_W_per_m === undefined ? evaluation.cut.powerWPerM : cut.heat_W_per_m;
  const feedNow = cut.feed_mm_s;
  const feedText = (mmPerS: number) => formatQuantity("feed", mmPerS, units);
  const heatText = (wPerM: number) => formatQuantity("heat", wPerM, units);
  const clampFeed = (mmPerS: number) => Math.max(LIMITS.feed_mm_s.min, Math.min(LIMITS.feed_mm_s.max, Math.round(mmPerS * 10) / 10));
  const atFeed = (mmPerS: number): Design => ({ ...design, job: { ...design.job, feed_mm_s: clampFeed(mmPerS) } });
  const atHeat = (wPerM: number): { words: string; design: Design } | null => {
    const knob = knobOf(made);
    const wish = knob ? settingForHeat(made, wPerM) : null;
    if (!knob || wish === null || knobOf(design)?.kind !== knob.kind) return null;
    const to = settable(knob, wish);
    return { words: `${knobWords(knob.kind, knob.value, units)} to ${knobWords(knob.kind, to, units)}`, design: withSetting(design, to) };
  };
  const goodHeat = heats.from + HEAT_PLACE * (heats.to - heats.from);
  const midFeed = (1000 * (feeds.from + feeds.to)) / 2;
  const turn = (cause: string, reading: string, wPerM: number, weight: number): Draft => {
    const set = atHeat(wPerM);
    const hotter = wPerM > heatNow;
    return {
      cause,
      reading,
      change: set ? `turn ${hotter ? "up" : "down"}: ${set.words}` : `bring ${heatText(wPerM)} to the cut in place of ${heatText(heatNow)}`,
      design: set?.design ?? null,
      weight,
    };
  };
  const pace = (cause: string, reading: string, mmPerS: number, weight: number): Draft => ({
    cause,
    reading,
    change: `${mmPerS > feedNow ? "faster" : "slower"}: ${feedText(clampFeed(mmPerS))} in place of ${feedText(feedNow)}`,
    design: atFeed(mmPerS),
    weight,
  });
  const hand = (cause: string, reading: string, change: string, weight: number): Draft => ({ cause, reading, change, design: null, weight });
  const tighter = (reading: string, weight: number): Draft => {
    const to = Math.round(Math.min(LIMITS.force_N.max, design.tension.hot_N * TIGHTER));
    return {
      cause: "slack",
      reading,
      change: `pull harder: ${formatQuantity("force", to, units)} in place of ${formatQuantity("force", design.tension.hot_N, units)}, if wire and frame withstand it`,
      design: { ...design, tension: { ...design.tension, hot_N: to } },
      weight,
    };
  };
  const bow = cut.lag_mm ?? (evaluation.lagM === null ? null : evaluation.lagM * 1000);
  const bowText = bow === null ? "the wire trails more than can be computed" : `the middle trails by ${formatQuantity("kerf", bow, units)}`;

  /** How much deeper a wait burns into the part at a square corner than none, mm. */
  const waitBurnMm = (waitS: number): number => {
    const reach = (seconds: number) => waitReach(evaluation.pair, heatNow, feedNow, seconds).cornerMm;
    return Math.max(0, reach(waitS) - reach(0));
  };

  const drafts = ((): Draft[] => {
    switch (cut.face) {
      case "matt":
      case "hairs":
        return [];
      case "glossy": {
        const hot = heatNow > heats.to;
        const slow = feedNow < 1000 * feeds.from;
        return [
          turn(
            "too hot",
            hot
              ? `${heatText(heatNow)} is above the clean ${heatText(heats.to)} at this feed`
              : `${heatText(heatNow)} was thought clean here: this foam wants less`,
            hot ? goodHeat : Math.max(heats.from * 1.05, heatNow * (1 - HEAT_NUDGE)),
            hot ? 3 : 2,
          ),
          pace(
            "too slow",
            slow ? `${feedText(feedNow)} is below the clean ${feedText(1000 * feeds.from)} at this heat` : `${feedText(feedNow)} was thought clean here`,
            slow ? midFeed : feedNow * 1.25,
            slow ? 2.5 : 1,
          ),
        ];
      }
      case "ridged": {
        const cold = heatNow < heats.from;
        const fast = feedNow > 1000 * feeds.to;
        return [
          pace(
            "too fast",
            fast ? `${feedText(feedNow)} is above the clean ${feedText(1000 * feeds.to)} at this heat` : `${feedText(feedNow)} was thought clean here`,
            fast ? midFeed : feedNow * SLOWER,
            fast ? 2.5 : 2,
          ),
          turn(
            "too cold",
            cold
              ? `${heatText(heatNow)} is below the clean ${heatText(heats.from)} at this feed`
              : `${heatText(heatNow)} was thought clean here: this foam wants more`,
            cold ? goodHeat : Math.min(heats.to * 0.95, heatNow * (1 + HEAT_NUDGE)),
            cold ? 3 : 1.5,
          ),
        ];
      }
      case "grooved":
        return [
          hand(
            "paused",
            "a line across is where the wire did not move",
            "never stop in the part: a run-in ramp, one caller, a pace that can be kept; rest only at corners",
            3,
          ),
          turn(
            "too hot",
            `${heatText(heatNow)}: a cooler wire burns a shallower line when it must rest`,
            Math.max(heats.from * 1.05, heatNow * (1 - HEAT_NUDGE)),
            1,
          ),
        ];
      case "hooked":
        // A wait burns the ends while it straightens the middle: it comes last.
        return [
          tighter(bowText, 4),
          pace("too fast", bowText, feedNow * SLOWER, 3),
          hand(
            "no ear",
            bowText,
            bow === null
              ? "run past the corner into the waste and come back: the middle catches up where the heat does no harm"
              : `run ${formatQuantity("length", Math.ceil(1.3 * bow), units)} past the corner into the waste and come back: the middle catches up where the heat does no harm`,
            2,
          ),
          hand(
            "no wait",
            bowText,
            evaluation.dwellS === null
              ? "stop at the corner until the middle has caught up"
              : `stop ${Math.max(1, evaluation.dwellS).toFixed(1)} s at the corner. The wait burns ${formatQuantity("kerf", waitBurnMm(Math.max(1, evaluation.dwellS)), units)} more off the corner at both ends`,
            1,
          ),
        ];
      case "burnt-end":
        return [
          hand(
            "stopped there",
            "a burn at the end is where the wire came to rest",
            `let it run ${formatQuantity("length", 25, units)} beyond the trailing edge before it stops, and begin away from the part`,
            3,
          ),
          turn("too hot", `${heatText(heatNow)}: a cooler wire burns less where it leaves`, Math.max(heats.from * 1.05, heatNow * (1 - HEAT_NUDGE)), 1),
        ];
      case "tapered":
        return [
          hand(
            "ends out of step",
            "one end arrived before the other",
            "mark the same number of stations on both templates; one calls, the other follows: same number, same moment",
            3,
          ),
          hand(
            "pull uneven",
            "threads or hands pulled the ends unlike",
            "pull both ends from one swing arm, the tip's thread nearer the pivot in proportion to its travel",
            2,
          ),
        ];
      case "thin-middle":
        return [
          // Pulling harder does not cut faster: first slow down, then pull the wire straighter.
          pace("too fast", bowText, feedNow * SLOWER, 3),
          tighter(bowText, 2.5),
          turn(
            "too cold",
            `the middle runs at ${Math.round(100 * evaluation.cut.feedRatio)} % of its top feed`,
            Math.min(heats.to * 0.95, heatNow * (1 + HEAT_NUDGE)),
            1,
          ),
        ];
      case "twisted":
        return [
          hand(
            "chords not parallel",
            "the two ends were set at different angles",
            "set both chord lines parallel to the block's base, and check with a level before the cut",
            3,
          ),
        ];
    }
  })();
  const outcomeOf = (cause: string) => {
    const tried = past
      .filter((each) => each.fault === cut.face && each.cause === cause && each.outcome !== "untried")
      .sort((a, b) => (a.at < b.at ? 1 : -1))[0];
    return tried ? (tried.outcome as "helped" | "no help") : null;
  };
  const remedies = drafts
    .map(({ weight, ...draft }) => ({ remedy: { ...draft, before: outcomeOf(draft.cause) }, weight }))
    // What helped before comes first, what did not comes last.
    .sort(
      (a, b) =>
        b.weight +
        (b.remedy.before === "helped" ? 10 : b.remedy.before === "no help" ? -10 : 0) -
        (a.weight + (a.remedy.before === "helped" ? 10 : a.remedy.before === "no help" ? -10 : 0)),
    )
    .map(({ remedy }) => remedy);
  return { fault: cut.face, remedies };
}
