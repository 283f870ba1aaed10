import { z } from "zod";
import { exactlyOne, type Verb, verb } from "../kernel/verb";
import { heatOf, lineSchema, refuseUntaut, tautFields, tautWireOf, verbPairOf } from "../physics/string/verbs";
import { figure } from "../units/figure";
import { HOLDS, paceOf } from "./pace";
import { CORNER_METHODS } from "./search";

const CORNERS = [...CORNER_METHODS, "best"] as const;
/** Where a current's heat is first taken, mm/s: its resistance hardly moves with the feed. */
const FIRST_FEED_MM_S = 5;

const paceVerb = verb(
  "pace",
  "The fastest times at which both ends may be led for the wire to keep a tolerance at the middle and both faces of the foam: a feed for each stretch, waits in tenths of a second, and what limits each stretch. Where the ends stop, the middle still trails: the times end with the wait in which it comes, and `end` says how far it is and the run-out that would do instead. By the line, or by the face that the heat leaves.",
  z
    .strictObject({
      ...tautFields,
      path_mm: lineSchema,
      tipPath_mm: lineSchema.optional(),
      tolerance_mm: figure("tolerance_mm"),
      hold: z.enum(HOLDS, { error: `must be one of ${HOLDS.join(", ")}` }).default("line"),
      corner: z.enum(CORNERS, { error: `must be one of ${CORNERS.join(", ")}` }).default("wait"),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m"))
    .superRefine(refuseUntaut),
  {
    wire: { alloy: "ss-304", diameter_mm: 0.64 },
    foam: "eps-18",
    power_W_per_m: 44,
    tension_N: 65,
    length_mm: 1300,
    foamFrom_mm: 100,
    foamTo_mm: 1200,
    path_mm: [
      [0, 0],
      [60, 0],
      [60, 60],
    ],
    tolerance_mm: 0.3,
  },
  (input) => {
    const pair = verbPairOf(input);
    const first = heatOf(pair, input, FIRST_FEED_MM_S);
    const power = input.current_A === undefined ? first : heatOf(pair, input, Math.max(0.1, 0.6 * tautWireOf(input, pair, first).maxFeedMmS));
    const evaluation = paceOf({
      wire: tautWireOf(input, pair, power),
      pair,
      powerWPerM: power,
      root: input.path_mm,
      tip: input.tipPath_mm ?? input.path_mm,
      toleranceMm: input.tolerance_mm,
      hold: input.hold,
      corner: input.corner,
      endWait: true,
    });
    return {
      path_mm: evaluation.path,
      tipPath_mm: evaluation.tipPath,
      times_s: evaluation.timesS,
      total_s: evaluation.totalS,
      end: { left_mm: evaluation.end.leftMm, wait_s: evaluation.end.waitS, runOut_mm: evaluation.end.runOutMm },
      error_mm: evaluation.errorMm,
      faceError_mm: evaluation.faceErrorMm,
      corner: evaluation.corner,
      waits: evaluation.waits.map(({ at, alongMm, waitS }) => ({ at_mm: at, along_mm: alongMm, wait_s: waitS })),
      limits: evaluation.limits.map(({ fromMm, toMm, feedMmS, limit }) => ({ from_mm: fromMm, to_mm: toMm, feed_mm_s: feedMmS, limit })),
    };
  },
);

export const PACE_VERBS: readonly Verb[] = [paceVerb];
