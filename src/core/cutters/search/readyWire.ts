import { JUDGEMENT } from "../../kernel/constants";
import type { Foam } from "../../materials/foams";
import { type CutPair, type CutState, cleanHeats, cutAtPower } from "../../physics/cut/cut";
import { midSpanLag } from "../../physics/cut/lag";
import { bareWireDriven } from "../../physics/heat/bareWire";
import { resistanceOhmPerM, resolveWire, type Wire, type WireSpec } from "../../physics/heat/wire";
import { pullLimits } from "../../physics/mechanics/tension";
import type { Leads } from "../../physics/power/leads";
import { formatQuantity, type UnitSystem } from "../../units/units";

/** What is to be cut. SI but for the names. */
export interface SearchJob {
  foam: Foam;
  widthM: number;
  feedMPerS: number;
  acceptedKerfM: number;
  /** Length between posts; the foam's width and a hand's breadth if not given. */
  bowM: number;
  ambientC: number;
  /** Leads the maker has, by gauge; 18 when not said. */
  leadGaugeAwg?: number | undefined;
  /** Those leads whole, where their length is known: their ohms take a share of the volts. */
  leads?: Leads | undefined;
  /** What test cuts taught: see {@link CutPair}; and ohms beside those computed. */
  heatShare?: number | undefined;
  dragShare?: number | undefined;
  clearanceShare?: number | undefined;
  extraOhm?: number | undefined;
  /** Units of the words in reasons; metric when not said. */
  units?: UnitSystem | undefined;
}

/** What is against a set-up, worst last. */
export const REFUSALS = [
  "mismatch",
  "short-wire",
  "bows",
  "no-entry",
  "no-reach",
  "fades",
  "wastes",
  "at-its-end",
  "too-cold",
  "too-hot",
  "wide",
  "smokes",
  "no-fuse",
  "overload",
  "touch",
  "glows",
] as const;

/** Why a set-up is refused. */
export interface Refusal {
  code: (typeof REFUSALS)[number];
  reason: string;
}

/** A refuseWire whose words are made only when they are read: a matrix tries thousands of set-ups and shows a few. */
export interface Refused {
  code: Refusal["code"];
  say: () => string;
  /** Share of the heat asked that the supply could give, where less heat may lift the refuseWire. */
  ease?: number;
}

/** Makes a refuseWire; see {@link Refused}. */
export const refuseWire = (code: Refusal["code"], say: () => string, ease?: number): Refused => (ease === undefined ? { code, say } : { code, say, ease });

/** Whether a try was refused. */
export const isRefused = (outcome: object): outcome is Refused => "say" in outcome;

/** The heat asked for, as a place between the borders of dragging and of too hot: cool, as common practice asks. */
const HEAT_PLACE = 0.35;
/** A bare wire must stand this much above the foam's collapse to melt its way in, K (this project's judgement). */
const ENTRY_K = 10;
/** Where else it looks in that band when the usual heat will not do. */
const COOLER_PLACES = [0.2, 0.1, 0.03] as const;
const HOTTER_PLACES = [0.6, 0.85, 0.97] as const;
/** Share of the self-ignition temperature that a cooler choice must keep under. */
const IGNITION_SHARE = 0.98;
/** Tension the search strings the wire with: share of what is recommended, and no more than practice pulls on a metre of foam: 55 to 80 N with stainless, up to 110 N with nickel-chromium (common practice). */
const TENSION_SHARE = 0.7;
const TENSION_MOST_N_PER_M = 70;
const TENSION_MOST_N = 110;
const TENSION_LEAST_MOST_N = 8;

/** One wire made ready for a job: the heat it wants and what it needs for it. */
export interface ReadyWire {
  spec: WireSpec;
  wire: Wire;
  cut: CutState;
  currentA: number;
  bareC: number;
  wireOhm: number;
  tensionN: number;
  /** The load it withstands hot without harm, and the load it breaks at hot. */
  withstandsN: number;
  breaksN: number;
  heats: { from: number; to: number };
  /** Share of each of its own limits left in hand, 0 to 1. */
  margins: Record<"drag" | "kerf" | "fumes" | "ignition" | "lag" | "tension", number>;
}

const pairFor = (wire: Wire, { foam, ambientC, heatShare, dragShare, clearanceShare }: SearchJob): CutPair => ({
  wire,
  foam,
  ambientC,
  heatShare,
  dragShare,
  clearanceShare,
});

