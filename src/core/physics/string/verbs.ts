import { z } from "zod";
import type { Point } from "../../geometry/points";
import type { Warning } from "../../kernel/errors";
import { exactlyOne, refuse, type Verb, verb, withWarnings } from "../../kernel/verb";
import { foamSchema } from "../../materials/foamSchema";
import { resolveFoam } from "../../materials/foams";
import { ambient, figure } from "../../units/figure";
import { type CutPair, cutAtPower, heatInKerf, referenceDragNPerM } from "../cut/cut";
import { resolveWire, type WireSpec } from "../heat/wire";
import { wireSchema } from "../heat/wireSchema";
import { waitReach } from "./reach";
import { type TautWire, wireSurface } from "./tautWire";
import { traceError } from "./traceError";

const FAR = 100_000;
const MOST_POINTS = 20_000;
const place = z
  .number({ error: `must be a number from -${FAR} to ${FAR} mm` })
  .min(-FAR, { error: `must be a number from -${FAR} to ${FAR} mm` })
  .max(FAR, { error: `must be a number from -${FAR} to ${FAR} mm` });
/** A line of points, mm. */
export const lineSchema = z
  .array(z.tuple([place, place], { error: "must be [x, y] in mm" }), { error: "must be a list of [x, y] in mm" })
  .min(2, { error: "needs at least 2 points" })
  .max(MOST_POINTS, { error: `has room for ${MOST_POINTS} points` });

const LEAST_TENSION_N = 0.1;
const tension = figure("tension_N").min(LEAST_TENSION_N, {
  error: `must be a number from ${LEAST_TENSION_N} to 100000 N: a slack wire has no line of its own`,
});

/** A taut wire in foam, as every question about its surface asks for it. */
export const tautFields = {
  wire: wireSchema,
  foam: foamSchema,
  ambient_C: ambient,
  current_A: figure("drivingCurrent_A").optional(),
  power_W_per_m: figure("power_W_per_m").optional(),
  tension_N: tension,
  length_mm: figure("length_mm"),
  foamFrom_mm: figure("position_mm").default(0),
  foamTo_mm: figure("position_mm"),
};

type TautInput = {
  wire: WireSpec;
  foam: Parameters<typeof resolveFoam>[0];
  ambient_C: number;
  current_A?: number | undefined;
  power_W_per_m?: number | undefined;
  tension_N: number;
  length_mm: number;
  foamFrom_mm: number;
  foamTo_mm: number;
};

/** The foam lies on the wire, and both ends' lines are of as many points. */
export function refuseUntaut(
  input: { length_mm: number; foamFrom_mm: number; foamTo_mm: number; path_mm: readonly unknown[]; tipPath_mm?: readonly unknown[] | undefined },
  ctx: z.core.$RefinementCtx,
): void {
  if (input.foamTo_mm > input.length_mm)
    refuse(ctx, "foamTo_mm", `foamTo_mm must be a number from ${input.foamFrom_mm} to ${input.length_mm} mm: the foam lies on the wire`);
  if (input.foamTo_mm - input.foamFrom_mm < 1)
    refuse(ctx, "foamFrom_mm", `foamFrom_mm must be a number from 0 to ${Math.max(0, input.foamTo_mm - 1)} mm: the foam is at least 1 mm wide`);
  if (input.tipPath_mm && input.tipPath_mm.length !== input.path_mm.length)
    refuse(ctx, "tipPath_mm", `tipPath_mm must have as many points as path_mm, ${input.path_mm.length}: both ends are led together`);
}

export const verbPairOf = (input: Pick<TautInput, "wire" | "foam" | "ambient_C">): CutPair => ({
  wire: resolveWire(input.wire),
  foam: resolveFoam(input.foam),
  ambientC: input.ambient_C,
});

/** Heat of a wire that is given by its current: what that makes in the kerf at a feed, W/m. */
export const heatOf = (pair: CutPair, { current_A, power_W_per_m }: Pick<TautInput, "current_A" | "power_W_per_m">, feedMmS: number): number =>
  current_A === undefined ? (power_W_per_m as number) : heatInKerf(pair, feedMmS / 1000, current_A).powerWPerM;

export function tautWireOf(input: TautInput, pair: CutPair, powerWPerM: number): TautWire {
  return {
    lengthM: input.length_mm / 1000,
    tensionN: input.tension_N,
    foamFromM: input.foamFrom_mm / 1000,
    foamToM: input.foamTo_mm / 1000,
    referenceDragNPerM: referenceDragNPerM(pair),
    // The top feed does not hang on the feed it is asked at.
    maxFeedMmS: cutAtPower(pair, 0.005, powerWPerM).maxFeedMPerS * 1000,
  };
}

/** Mean and greatest speed of a line that is led by times, mm/s; stops left out. */
function speeds(path: readonly Point[], timesS: readonly number[]): { mean: number; most: number } {
  let [long, moving, most] = [0, 0, 0];
  for (let i = 1; i < path.length; i++) {
    const [a, b] = [path[i - 1] as Point, path[i] as Point];
    const [mm, s] = [Math.hypot(b[0] - a[0], b[1] - a[1]), (timesS[i] as number) - (timesS[i - 1] as number)];
    if (mm === 0) continue;
    long += mm;
    moving += s;
    most = Math.max(most, mm / s);
  }
  return { mean: long / moving, most };
}

const TIME_ERROR = { error: "must be a list of times in s, one to a point" };
const LONGEST_S = 86_400;

