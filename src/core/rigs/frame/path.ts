import { MaxRectsPacker } from "maxrects-packer/dist/maxrects-packer.mjs";
import { offset, united } from "../../geometry/offset";
import { type Bounds, boundsOf, distance, isInside, type Line, lerp, lineLength, nearest, type Point, type Region } from "../../geometry/points";
import { JUDGEMENT } from "../../kernel/constants";
import { CoreError } from "../../kernel/errors";
import { type FedPath, feedAlong, runTimeS } from "../../motion/path/feedAlong";
import { onePath } from "../../motion/path/onePath";
import { carriagesOf, widestStretch } from "../../motion/program/carriages";
import { FULL_HEAT, type Machine } from "../../motion/program/machine";
import { writeProgram } from "../../motion/program/program";
import { bisect } from "../../numerics/bisection";
import { endOf, type PaceEnd, type PaceResult, paceOf } from "../../pace/pace";
import { facesOf, type PaceJob, paceJob } from "../../pace/planPace";
import { type CutPair, cutAtPower, kerfFeedProduct, referenceDragNPerM } from "../../physics/cut/cut";
import { cornerDwell, midSpanLag } from "../../physics/cut/lag";
import type { TautWire } from "../../physics/string/tautWire";
import { deviationOf } from "../../physics/string/traceError";
import { requireFits } from "../../plans/fits";
import type { RigSurroundings } from "../around";
import type { RigProgram } from "../evaluation";
import type { FrameRig } from "./fields";

/** Seconds of heat before the first move. */
const WARM_UP_S = 5;

/** The frame as a program knows it. @param spanMm of the block between the carriages */
export const machineOf = (rig: FrameRig, spanMm: number): Machine => ({
  axes: [...rig.near, ...(rig.carriages === "free" ? rig.far : "")],
  layout: rig.carriages === "free" ? { lengthMm: rig.apart_mm, toBlockMm: rig.toBlock_mm, spanMm } : null,
  travelMm: [
    [0, rig.wide_mm],
    [0, rig.high_mm],
  ],
  turn: rig.table ? { axis: rig.carriages === "free" && rig.far === "AB" ? "C" : "A", deg: 360 / rig.passes, passes: rig.passes } : null,
});

/** A plan's parts and ways moved so that its block's corner is where it is said. */
const movedBy = (by: Point, line: Line): Point[] => line.map(([x, y]) => [x + by[0], y + by[1]]);

const TRIED = { nodes: 30, steps: 500 };
/** Rounds in which what the whole wire misses is brought under the tolerance. */
const ROUNDS = 5;
/** A turned block's corners clear the wire by so much, mm. */
const CLEAR_MM = 10;
/** Foam left about copies at the block's edges, mm. */
const EDGE_MM = 3;

/** What a path is made of: plain data, so that it crosses to a worker. */
export interface FrameJob {
  name: string;
  spanMm: number;
  toleranceMm: number;
  /** corner to corner, mm, as the plan has it */
  block: Bounds;
  kerfMm: number;
  feedMmS: number;
  parts: Region[];
  /** passes round a turntable: the column's own where the plan is one */
  passes: number;
  /** a face's two ends, where each carriage goes its own way */
  face: PaceJob | null;
  faceName: string;
  /** the cutter: its wire in the foam, and what its heat does; null where the plan has none that cuts */
  cutter: { wire: TautWire; pair: CutPair; heatWPerM: number; amps: number } | null;
}

