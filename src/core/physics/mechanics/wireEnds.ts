import type { Relation } from "../../kernel/provenance";
import type { Wire } from "../heat/wire";

export const WIRE_ENDS: Relation = {
  id: "wire-ends",
  title: "Bends, loops and cut length",
  formula: "r = 1.5 d soft, 4 d hard, 3 d brittle after heat; end = loop pi (2 r + d) + 20 d of lock and at least 60 mm to hold",
  words: "A bend tighter than this cracks a hard wire or thins a soft one; plain twisting slips when hot, a locked loop does not.",
  range: "round wire, bent cold, once",
  basis: "common practice",
  source: "wire-forming practice; lengths are this project's judgement",
};

export interface WireEnds {
  /** Least inside radius of a bend, m. */
  bendRadiusM: number;
  /** Wire used at each end, m. */
  endM: number;
  /** To cut off the spool for a span, m. */
  cutM: number;
  advice: string[];
}

const HOLD_M = 0.06;

/** Bend radius, length to cut and how to make the ends. See {@link WIRE_ENDS}. */
export function wireEnds(wire: Wire, spanM: number): WireEnds {
  const d = wire.outerDiameterM;
  const brittle = wire.alloy.id === "fecral";
  const hard = wire.temper === "spring" || wire.alloy.id === "ni-superalloy";
  const bendRadiusM = (hard ? 4 : brittle ? 3 : 1.5) * d;
  const endM = Math.PI * (2 * bendRadiusM + d) + 20 * d + HOLD_M;
  const advice = [
    "A locked loop (a fishing-style twist, tail turned back and trapped), not plain twisting: that slips when hot.",
    "Or two turns round a bolt between two washers, the bolt smooth and at least this round.",
    "Straighten with a warm pull, never over an edge: a kink breaks thin wire at the first heat.",
  ];
  if (wire.diameterM < 0.0003) advice.push("Wire this thin kinks if looked at: unwind the spool, never pull loops off its side.");
  if (brittle) advice.push("Iron-chromium-aluminium goes brittle once it has been hot: make its ends before first heat and do not unbend them.");
  if (hard) advice.push("Hard-drawn wire springs back: hold both ends in pliers, glasses on. The bend loses its temper if the loop glows.");
  if (wire.strands > 1) advice.push("Stranded: crimp a sleeve over the loop; a broken strand makes a hot spot.");
  return { bendRadiusM, endM, cutM: spanM + 2 * endM, advice };
}