const surfaceVerb = verb(
  "surface",
  "What the wire does while its two ends are led: its line at shares of its length, and the largest distance, both ways, between that and the line drawn (the last of it, which the wire has not come to when its ends stop, left out). Equal consecutive points are a wait.",
  z
    .strictObject({
      ...tautFields,
      path_mm: lineSchema,
      tipPath_mm: lineSchema.optional(),
      times_s: z.array(
        z
          .number(TIME_ERROR)
          .min(0, { error: `must be a number from 0 to ${LONGEST_S} s` })
          .max(LONGEST_S, { error: `must be a number from 0 to ${LONGEST_S} s` }),
        TIME_ERROR,
      ),
      at: z
        .array(
          z
            .number({ error: "must be a number from 0 to 1 (share of the length)" })
            .min(0, { error: "must be a number from 0 to 1 (share of the length)" })
            .max(1, { error: "must be a number from 0 to 1 (share of the length)" }),
        )
        .min(1, { error: "needs at least one share" })
        .max(50, { error: "has room for 50 shares" })
        .default([0.5]),
      nodes: z
        .number({ error: "must be a whole number from 10 to 400" })
        .int({ error: "must be a whole number from 10 to 400" })
        .min(10, { error: "must be a whole number from 10 to 400" })
        .max(400, { error: "must be a whole number from 10 to 400" })
        .default(60),
      steps: z
        .number({ error: "must be a whole number from 50 to 20000" })
        .int({ error: "must be a whole number from 50 to 20000" })
        .min(50, { error: "must be a whole number from 50 to 20000" })
        .max(20_000, { error: "must be a whole number from 50 to 20000" })
        .default(1000),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m"))
    .superRefine((input, ctx) => {
      refuseUntaut(input, ctx);
      if (input.times_s.length !== input.path_mm.length) {
        refuse(ctx, "times_s", `times_s must have as many times as path_mm has points, ${input.path_mm.length}`);
        return;
      }
      const tip = input.tipPath_mm ?? input.path_mm;
      for (let i = 1; i < input.times_s.length; i++) {
        const long = (input.times_s[i] as number) - (input.times_s[i - 1] as number);
        const moves = [input.path_mm, tip].some((line) => line[i]?.[0] !== line[i - 1]?.[0] || line[i]?.[1] !== line[i - 1]?.[1]);
        if (long < 0 || (long === 0 && moves)) {
          refuse(ctx, `times_s.${i}`, `times_s.${i} must be a number over ${input.times_s[i - 1]} s: a move takes time`);
          return;
        }
      }
      if ((input.times_s.at(-1) as number) <= (input.times_s[0] as number)) refuse(ctx, "times_s", "times_s must go on: the last is not after the first");
    }),
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
      [60, 0],
      [60, 60],
    ],
    times_s: [0, 9.23, 9.93, 19.16],
    steps: 50,
    nodes: 20,
  },
  (input) => {
    const pair = verbPairOf(input);
    const tip = input.tipPath_mm ?? input.path_mm;
    const [a, b] = [speeds(input.path_mm, input.times_s), speeds(tip, input.times_s)];
    const power = heatOf(pair, input, Math.max(0.05, (a.mean || b.mean) / 2 + (b.mean || a.mean) / 2));
    const wire = tautWireOf(input, pair, power);
    const { timesS, traces } = wireSurface(wire, { path: input.path_mm, tipPath: tip, timesS: input.times_s }, input.at, {
      nodes: input.nodes,
      steps: input.steps,
    });
    const warnings: Warning[] = [];
    const most = Math.max(a.most || 0, b.most || 0);
    if (most >= wire.maxFeedMmS)
      warnings.push({
        code: "above-top-feed",
        message: `an end is led at ${most.toFixed(2)} mm/s, above this wire's top feed of ${wire.maxFeedMmS.toFixed(2)}: the middle never comes after it`,
      });
    const answered = traces.map((trace) => ({
      at: trace.at,
      path_mm: Array.from(trace.x, (x, i) => [x, trace.y[i] as number]),
      error_mm: traceError(trace).errorMm,
    }));
    return withWarnings(
      {
        times_s: Array.from(timesS),
        traces: answered,
        error_mm: Math.max(...answered.map(({ error_mm }) => error_mm)),
        maxFeed_mm_s: wire.maxFeedMmS,
        referenceDrag_N_per_m: wire.referenceDragNPerM,
      },
      warnings,
    );
  },
);

const waitVerb = verb(
  "wait",
  "What a stop in mid cut burns: how far sideways in a straight cut, how far into the part at a square corner along its diagonal, and how much deeper than half the steady kerf.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
      feed_mm_s: figure("feed_mm_s"),
      wait_s: z
        .number({ error: "must be a number from 0 to 600 s" })
        .min(0, { error: "must be a number from 0 to 600 s" })
        .max(600, { error: "must be a number from 0 to 600 s" }),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "ss-304", diameter_mm: 0.64 }, foam: "eps-18", power_W_per_m: 44, feed_mm_s: 6, wait_s: 2 },
  (input) => {
    const pair = verbPairOf(input);
    const power = heatOf(pair, input, input.feed_mm_s);
    const { radiusMm, cornerMm, halfKerfMm } = waitReach(pair, power, input.feed_mm_s, input.wait_s);
    const cut = cutAtPower(pair, input.feed_mm_s / 1000, power);
    return withWarnings({ radius_mm: radiusMm, corner_mm: cornerMm, bite_mm: Math.max(0, radiusMm - halfKerfMm), halfKerf_mm: halfKerfMm }, cut.warnings);
  },
);

export const STRING_VERBS: readonly Verb[] = [surfaceVerb, waitVerb];
