import { boundsOf } from "../../geometry/points";
import type { PlanEvaluation } from "../../plans/evaluate";
import type { Plan, PlanEnd } from "../../plans/plan";
import type { FrameRig } from "./fields";

/** How a plan's part lies in a frame's travel, along one of its two directions, mm. */
interface Along {
  axis: "x" | "y";
  /** the part with half a kerf on either side */
  neededMm: number;
  travelMm: number;
  /** where the wire goes, from home */
  from: number;
  to: number;
}

/** A part that leaves its frame's travel, with what would bring it back. */
export interface TravelMisfit {
  code: "too-large" | "outside-travel";
  axis: "x" | "y";
  words: string;
  cures: { words: string; rig?: Partial<FrameRig>; plan?: Plan }[];
}

/** Left at either end of a travel, mm: the wire enters from outside the part. */
const ROOM_MM = 5;

function alongs(rig: FrameRig, { root, block }: Pick<PlanEvaluation, "root" | "block">): Along[] {
  const part = boundsOf(root.placed.flatMap(({ outline }) => outline));
  const half = root.kerfMm / 2;
  const along = (axis: "x" | "y", min: number, max: number, blockMin: number, blockAt: number, travelMm: number): Along => ({
    axis,
    neededMm: max - min + root.kerfMm,
    travelMm,
    from: blockAt + min - blockMin - half,
    to: blockAt + max - blockMin + half,
  });
  return [along("x", part.minX, part.maxX, block.minX, rig.blockX_mm, rig.wide_mm), along("y", part.minY, part.maxY, block.minY, rig.blockY_mm, rig.high_mm)];
}

/** The plan with both its ends smaller, so that it is so wide at most; null where a shape does not scale by its length. */
function scaled(plan: Plan, share: number, widthMm: number, kerfMm: number): Plan {
  const end = (one: PlanEnd, chordMm: number): PlanEnd => ({ ...one, chord_mm: Math.floor(chordMm * 10) / 10 });
  const chord = (widthMm - kerfMm) * share;
  return {
    ...plan,
    root: end(plan.root, plan.root.chord_mm === undefined ? chord : plan.root.chord_mm * share),
    tip: plan.tip && end(plan.tip, plan.tip.chord_mm === undefined ? chord : plan.tip.chord_mm * share),
  };
}

/**
 * Where a part of one section leaves the travel of a frame whose carriages go together, and by how much.
 * Frames with free carriages are checked along their own path.
 */
export function travelMisfits(rig: FrameRig, plan: Plan, evaluation: Pick<PlanEvaluation, "root" | "block">): TravelMisfit[] {
  if (rig.carriages === "free" || rig.table) return [];
  const [x, y] = alongs(rig, evaluation) as [Along, Along];
  return [x, y].flatMap((along): TravelMisfit[] => {
    const { axis, neededMm, travelMm, from, to } = along;
    const [size, which, block] = axis === "x" ? (["wide", "along", "blockX_mm"] as const) : (["high", "up", "blockY_mm"] as const);
    const room = travelMm - neededMm;
    if (room < 0) {
      // Along x its width decides; in height it shrinks by as much as it is too high.
      const share = (travelMm - 2 * ROOM_MM - evaluation.root.kerfMm) / (neededMm - evaluation.root.kerfMm);
      const highMm = Math.floor((y.neededMm - evaluation.root.kerfMm) * share);
      return [
        {
          code: "too-large",
          axis,
          words: `With its kerf the part is ${neededMm.toFixed(1)} mm ${size}, and the frame goes ${travelMm.toFixed(0)} mm ${which}: ${(-room).toFixed(1)} mm too ${size}.`,
          cures: share > 0.02 ? [{ words: `Make it ${highMm} mm high`, plan: scaled(plan, share, x.neededMm, evaluation.root.kerfMm) }] : [],
        },
      ];
    }
    if (from >= 0 && to <= travelMm) return [];
    // The nearest place of the block at which the part is within, with room to enter where there is some.
    const lowest = rig[block] - from + Math.min(ROOM_MM, room / 2);
    const highest = rig[block] - from + room - Math.min(ROOM_MM, room / 2);
    const at = Math.round(Math.min(highest, Math.max(lowest, rig[block])) * 10) / 10;
    const beyond = from < 0 ? -from : to - travelMm;
    return [
      {
        code: "outside-travel",
        axis,
        words: `The part goes ${beyond.toFixed(1)} mm beyond the frame's travel ${which}, which is ${travelMm.toFixed(0)} mm.`,
        cures: [{ words: `Move the block to ${at} mm ${which}`, rig: { [block]: at } }],
      },
    ];
  });
}
