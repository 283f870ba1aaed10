import type { Relation } from "../../kernel/provenance";
import { youngPa } from "../../materials/strength";
import type { Wire } from "../heat/wire";

export const STIFF_TOOL: Relation = {
  id: "stiff-tool",
  title: "How far a loop or wand bends back",
  formula: "wand, both legs: F' h^4/(16 E I); loop: F' b h^3/(6 E I) + F' h^4/(8 E I) + F' b^4/(384 E I); E hot taken as 0.8 of E cold",
  words: "Nothing pulls these wires straight: the bent wire itself must hold its shape, and it is softer hot. Twice as deep bends sixteen times as far.",
  range: "small bends, below a tenth of the depth; legs clamped in the handle",
  basis: "estimate",
  source: "cantilever and portal beams (strength-of-materials handbooks) with this project's estimate of the hot modulus and of the drag",
};

/** Modulus of a working-hot wire against its cold one (estimate). */
const HOT_MODULUS_SHARE = 0.8;

/** A tool that is a bent wire on a handle. Sizes as it is in the foam, m. */
export type StiffTool = { kind: "wand"; depthM: number } | { kind: "loop"; widthM: number; depthM: number };

/** Wire that a tool uses between its two posts, m: there and back for a wand, round three sides for a loop. */
export function stiffWireM(tool: StiffTool): number {
  return tool.kind === "wand" ? 2 * tool.depthM : tool.widthM + 2 * tool.depthM;
}

/** How far the working end bends back under a drag, m. See {@link STIFF_TOOL}. @param dragNPerM on each metre of cut: both legs of a wand share it */
export function stiffBowM(tool: StiffTool, wire: Wire, dragNPerM: number): number {
  const flex = HOT_MODULUS_SHARE * youngPa(wire.alloy.id) * ((wire.strands * Math.PI * wire.diameterM ** 4) / 64);
  const h = tool.depthM;
  if (tool.kind === "wand") return (dragNPerM * h ** 4) / (16 * flex);
  const b = tool.widthM;
  return (dragNPerM * b * h ** 3) / (6 * flex) + (dragNPerM * h ** 4) / (8 * flex) + (dragNPerM * b ** 4) / (384 * flex);
}

/** Bend past which a loop or wand no longer follows the hand, as a share of its depth (this project's judgement). */
export const STIFF_ENOUGH = 0.1;
