import { distance, type Line, nearest, type Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { runTimesS } from "../../motion/path/feedAlong";
import { type RetractPath, retractPath } from "../../motion/path/retractPath";
import { writeProgram } from "../../motion/program/program";
import type { ReadProgram } from "../../motion/program/reader";
import type { FrameRig } from "./fields";
import { machineOf } from "./path";

/** With the heat on before it is led out, s: the kerf has set round the wire. */
const WARM_S = 5;
/** Farther off the way than this it is not on it, mm: a place reported is rounded, and a program's block may have been moved since. */
const ON_WAY_MM = 1;

/** What a program has done when it is at a line: the index of the last point it has passed. */
export function passedAt({ lines }: Pick<ReadProgram, "lines">, line: number): number {
  let last = 0;
  for (const [i, of] of lines.entries()) if (of < line) last = i;
  return last;
}

/** Turning by more than this a carriage stops for a moment, degrees. */
const STOP_DEG = 30;

/**
 * When a machine passes each point of a program, with its speeding up and slowing down, and with rapid moves at its fastest feed, s.
 * @param rig its fastest feed and its acceleration
 */
export function machineTimesS(
  { path, timesS }: Pick<ReadProgram, "path" | "timesS">,
  { feed_mm_s, acceleration_mm_s2 }: Pick<FrameRig, "feed_mm_s" | "acceleration_mm_s2">,
): Float64Array {
  const feeds: number[] = [];
  const waitsS: number[] = [];
  const stops = path.map((point, i) => {
    const [before, after] = [path[i - 1], path[i + 1]];
    if (!before || !after) return true;
    const [ax, ay, bx, by] = [point[0] - before[0], point[1] - before[1], after[0] - point[0], after[1] - point[1]];
    // At a wait it does not move; a wait has no direction.
    if (Math.hypot(ax, ay) < 1e-9 || Math.hypot(bx, by) < 1e-9) return true;
    return Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by)) > (STOP_DEG * Math.PI) / 180;
  });
  for (let i = 0; i + 1 < path.length; i++) {
    const seconds = (timesS[i + 1] as number) - (timesS[i] as number);
    const mm = distance(path[i] as Point, path[i + 1] as Point);
    waitsS.push(mm < 1e-9 ? seconds : 0);
    feeds.push(seconds > 0 && mm >= 1e-9 ? mm / seconds : feed_mm_s);
  }
  return runTimesS(path, feeds, waitsS, acceleration_mm_s2, stops);
}

/** What is left of a program's time when it is at a line, s. @param timesS of its points, as {@link machineTimesS} gives them */
export function secondsLeft(read: Pick<ReadProgram, "lines">, timesS: ArrayLike<number>, line: number): number {
  const total = timesS[timesS.length - 1] ?? 0;
  return line <= 0 ? total : Math.max(0, total - (timesS[passedAt(read, line + 1)] ?? 0));
}

/**
 * The way out after a stop, and a program for it.
 * @param line it was at, and `at` where the near wire end is at the block's face, if that is known
 * @returns null where it has cut nothing yet
 * @throws CoreError where it is offset from this program's way: its way is not this one
 */
export function retractProgram(
  rig: FrameRig,
  spanMm: number,
  read: Pick<ReadProgram, "path" | "tip" | "lines" | "hot">,
  line: number,
  at: Point | null,
  feedMmS: number,
): (RetractPath & { text: string; timeS: number }) | null {
  const passed = passedAt(read, line);
  const first = read.hot.indexOf(true);
  if (first < 0 || passed < first) return null;
  const near: Point[] = read.path.slice(first, passed + 1);
  const far: Line | null = read.tip?.slice(first, passed + 1) ?? null;
  const ahead = read.path.slice(passed, passed + 2);
  if (at && ahead.length > 0 && nearest(at, ahead, false).distance > ON_WAY_MM) throw new CoreError("no-solution", "", "the wire is not on this program's way");
  // Two axes are where they report; of four both ends must be known, so those go back from the last point.
  if (at && !far) near.push(at);
  if (near.length < 2) return null;
  const out = retractPath(near, far);
  if (out.near.length < 2) return null;
  const timesS = [0];
  for (let i = 1; i < out.near.length; i++) {
    const mm = (points: Line) => distance(points[i - 1] as Point, points[i] as Point);
    timesS.push((timesS[i - 1] as number) + Math.max(mm(out.near), out.far ? mm(out.far) : 0) / feedMmS);
  }
  const written = writeProgram({ ...machineOf(rig, spanMm), turn: null }, out.near, out.far, timesS, WARM_S, "out of the foam along the kerf");
  return { ...out, ...written };
}