/** @throws CoreError where there is no plan next to the frame, or it cuts nothing */
export function frameJob(rig: FrameRig, { plan, cutter: hung }: RigSurroundings): FrameJob {
  if (!plan) throw new CoreError("no-solution", "", "name the plan it cuts: a path is made of its outlines");
  const { evaluation } = plan;
  requireFits(evaluation);
  const { block, root, cutter } = evaluation;
  const free = rig.carriages === "free";
  const faceName = free ? (facesOf(plan.plan).find((each) => each === rig.face) ?? (facesOf(plan.plan)[0] as FrameRig["face"])) : "whole";
  const face = free ? paceJob(plan.plan, evaluation, faceName) : null;
  if (free && !face) throw new CoreError("no-solution", "", "the plan's cutter does not cut: its heat is too little for a kerf");
  const spanM = plan.plan.part.span_mm / 1000;
  const pair = cutter?.pair ?? null;
  const { shape } = plan.plan.root;
  // A column is drawn lying; on the turntable it is upright.
  const column = rig.table && shape.kind === "column" ? shape : null;
  const upright = ([x, y]: Point): Point => (column ? [-y, x] : [x, y]);
  return {
    name: plan.plan.name,
    spanMm: plan.plan.part.span_mm,
    toleranceMm: plan.plan.pace.tolerance_mm,
    block: column ? { minX: -block.maxY, maxX: -block.minY, minY: block.minX, maxY: block.maxX } : block,
    kerfMm: root.kerfMm,
    feedMmS: root.feedMmS,
    parts: free ? [] : root.placed.map(({ outline, holes }) => ({ outline: outline.map(upright), holes: holes.map((hole) => hole.map(upright)) })),
    passes: column?.passes ?? rig.passes,
    face,
    faceName,
    cutter:
      cutter && pair && root.cut
        ? {
            wire: face?.wire ?? {
              lengthM: spanM,
              tensionN: cutter.design.tension.hot_N,
              foamFromM: 0,
              foamToM: spanM,
              referenceDragNPerM: referenceDragNPerM(pair),
              maxFeedMmS: cutAtPower(pair, root.feedMmS / 1000, cutter.heatWPerM).maxFeedMPerS * 1000,
            },
            pair,
            heatWPerM: cutter.heatWPerM,
            amps: hung?.evaluation.circuit.currentA ?? 0,
          }
        : null,
  };
}

/** Copies of the parts side by side in the block, as many as are wanted. @throws CoreError that says how many there is room for */
function nested(parts: readonly Region[], block: Bounds, copies: number, gapMm: number): Region[] {
  if (copies <= 1) return [...parts];
  const box = boundsOf(parts.flatMap(({ outline }) => outline));
  const [wide, high] = [box.maxX - box.minX, box.maxY - box.minY];
  const room = { wide: block.maxX - block.minX - 2 * EDGE_MM, high: block.maxY - block.minY - 2 * EDGE_MM };
  const packer = new MaxRectsPacker(room.wide + gapMm, room.high + gapMm, 0, { smart: false, pot: false, square: false, allowRotation: true });
  for (let i = 0; i < copies; i++) packer.add(wide + gapMm, high + gapMm, i);
  const [bin] = packer.bins;
  const fit = packer.bins.length > 0 && wide <= Math.max(room.wide, room.high) ? (bin?.rects.length ?? 0) : 0;
  if (packer.bins.length !== 1 || fit < copies)
    throw new CoreError("out-of-range", "copies", `copies must be at most ${Math.max(1, fit)}: the block has room for no more, ${gapMm} mm apart`);
  return (bin?.rects ?? []).flatMap(({ x, y, rot }) => {
    const at: Point = [block.minX + EDGE_MM + x, block.minY + EDGE_MM + y];
    const put = ([px, py]: Point): Point => (rot ? [at[0] + (box.maxY - py), at[1] + (px - box.minX)] : [at[0] + (px - box.minX), at[1] + (py - box.minY)]);
    return parts.map(({ outline, holes }) => ({ outline: outline.map(put), holes: holes.map((hole) => hole.map(put)) }));
  });
}

/** One side of an outline, half a kerf off, from above the block to below it: what a turntable's passes each cut. */
function sideOf(parts: readonly Region[], kerfMm: number, block: Bounds): Point[] {
  const [part] = offset(united(parts), kerfMm / 2);
  if (!part || parts.length > 1) throw new CoreError("no-solution", "table", "a column is turned of one outline: this plan has more, or none");
  const { outline } = part;
  const box = boundsOf(outline);
  const n = outline.length;
  const axis = (box.minX + box.maxX) / 2;
  // From the highest place to the lowest, down the side of home: places nearest to it where an edge lies level.
  const best = (value: (point: Point) => number) =>
    outline.reduce((chosen, point, i) => (value(point) > value(outline[chosen] as Point) + 1e-9 ? i : chosen), 0);
  const [top, low] = [best(([x, y]) => y - 1e-6 * Math.abs(x - box.minX)), best(([x, y]) => -y - 1e-6 * Math.abs(x - box.minX))];
  const side: Point[] = [];
  // Counter-clockwise, the side of home lies after the top.
  for (let i = top, count = 0; count <= n; i = (i + 1) % n, count++) {
    side.push(outline[i] as Point);
    if (i === low) break;
  }
  const out = axis - Math.SQRT1_2 * Math.max(block.maxX - block.minX, 0) - CLEAR_MM;
  const [first, last] = [side[0] as Point, side.at(-1) as Point];
  return [[out, first[1]], ...side, [out, last[1]]];
}