/** A wire made ready for a job, or why it cannot do it regardless of what drives it. */
export function ready(spec: WireSpec, job: SearchJob): ReadyWire | Refused {
  const wire = resolveWire(spec);
  const pair = pairFor(wire, job);
  const heats = cleanHeats(pair, job.feedMPerS, job.acceptedKerfM);
  if (!(heats.to > heats.from * 1.05)) {
    return heats.above === "smokes"
      ? refuseWire("smokes", () => "it would smoke before it could cut at this feed: slower")
      : refuseWire("wide", () => "too thick for the accepted kerf: it cuts wide before it cuts freely");
  }
  const at = (place: number) => atHeat(spec, wire, job, heats, heats.from + place * (heats.to - heats.from));
  const usual = at(HEAT_PLACE);
  if (!isRefused(usual)) {
    // Where the bare ends would light the foam's vapour, a cooler cut that does not is worth its smaller margin.
    if (usual.bareC < job.foam.selfIgnitionC) return usual;
    const safer = COOLER_PLACES.map(at).find((each) => !isRefused(each) && each.bareC < IGNITION_SHARE * job.foam.selfIgnitionC);
    return safer ?? usual;
  }
  // A wire that glows may do so no longer when run cooler; one that bows is dragged less when hotter, one too cold to enter may enter.
  for (const place of usual.code === "glows" ? COOLER_PLACES : HOTTER_PLACES) {
    const other = at(place);
    if (!isRefused(other)) return other;
  }
  return usual;
}

/** A bare wire's rise goes about as this power of the current: near enough to guess the next from the last. */
const RISE_POWER = 1.6;

/**
 * A wire at a heat in its clean band, with what that heat needs and how far it is from each limit.
 * @param near the same wire at another heat, to start from
 */
export function atHeat(spec: WireSpec, wire: Wire, job: SearchJob, heats: { from: number; to: number }, heat: number, near?: ReadyWire): ReadyWire | Refused {
  const pair = pairFor(wire, job);
  const cut = cutAtPower(pair, job.feedMPerS, heat, job.acceptedKerfM);
  const currentA = Math.sqrt(heat / resistanceOhmPerM(wire, cut.wireC));
  const guessC = near && job.ambientC + (near.bareC - job.ambientC) * (currentA / near.currentA) ** RISE_POWER;
  const bareC = bareWireDriven(wire, { currentA }, { ambientC: job.ambientC }, guessC).temperatureC;
  if (bareC > JUDGEMENT.glowingC)
    return refuseWire("glows", () => `would glow where it is bare (${formatQuantity("temperature", bareC, job.units ?? "metric")})`);
  if (bareC < job.foam.collapseC + ENTRY_K) {
    const shown = (c: number) => formatQuantity("temperature", c, job.units ?? "metric");
    return refuseWire(
      "no-entry",
      () => `would never melt its way in: it settles at ${shown(bareC)} in air, and the foam gives way at ${shown(job.foam.collapseC)}`,
    );
  }
  const { recommendedN: allowed, breaksN } = pullLimits(wire, Math.max(bareC, cut.wireC));
  const most = Math.max(TENSION_LEAST_MOST_N, Math.min(TENSION_MOST_N, TENSION_MOST_N_PER_M * job.widthM));
  const tension = Math.min(most, TENSION_SHARE * allowed);
  const lag = cut.dragNPerM === null ? Number.POSITIVE_INFINITY : midSpanLag(cut.dragNPerM, job.bowM, job.widthM, tension).lagM;
  const lagLimit = job.bowM * JUDGEMENT.lagValidBelowSpanShare;
  if (lag > lagLimit)
    return refuseWire(
      "bows",
      () =>
        `too weak: at the tension it withstands hot (${formatQuantity("force", tension, job.units ?? "metric", 1)}) it would bow ${formatQuantity("kerf", lag * 1000, job.units ?? "metric", job.units === "inch" ? 2 : 0)}`,
    );
  return {
    spec,
    wire,
    cut,
    currentA,
    bareC,
    wireOhm: resistanceOhmPerM(wire, bareC) * (job.bowM - job.widthM) + resistanceOhmPerM(wire, cut.wireC) * job.widthM,
    tensionN: tension,
    withstandsN: allowed,
    breaksN,
    heats,
    margins: {
      drag: 1 - heats.from / heat,
      kerf: 1 - cut.kerfM / job.acceptedKerfM,
      fumes: 1 - cut.wireC / job.foam.fumeLimitC,
      ignition: Math.max(0, 1 - bareC / job.foam.selfIgnitionC),
      lag: 1 - lag / lagLimit,
      tension: 1 - tension / allowed,
    },
  };
}
