import { z } from "zod";
import { bounded } from "../kernel/bounded";
import { exactlyOne, refuse, type Verb, verb, withWarnings } from "../kernel/verb";
import { foamSchema } from "../materials/foamSchema";
import { cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { pulledFeed } from "../physics/cut/lag";
import { wireSchema } from "../physics/heat/wireSchema";
import { heatOf, verbPairOf } from "../physics/string/verbs";
import { ambient, figure } from "../units/figure";
import { anchorMm, fence, haulN, sheet } from "./sums";
import { slackThreads, slackWords, swing } from "./swing";

const mm = (least: number, most: number) => bounded(least, most, "mm");

const swingVerb = verb(
  "swing",
  "Places of both threads on a swinging arm, so that root and tip each draw their own length over the same swing over one pulley, and the worst that the tip differs on the way.",
  z
    .strictObject({
      pulley_mm: z.tuple([mm(-20_000, 20_000), mm(-20_000, 20_000)], { error: "must be [x, y] from the pivot, mm" }),
      from_deg: bounded(-180, 180, "degrees"),
      to_deg: bounded(-180, 180, "degrees"),
      arm_mm: mm(10, 20_000),
      rootTravel_mm: mm(1, 20_000),
      tipTravel_mm: mm(1, 20_000),
    })
    .superRefine(({ from_deg, to_deg }, ctx) => {
      if (Math.abs(from_deg - to_deg) < 1) refuse(ctx, "to_deg", "to_deg must lie at least 1 degree from from_deg: the arm must swing");
    }),
  { pulley_mm: [0, 300], from_deg: 60, to_deg: -60, arm_mm: 900, rootTravel_mm: 330, tipTravel_mm: 190 },
  (input) => {
    const arm = { pulleyMm: input.pulley_mm, fromDeg: input.from_deg, toDeg: input.to_deg, armMm: input.arm_mm };
    const found = swing(arm, input.rootTravel_mm, input.tipTravel_mm);
    return withWarnings(
      { rootRadius_mm: found.rootRadiusMm, tipRadius_mm: found.tipRadiusMm, worstMismatch_mm: found.worstMismatchMm, at_deg: found.atDeg },
      slackThreads(arm, found.rootRadiusMm, found.tipRadiusMm).map((slack) => ({ code: "slack-thread", message: slackWords(slack) })),
    );
  },
);

/** A cut's drag may be given, or what makes it. */
const cutFields = {
  wire: wireSchema.optional(),
  foam: foamSchema.optional(),
  ambient_C: ambient,
  current_A: figure("drivingCurrent_A").optional(),
  power_W_per_m: figure("power_W_per_m").optional(),
  feed_mm_s: figure("feed_mm_s").optional(),
};
type CutInput = {
  wire?: z.output<typeof wireSchema> | undefined;
  foam?: z.output<typeof foamSchema> | undefined;
  ambient_C: number;
  current_A?: number | undefined;
  power_W_per_m?: number | undefined;
  feed_mm_s?: number | undefined;
};

/** Either the figure itself, or wire, foam, one heat and a feed: no more and no less. */
function oneWay(input: CutInput & Record<string, unknown>, given: readonly string[], ctx: z.core.$RefinementCtx): void {
  const cut = ["wire", "foam", "feed_mm_s"];
  const bare = given.every((key) => input[key] !== undefined);
  const some = [...cut, "current_A", "power_W_per_m"].filter((key) => input[key] !== undefined);
  if (bare) {
    for (const key of some) refuse(ctx, key, `${key} says again what ${given.join(" and ")} say: give one or the other`);
    return;
  }
  for (const key of given)
    if (input[key] !== undefined) refuse(ctx, key, `${given.join(" and ")} must be given together, and without wire, foam, heat and feed`);
  for (const key of cut)
    if (input[key] === undefined) refuse(ctx, key, `${key} is required where ${given.join(" and ")} ${given.length === 1 ? "is" : "are"} not given`);
  if ((input.current_A === undefined) === (input.power_W_per_m === undefined)) refuse(ctx, "power_W_per_m", "give exactly one of power_W_per_m, current_A");
}

/** The cut that wire, foam, heat and feed make. The caller has seen that all are there. */
function cutOf(input: CutInput) {
  const pair = verbPairOf({ wire: input.wire, foam: input.foam, ambient_C: input.ambient_C } as Parameters<typeof verbPairOf>[0]);
  const feed = input.feed_mm_s as number;
  return { pair, cut: cutAtPower(pair, feed / 1000, heatOf(pair, input, feed)) };
}

const haulVerb = verb(
  "haul",
  "The level pull that draws a wire along a template's slope: drag over the width, and what of the bow's weight the wire carries. Negative must be held back.",
  z
    .strictObject({
      drag_N_per_m: bounded(0, 1000, "N/m").optional(),
      ...cutFields,
      width_mm: figure("width_mm"),
      carried_N: bounded(0, 2000, "N").default(0),
      slope_deg: bounded(-89, 89, "degrees"),
    })
    .superRefine((input, ctx) => oneWay(input, ["drag_N_per_m"], ctx)),
  { drag_N_per_m: 0.5, width_mm: 1200, carried_N: 4, slope_deg: 45 },
  (input) => {
    const made = input.drag_N_per_m === undefined ? cutOf(input).cut : null;
    const drag = input.drag_N_per_m ?? made?.dragNPerM ?? null;
    return withWarnings(
      { pull_N: drag === null ? null : haulN(drag, input.width_mm / 1000, input.carried_N, input.slope_deg), drag_N_per_m: drag },
      made?.warnings ?? [],
    );
  },
);

const anchorVerb = verb(
  "anchor",
  "How far from the template the far end of the wire is fixed, for the far face to come out so much smaller.",
  z.strictObject({ span_mm: mm(1, 20_000), ratio: bounded(0.01, 10, "(far face over near)") }),
  { span_mm: 1067, ratio: 0.5 },
  (input) => ({ distance_mm: anchorMm(input.span_mm, input.ratio) }),
);

/** Rounds in which a feed and the heat at it settle on each other: each leaves under half of what was off. */
const SETTLES = 40;

const dropVerb = verb(
  "drop",
  "How fast a hot wire sinks through foam under a weight.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
      width_mm: figure("width_mm"),
      weight_N: bounded(0.01, 2000, "N"),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "ss-304", diameter_mm: 0.41 }, foam: "eps-18", power_W_per_m: 40, width_mm: 600, weight_N: 6 },
  (input) => {
    const pair = verbPairOf(input);
    const ref = referenceDragNPerM(pair);
    const at = (feedMmS: number) => cutAtPower(pair, feedMmS / 1000, heatOf(pair, input, feedMmS));
    const sinks = (feedMmS: number) => pulledFeed(input.weight_N, at(feedMmS).maxFeedMPerS, ref, input.width_mm / 1000) * 1000;
    // A current's heat moves a little with the feed it is computed at: again at what was found, until it converges.
    let feed = sinks(5);
    for (let i = 0; i < SETTLES; i++) {
      const next = sinks(Math.max(0.05, feed));
      const moved = Math.abs(next - feed);
      feed = next;
      if (moved < 1e-9) break;
    }
    return withWarnings(
      { feed_mm_s: feed, maxFeed_mm_s: at(Math.max(0.05, feed)).maxFeedMPerS * 1000 },
      at(Math.max(0.05, feed)).warnings.filter(({ code }) => code === "no-melt"),
    );
  },
);

