import { JUDGEMENT } from "../../kernel/constants";
import { pullLimits } from "../../physics/mechanics/tension";
import { fuseAdvice } from "../../physics/power/powerAdvice";
import { supplyLimitA } from "../../physics/power/supplies";
import type { Design } from "../design/schema";
import { noCut } from "./describe";
import type { DesignEvaluation } from "./evaluate";

/** A figure against its limit; margin is the share of the limit left, negative when it is broken. */
export interface LimitRow {
  name: string;
  value: number;
  limit: number;
  unit: string;
  margin: number;
}

const row = (name: string, value: number, limit: number, unit: string): LimitRow => ({ name, value, limit, unit, margin: 1 - value / limit });

/** Every limit a solved design is under, closest first. */
export function limitsOf(design: Design, evaluation: DesignEvaluation): LimitRow[] {
  const { circuit, cut, pair } = evaluation;
  const hottestC = Math.max(circuit.wireC, cut.wireC);
  const rows = [
    // Where there is no cut, its figures have no limits to be under.
    ...(noCut(evaluation) === null
      ? [
          row("feed ratio", Math.min(cut.feedRatio, 1e6), JUDGEMENT.dragsAboveFeedRatio, "share of top feed"),
          row("kerf", cut.kerfM * 1000, design.job.maxKerf_mm, "mm"),
          row("wire in the kerf", cut.wireC, pair.foam.fumeLimitC, "degC"),
        ]
      : []),
    row("bare wire, flash ignition", circuit.wireC, pair.foam.flashIgnitionC, "degC"),
    row("bare wire, glow", circuit.wireC, JUDGEMENT.glowingC, "degC"),
    row("tension, hot strength", design.tension.hot_N, pullLimits(evaluation.wire, hottestC).creepsN, "N"),
    row("foam on the wire", design.job.width_mm, design.wire.length_mm, "mm"),
  ];
  const limitA = supplyLimitA(design.supply);
  if (Number.isFinite(limitA)) rows.push(row("supply current", circuit.supplyCurrentA, limitA, "A"));
  if (evaluation.lagM !== null && noCut(evaluation) === null)
    rows.push(row("bow", evaluation.lagM * 1000, design.wire.length_mm * JUDGEMENT.lagValidBelowSpanShare, "mm"));
  if (design.leads) rows.push(row("lead current", circuit.currentA, fuseAdvice(circuit.currentA, design.leads.gauge_awg).leadRatingA, "A"));
  return rows.sort((a, b) => a.margin - b.margin);
}