/** S that gives a share of the cutter's heat: by the amps that were measured, or as the share itself. */
export function heatWord(rig: FrameRig, share: number, amps: number): number {
  const scaled = straightest(rig.heatAt);
  if (!scaled || amps <= 0) return FULL_HEAT * share;
  const wanted = amps * Math.sqrt(share);
  const points = [[0, 0] as const, ...[...rig.heatAt].sort((a, b) => a[1] - b[1])];
  const i = points.findIndex(([, at]) => at >= wanted - 1e-9);
  // No more than was measured: what lies beyond is not known.
  if (i <= 0) return points.at(-1)?.[0] ?? FULL_HEAT;
  const [[s0, a0], [s1, a1]] = [points[i - 1] as readonly [number, number], points[i] as readonly [number, number]];
  return s0 + ((s1 - s0) * (wanted - a0)) / Math.max(1e-9, a1 - a0);
}

/** No less of the cutter's heat is asked for. */
const LEAST_HEAT_SHARE = 0.02;

/** Heat for each move: lowered where it goes so slowly that the kerf would grow past half the tolerance. @returns shares of the cutter's heat, and how much wider the kerf is at worst */
function heatAlong(rig: FrameRig, job: FrameJob, feeds: readonly number[]): { shares: number[]; widerMm: number | null } {
  const { cutter, kerfMm, toleranceMm, feedMmS } = job;
  if (!cutter) return { shares: feeds.map(() => 1), widerMm: null };
  const { pair, heatWPerM } = cutter;
  const own = kerfFeedProduct(pair, heatWPerM);
  let wider = 0;
  const known = new Map<number, number>();
  const shares = feeds.map((feed) => {
    // At a wait the middle is still cutting: the heat it cut with stays on.
    if (feed <= 0) return 1;
    const key = Math.round(feed * 20);
    const before = known.get(key);
    if (before !== undefined) return before;
    const grown = Math.max(0, (kerfMm * feedMmS) / feed - kerfMm);
    let share = 1;
    if (rig.heat === "share" && grown > toleranceMm) {
      // The heat whose kerf at this feed is half the tolerance a side wider, and no more.
      const wanted = (own * (kerfMm + toleranceMm)) / ((kerfMm * feedMmS) / feed);
      share = bisect((tried) => kerfFeedProduct(pair, heatWPerM * tried) <= wanted, LEAST_HEAT_SHARE, 1, 40).high;
    }
    wider = Math.max(wider, share < 1 ? toleranceMm : grown);
    known.set(key, share);
    return share;
  });
  return { shares, widerMm: wider };
}

/**
 * A program for the plan next to the frame: one unbroken path where both ends are alike, a face's two ways where they are not, one side again and again on a turntable.
 * @throws CoreError where it cannot be led on this frame
 */
