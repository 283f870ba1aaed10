import type { Design } from "../cutters/design/schema";
import { bandsOf } from "../cutters/solve/cutBands";
import {
  calibrationOf,
  type DesignEvaluation,
  evaluateDesign,
  type KnobState,
  knobOf,
  pairOf,
  settable,
  settingForHeat,
  withSetting,
} from "../cutters/solve/evaluate";
import type { Relation } from "../kernel/provenance";
import { type FoamName, type FoamSpec, foamNamed, sameFoam } from "../materials/foams";
import { cleanHeats } from "../physics/cut/cut";
import { LIMITS } from "../units/limits";

export const SETTING_CARD: Relation = {
  id: "setting-card",
  title: "The recommended setting",
  formula:
    "heat at 35 % of the way from 'drags' to 'smokes' or 'wide' at the feed; the knob that brings it, solved back; band: heats that stay clean when every doubt is moved",
  words: "As cool and slow as still cuts freely, with room on both sides: a third of the way up from where it would drag.",
  range: "this cutter and wire; foams whose test cuts were accepted use what they taught",
  basis: "estimate",
  source: "the cut and circuit models, calibrated where test cuts were accepted; the place in the band is this project's judgement",
};

/** A cool heat in the clean band: as the search asks. */
export const HEAT_PLACE = 0.35;
/** Feeds tried where the cutter's own does not do for a foam, as shares of it. */
const FEED_SHARES = [1, 0.8, 0.6, 0.45, 0.33, 1.3, 1.7, 2.2] as const;

/** What the card is asked for. */
export interface CardInput {
  foam: FoamSpec;
  widthMm: number;
  ambientC: number;
}

/** One line of the card, solved. */
export interface CardRow extends CardInput {
  /** The design set for it. */
  design: Design;
  evaluation: DesignEvaluation;
  knob: KnobState | null;
  feedMmS: number;
  volts: number;
  currentA: number;
  heatWPerM: number;
  kerfMm: number;
  /** Kerf that nine cuts in ten should have. */
  kerfBandMm: { low: number; high: number };
  /** Settings from one end of the clean heats to the other, in the knob's unit and in rising order; null without a knob. */
  settingBand: { low: number; high: number } | null;
  /** True where test cuts of this foam were accepted. */
  calibrated: boolean;
  /** Wire that had to be longer than the design's for the width, mm; 0 where it was long enough. */
  longerByMm: number;
}

/** Wire that must be out on both sides of the foam together, mm (common practice: a hand's breadth in all). */
const WIRE_BEYOND_MM = 20;

/** The design laid out for another foam, width and room; a foam's own measured figures stay with it only where it is the same foam. */
export function designFor(design: Design, { foam, widthMm, ambientC }: CardInput): { design: Design; longerByMm: number } {
  const same = sameFoam(foam, design.job.foam);
  const needed = widthMm + WIRE_BEYOND_MM;
  const longerByMm = Math.max(0, Math.min(LIMITS.length_mm.max, needed) - design.wire.length_mm);
  return {
    longerByMm,
    design: {
      ...design,
      ambient_C: ambientC,
      job: {
        ...design.job,
        width_mm: widthMm,
        foam: same ? design.job.foam : (foamNamed(foam) as Design["job"]["foam"]),
      },
      wire: longerByMm > 0 ? { ...design.wire, length_mm: needed } : design.wire,
    },
  };
}

/** The knob for one foam, width and room on this set-up, at its own feed or the nearest that cuts cleanly; null where no setting does. See {@link SETTING_CARD}. */
export function cardRow(base: Design, input: CardInput): CardRow | null {
  const { design, longerByMm } = designFor(base, input);
  for (const share of FEED_SHARES) {
    const feed = Math.max(0.1, Math.round(design.job.feed_mm_s * share * 10) / 10);
    const tried: Design = { ...design, job: { ...design.job, feed_mm_s: feed } };
    const pair = pairOf(tried);
    const heats = cleanHeats(pair, feed / 1000, tried.job.maxKerf_mm / 1000);
    if (heats.to <= heats.from) continue;
    const knob = knobOf(tried);
    const wish = knob ? settingForHeat(tried, heats.from + HEAT_PLACE * (heats.to - heats.from), pair) : null;
    const set = knob && wish !== null ? withSetting(tried, settable(knob, wish)) : tried;
    const evaluation = evaluateDesign(set);
    if (evaluation.verdict !== "clean") continue;
    const bands = bandsOf(set, evaluation);
    const ends = knob ? [heats.from, heats.to].map((heat) => Math.min(knob.max, Math.max(knob.min, settingForHeat(tried, heat, pair) ?? knob.value))) : null;
    return {
      ...input,
      design: set,
      evaluation,
      knob: knobOf(set),
      feedMmS: feed,
      volts: evaluation.circuit.wireVoltageV,
      currentA: evaluation.circuit.currentA,
      heatWPerM: evaluation.cut.powerWPerM,
      kerfMm: evaluation.cut.kerfM * 1000,
      kerfBandMm: { low: bands.kerfM.low * 1000, high: bands.kerfM.high * 1000 },
      settingBand: ends ? { low: Math.min(...ends), high: Math.max(...ends) } : null,
      calibrated: calibrationOf(set) !== undefined,
      longerByMm,
    };
  }
  return null;
}

/** A foam's name and density as one word, for telling foams apart. */
export const foamKey = (foam: FoamName) => `${foam.own ? `${foam.own.name} ` : ""}${foam.family}-${foam.density_kg_m3}`;

/** Foams without their doubles, the first of each kept; unknown families are left out. */
export function distinctFoams(foams: readonly FoamSpec[], most: number): FoamSpec[] {
  const seen = new Map<string, FoamSpec>();
  for (const foam of foams) if (!seen.has(foamKey(foam))) seen.set(foamKey(foam), foam);
  return [...seen.values()].slice(0, most);
}
