import { CoreError } from "../../kernel/errors";
import { fuseAdvice } from "../../physics/power/powerAdvice";
import { atVolts, supplyEmfV } from "../../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import { blocking } from "./blocked";
import type { Caution } from "./cautions";
import { findCures } from "./cures";
import { describeCure } from "./cureWords";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";
import { SAFETY_WORDS, unansweredSafety } from "./safety";

/** A change that takes one hazard away, solved again before it is offered. */
export interface BlockCure {
  words: string;
  design: Design;
}

/** A hazard that keeps a design from being called ready. */
export interface ReadyBlocker {
  caution: Caution;
  /** The smallest change that takes it away; null where no single change does. */
  cure: BlockCure | null;
}

/** Leads get thicker two gauges at a time, as they are sold. */
const LEAD_GAUGES = [22, 20, 18, 16, 14, 12, 10] as const;

/** Changes worth trying against each hazard, smallest first. */
function tries(design: Design, code: string, units: UnitSystem): BlockCure[] {
  const wired = (wiring: NonNullable<Design["wiring"]>, words: string): BlockCure => ({
    words,
    design: { ...design, wiring: { ...design.wiring, ...wiring } },
  });
  const thickerLeads = LEAD_GAUGES.filter((gauge) => gauge < (design.leads?.gauge_awg ?? 18)).map(
    (gauge): BlockCure => ({ words: `leads of ${gauge} AWG`, design: { ...design, leads: { oneWay_m: 1, ...design.leads, gauge_awg: gauge } } }),
  );
  switch (code) {
    case "isolation-unknown":
      return [wired({ isolation: "isolated" }, "take a supply that is marked as isolated")];
    case "no-fuse":
    case "fuse-too-large": {
      const { fuseA } = fuseAdvice(evaluateDesign(design).circuit.supplyCurrentA, design.leads?.gauge_awg);
      return fuseA === null ? thickerLeads : [wired({ fuse_A: fuseA }, `fit a ${fuseA} A fuse`)];
    }
    case "frame-live":
      return [wired({ insulatedPost: true }, "insulate one post")];
    case "current-through-spring":
      return [wired({ jumper: true }, "bridge the spring with a jumper")];
    case "frame-weak": {
      const eased = [0.8, 0.65, 0.5, 0.35].map((share) => Number((design.tension.hot_N * share).toPrecision(2)));
      return eased.map((hot_N) => ({
        words: `ease the tension to ${formatQuantity("force", hot_N, units, 1)}`,
        design: { ...design, tension: { ...design.tension, hot_N } },
      }));
    }
    case "leads-hot":
      return thickerLeads;
    case "breaks-hot": {
      const withstandsN = Math.max(0.05, Number((evaluateDesign(design).tension.hotLimits.recommendedN * 0.98).toPrecision(2)));
      return [
        {
          words: `ease the tension to ${formatQuantity("force", withstandsN, units, 1)}`,
          design: { ...design, tension: { ...design.tension, hot_N: withstandsN } },
        },
      ];
    }
    case "breaks-cold":
      return [
        { words: "a soft spring in its place", design: { ...design, tension: { device: "spring", hot_N: design.tension.hot_N, rate_N_per_mm: 1.2 } } },
        { words: "a hanging weight in its place", design: { ...design, tension: { device: "weight", hot_N: design.tension.hot_N } } },
      ];
    case "touch-voltage": {
      const { supply } = design;
      const limit = supplyEmfV(supply) > 60 ? 60 : 50;
      const lower = atVolts(supply, limit);
      return lower ? [{ words: `a supply of ${limit} V`, design: { ...design, supply: lower } }] : [];
    }
    default:
      return [];
  }
}

/** Safety questions that nobody has answered keep a cutter from being called ready; no change of the design takes that away. */
function safetyBlock(design: Design): ReadyBlocker[] {
  const open = unansweredSafety(design);
  if (open.length === 0) return [];
  const words = `Not answered yet: ${open.map((key) => SAFETY_WORDS[key]).join("; ")}. Look at the cutter, or use a meter, and answer on the wiring page.`;
  return [
    {
      caution: {
        code: "safety-unanswered",
        severity: "caution",
        place: "wiring",
        blocks: true,
        basis: "common practice",
        source: "a safety question is answered by a person who looked, or by a meter",
        words: () => words,
      },
      cure: null,
    },
  ];
}

/** Everything that keeps a design from being called ready: its hazards, and safety questions that nobody has answered. */
export const blocksOf = (design: Design, units: UnitSystem = "metric", evaluation: DesignEvaluation = evaluateDesign(design)): ReadyBlocker[] => [
  ...hazardsOf(design, units, evaluation),
  ...safetyBlock(design),
];

/**
 * Hazards that keep a design from being called ready, each with the smallest change that takes it away.
 * @returns empty when there are none
 */
export function hazardsOf(design: Design, units: UnitSystem = "metric", evaluation: DesignEvaluation = evaluateDesign(design)): ReadyBlocker[] {
  const gone = (tried: Design, code: string) => !evaluateDesign(tried).cautions.some((caution) => caution.code === code);
  return blocking(evaluation).map((caution) => {
    const { code } = caution;
    const own = tries(design, code, units).find((each) => gone(each.design, code));
    if (own) return { caution, cure: own };
    const general = findCures(design).find((cure) => gone(cure.design, code));
    return { caution, cure: general ? { words: describeCure(general, units), design: general.design } : null };
  });
}

/**
 * Lets only an honest ready mark through.
 * @throws CoreError `not-ready` naming the hazard and its cure
 */
export function requireHonestReady(design: Design): void {
  if (!design.ready) return;
  const [block] = blocksOf(design);
  if (!block) return;
  throw new CoreError("not-ready", "ready", `ready cannot be set: ${block.caution.words("metric")}${block.cure ? ` Smallest cure: ${block.cure.words}.` : ""}`);
}