export function frameProgram(rig: FrameRig, job: FrameJob): RigProgram {
  const { block, cutter, toleranceMm } = job;
  const by: Point = [rig.blockX_mm - block.minX, rig.blockY_mm - block.minY];
  const machine = machineOf({ ...rig, passes: job.passes }, job.spanMm);
  // Never faster than the wire still clears with some drag in hand.
  const clears = cutter ? JUDGEMENT.dragsAboveFeedRatio * cutter.wire.maxFeedMmS : Number.POSITIVE_INFINITY;
  const most = Math.min(rig.feed_mm_s, job.feedMmS, clears);
  const frame: Line = movedBy(by, [
    [block.minX, block.minY],
    [block.maxX, block.minY],
    [block.maxX, block.maxY],
    [block.minX, block.maxY],
  ]);
  const style = (heat: readonly number[]) => ({ heat, decimals: rig.decimals, longest: rig.longest, arcs: rig.curves === "arcs" });
  const warm = job.name;
  if (job.face && cutter) {
    const { face } = job;
    const paced = paceOf({
      wire: face.wire,
      pair: cutter.pair,
      powerWPerM: face.powerWPerM,
      root: face.root,
      tip: face.tip,
      toleranceMm: face.toleranceMm,
      hold: face.hold,
      corner: rig.ears || face.corner !== "past" ? face.corner : "best",
      kerfFeeds: rig.heat === "share" ? undefined : face.kerfFeeds,
      fastestMmS: rig.feed_mm_s,
    });
    withRunOut(paced);
    const [near, far] = [movedBy(by, paced.path), movedBy(by, paced.tipPath)];
    const feeds = paced.timesS.slice(1).map((time, i) => {
      const mm = Math.max(distance(near[i] as Point, near[i + 1] as Point), distance(far[i] as Point, far[i + 1] as Point));
      return mm < 1e-9 ? 0 : mm / (time - (paced.timesS[i] as number));
    });
    const { shares, widerMm } = heatAlong(rig, job, feeds);
    const heat = shares.map((share) => (rig.heat === "share" ? heatWord(rig, share, cutter.amps) : FULL_HEAT));
    const { text, timeS } = writeProgram(machine, near, far, paced.timesS, WARM_UP_S, `${warm}, ${job.faceName} face`, style(heat));
    const { left, right } = carriagesOf(machine.layout as NonNullable<Machine["layout"]>, near, far);
    const stretch = widestStretch(rig.apart_mm, left, right);
    if (stretch.mm > rig.spring_mm)
      throw new CoreError(
        "out-of-range",
        "spring_mm",
        `at point ${stretch.at} the wire is ${stretch.mm.toFixed(1)} mm longer than carriage to carriage, and the spring has ${rig.spring_mm} mm: a longer spring, or the block nearer the middle`,
      );
    const moving = feeds.filter((feed) => feed > 0);
    // The longer end's own way, unrolled: it stops where it waits.
    const seconds = paced.timesS.slice(1).map((time, i) => time - (paced.timesS[i] as number));
    const longer: Point[] = [[0, 0]];
    for (const [i, feed] of feeds.entries()) longer.push([(longer[i] as Point)[0] + feed * (seconds[i] as number), 0]);
    const stops = longer.map((_, i) => feeds[i] === 0 || feeds[i - 1] === 0);
    const lowest = Math.min(...shares);
    const wire =
      lowest < 1
        ? {
            ...face.wire,
            maxFeedMmS: face.wire.maxFeedMmS * (kerfFeedProduct(cutter.pair, cutter.heatWPerM * lowest) / kerfFeedProduct(cutter.pair, cutter.heatWPerM)),
          }
        : null;
    const guided = { path: paced.path, tipPath: paced.tipPath, timesS: paced.timesS };
    const ears = paced.paths.pieces
      .filter(({ ear }) => ear)
      .map(({ from, to }) => ({ root: paced.paths.root.slice(from, to + 1), tip: paced.paths.tip.slice(from, to + 1) }));
    return {
      text,
      timeS,
      lengthMm: lineLength(near),
      block: frame,
      parts: [],
      ways: [near, far],
      links: [],
      slits: [],
      bars: [],
      ...deviations(wire ? deviationOf(wire, guided, guided, { ...TRIED, waste: ears }) : paced.errorMm, widerMm),
      end: { ...paced.end, waitS: 0 },
      toleranceMm,
      stretchMm: stretch.mm,
      runS: WARM_UP_S + runTimeS(longer, feeds, seconds, rig.acceleration_mm_s2, stops),
      waits: paced.waits.map(({ at, waitS }) => ({ at: [at[0] + by[0], at[1] + by[1]], waitS })),
      ears: ears.map(({ root }) => movedBy(by, root)),
      feeds: { least: Math.min(...moving), most: Math.max(...moving) },
      heat: { least: Math.min(...heat), most: Math.max(...heat) },
      widerMm,
      copies: 1,
      passes: rig.table ? job.passes : 1,
    };
  }
  const copies = rig.table ? 1 : rig.copies;
  const parts = nested(job.parts, block, copies, rig.gap_mm).map(
    ({ outline, holes }): Region => ({ outline: movedBy(by, outline), holes: holes.map((hole) => movedBy(by, hole)) }),
  );
  const box = boundsOf(parts.flatMap(({ outline }) => outline));
  const found = rig.table
    ? { path: movedBy(by, sideOf(job.parts, job.kerfMm, block)), links: [] as Line[], slits: [] as Line[], bars: [] as Line[] }
    : onePath({
        shapes: parts,
        kerfMm: job.kerfMm,
        join: rig.join,
        barMm: rig.bar_mm,
        // Where it is wanted; else from the block's edge on the side of home, so high as the part's middle.
        start: [rig.startX_mm ?? Math.max(0, (frame[0] as Point)[0] - 5), rig.startY_mm ?? (box.minY + box.maxY) / 2],
        slitsAt: rig.slitsAt,
        barsAt: rig.barsAt,
        order: "shorter",
        first: rig.first,
      });
  const guided = guidedAlong(rig, job, found.path, parts, most);
  const end = cutter ? waitedEnd(guided.fed, cutter.wire, toleranceMm) : null;
  const { shares, widerMm } = heatAlong(rig, job, guided.fed.feeds);
  const heat = shares.map((share) => (rig.heat === "share" ? heatWord(rig, share, cutter?.amps ?? 0) : FULL_HEAT));
  const { text, timeS } = writeProgram(machine, guided.fed.path, null, guided.fed.timesS, WARM_UP_S, warm, style(heat));
  const moving = guided.fed.feeds.filter((feed) => feed > 0);
  return {
    text,
    timeS,
    lengthMm: lineLength(guided.fed.path),
    block: frame,
    parts,
    ways: [guided.fed.path],
    links: found.links,
    slits: found.slits,
    bars: found.bars,
    ...deviations(guided.deviationMm, widerMm),
    end,
    toleranceMm,
    stretchMm: 0,
    runS: guided.fed.runS + WARM_UP_S,
    waits: guided.fed.waits,
    ears: guided.fed.ears,
    feeds: { least: Math.min(...moving), most: Math.max(...moving) },
    heat: { least: Math.min(...heat), most: Math.max(...heat) },
    widerMm,
    copies,
    passes: rig.table ? job.passes : 1,
  };
}