const sheetVerb = verb(
  "sheet",
  "Height of the spacers that a wire lies on for a sheet of a thickness, turns of a screw for it, and how many sheets a block gives.",
  z
    .strictObject({
      wire_mm: figure("diameter_mm").optional(),
      kerf_mm: figure("kerf_mm").optional(),
      ...cutFields,
      sheet_mm: mm(0.1, 1000),
      pitch_mm: mm(0.1, 20).optional(),
      block_mm: mm(0.1, 3000).optional(),
      first_mm: mm(0, 3000).optional(),
    })
    .superRefine((input, ctx) => oneWay(input, ["wire_mm", "kerf_mm"], ctx)),
  { wire_mm: 0.16, kerf_mm: 0.9, sheet_mm: 2, pitch_mm: 1, block_mm: 100, first_mm: 3 },
  (input) => {
    const made = input.kerf_mm === undefined ? cutOf(input) : null;
    const wireMm = input.wire_mm ?? (made?.pair.wire.outerDiameterM ?? 0) * 1000;
    const kerfMm = input.kerf_mm ?? (made?.cut.kerfM ?? 0) * 1000;
    const found = sheet({ wireMm, kerfMm, sheetMm: input.sheet_mm, pitchMm: input.pitch_mm, blockMm: input.block_mm, firstMm: input.first_mm });
    return withWarnings(
      {
        spacer_mm: found.spacerMm,
        ...(found.turns === undefined ? {} : { turns: found.turns }),
        ...(found.sheets === undefined ? {} : { sheets: found.sheets }),
        kerf_mm: kerfMm,
      },
      made?.cut.warnings ?? [],
    );
  },
);

const fenceVerb = verb(
  "fence",
  "Where the fence goes for a part of a width, to the wire's middle and to its near side; live wire of a bevel; the pin for a disc and for the hole it leaves (disc_mm is a radius); a bent loop for a groove.",
  z.strictObject({
    wire_mm: figure("diameter_mm"),
    kerf_mm: figure("kerf_mm"),
    part_mm: mm(0.1, 10_000),
    height_mm: mm(0.1, 5000).optional(),
    tilt_deg: bounded(-80, 80, "degrees").optional(),
    disc_mm: mm(0.1, 5000).optional(),
    groove_mm: mm(0.1, 500).optional(),
  }),
  { wire_mm: 0.5, kerf_mm: 1.4, part_mm: 40, height_mm: 100, tilt_deg: 30, disc_mm: 60, groove_mm: 12 },
  (input) => {
    const found = fence({
      wireMm: input.wire_mm,
      kerfMm: input.kerf_mm,
      partMm: input.part_mm,
      heightMm: input.height_mm,
      tiltDeg: input.tilt_deg,
      discMm: input.disc_mm,
      grooveMm: input.groove_mm,
    });
    return {
      toCentre_mm: found.toCentreMm,
      toWire_mm: found.toWireMm,
      ...(found.liveWireMm === undefined ? {} : { liveWire_mm: found.liveWireMm }),
      ...(found.pinDiscMm === undefined ? {} : { pinDisc_mm: found.pinDiscMm, pinHole_mm: found.pinHoleMm as number }),
      ...(found.loopMm === undefined ? {} : { loop_mm: found.loopMm }),
    };
  },
);

export const RIG_VERBS: readonly Verb[] = [swingVerb, haulVerb, anchorVerb, dropVerb, sheetVerb, fenceVerb];