/** Deviation of the line, and of the face: half of what the kerf is wider adds to it. */
const deviations = (deviationMm: number | null, widerMm: number | null) => ({
  deviationMm,
  faceMm: deviationMm === null ? null : deviationMm + (widerMm ?? 0) / 2,
});

/** Leads both ends straight on beyond the line, at the last feed, until the middle has come to where it ends. */
function withRunOut({ path, tipPath, timesS, piece, feeds, end }: PaceResult): void {
  if (end.runOutMm === 0) return;
  const lines = [path, tipPath];
  const n = path.length - 1;
  // Back to the last move, should the line end with a wait.
  let i = n;
  while (i > 0 && lines.every((line) => distance(line[i - 1] as Point, line[i] as Point) < 1e-9)) i -= 1;
  if (i === 0) return;
  const longest = Math.max(...lines.map((line) => distance(line[i - 1] as Point, line[i] as Point)));
  for (const line of lines) line.push(lerp(line[i - 1] as Point, line[i] as Point, 1 + end.runOutMm / longest));
  const own = piece.findLast((each) => each >= 0) ?? 0;
  piece.push(own);
  timesS.push((timesS[n] as number) + end.runOutMm / (feeds[own] as number));
}

/** Waits at the path's end, outside the block, until the middle has come out too. */
function waitedEnd(fed: FedPath, wire: TautWire, toleranceMm: number): PaceEnd {
  const end = endOf({ wire, toleranceMm }, { path: fed.path, tipPath: fed.path, timesS: fed.timesS });
  if (end.waitS > 0) {
    fed.path.push(fed.path.at(-1) as Point);
    fed.timesS.push((fed.timesS.at(-1) as number) + end.waitS);
    fed.feeds.push(0);
    fed.runS += end.waitS;
  }
  return { ...end, runOutMm: 0 };
}

/** Feeds along one path, and what the whole wire then misses of it: held stricter until that is within the tolerance, or cannot be brought there. */
function guidedAlong(rig: FrameRig, job: FrameJob, path: Line, parts: readonly Region[], most: number): { fed: FedPath; deviationMm: number | null } {
  const { cutter, toleranceMm, kerfMm } = job;
  if (!cutter) {
    const limits = { mostMmS: most, accelerationMmS2: rig.acceleration_mm_s2, toleranceMm, lagMm: () => 0, catchUpS: () => 0, free: null };
    return { fed: feedAlong(path, limits), deviationMm: null };
  }
  const { wire } = cutter;
  const spanM = wire.lengthM;
  const lagMm = (mmS: number): number => {
    const x = Math.min(0.98, mmS / wire.maxFeedMmS);
    return 1000 * midSpanLag((wire.referenceDragNPerM * x) / (1 - x), spanM, wire.foamToM - wire.foamFromM, wire.tensionN).lagM;
  };
  const keepOff = parts.map((part) => ({ part, box: boundsOf(part.outline) }));
  /** Whether a way stays half a kerf off every part. */
  const free = (a: Point, b: Point): boolean =>
    keepOff.every(({ part, box }) => {
      const steps = Math.max(2, Math.ceil(distance(a, b) / 0.5));
      for (let i = 0; i <= steps; i++) {
        const p = lerp(a, b, i / steps);
        if (p[0] < box.minX - kerfMm || p[0] > box.maxX + kerfMm || p[1] < box.minY - kerfMm || p[1] > box.maxY + kerfMm) continue;
        const inside = isInside(p, part.outline) && !part.holes.some((hole) => isInside(p, hole));
        if (inside || [part.outline, ...part.holes].some((line) => nearest(p, line).distance < kerfMm / 2 - 0.02)) return false;
      }
      return true;
    });
  let best: { fed: FedPath; deviationMm: number } | null = null;
  let held = toleranceMm;
  for (let round = 0; round < ROUNDS; round++) {
    const tol = held;
    const fed = feedAlong(path, {
      mostMmS: most,
      accelerationMmS2: rig.acceleration_mm_s2,
      toleranceMm: tol,
      lagMm,
      catchUpS: (lag) =>
        cornerDwell({
          lagM: lag / 1000,
          toleranceM: tol / 1000,
          maxFeedMPerS: wire.maxFeedMmS / 1000,
          referenceDragNPerM: wire.referenceDragNPerM,
          spanM,
          tensionN: wire.tensionN,
        }).dwellS,
      free: rig.ears ? free : null,
    });
    const guided = { path: fed.path, timesS: fed.timesS };
    const waste = fed.ears.map((ear) => ({ root: ear, tip: ear }));
    const deviationMm = deviationOf(wire, guided, guided, { ...TRIED, steps: Math.max(TRIED.steps, fed.path.length), waste });
    if (best === null || deviationMm < best.deviationMm || deviationMm <= toleranceMm) best = { fed, deviationMm };
    if (deviationMm <= toleranceMm) break;
    held = Math.max(0.02, held * Math.min(0.8, (0.9 * toleranceMm) / deviationMm));
  }
  return best as { fed: FedPath; deviationMm: number };
}

/** The straight line through nought that measured pairs follow best, and how far the worst is off it, as a share; null without two of them. */
export function straightest(pairs: readonly (readonly [number, number])[]): { perS: number; worst: number } | null {
  const readings = pairs.filter(([s, amps]) => s > 0 && amps > 0);
  if (readings.length < 2) return null;
  const perS = readings.reduce((sum, [s, amps]) => sum + s * amps, 0) / readings.reduce((sum, [s]) => sum + s * s, 0);
  return { perS, worst: Math.max(...readings.map(([s, amps]) => Math.abs(amps / (perS * s) - 1))) };
}
