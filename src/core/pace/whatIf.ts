import { lineLength, type Point } from "../geometry/points";
import { cutAtPower } from "../physics/cut/cut";
import { waitReach } from "../physics/string/reach";
import { type GuidedEnds, type TautWire, wireSurface } from "../physics/string/tautWire";
import { deviationOf, traceError } from "../physics/string/traceError";
import type { PaceInput, PaceResult } from "./pace";
import { heldAt } from "./pace";

/** Something that might be done, or go wrong, and what would come of it. */
export interface WhatIf {
  code: string;
  words: string;
  /** of the wire's line, mm */
  errorMm: number;
  /** deeper than half a kerf, mm, where heat and not the line is what suffers */
  biteMm?: number;
}

/** Times and sizes of what may go wrong: what two people at a bow do (this project's judgement). */
const AHEAD_S = 1;
const SLIP_MM = 3;
const STOP_S = 3;

/** A led way with a place at every time of another: positions between two of its own go evenly. */
function placesAt(line: readonly Point[], timesS: readonly number[], at: readonly number[]): Point[] {
  let i = 0;
  return at.map((t) => {
    while (i < timesS.length - 2 && (timesS[i + 1] as number) <= t) i += 1;
    const [a, b] = [timesS[i] as number, timesS[i + 1] as number];
    const share = b > a ? Math.min(1, Math.max(0, (t - a) / (b - a))) : 1;
    const [p, q] = [line[i] as Point, line[i + 1] as Point];
    return [p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share] as const;
  });
}

/** What a tighter wire, less heat, a slower pace or a narrower panel would do to the error, and what two hands' usual slips would cost: each computed over the whole face. */
export function whatIfs(
  job: { wire: TautWire; powerWPerM: number },
  pair: PaceInput["pair"],
  pace: Pick<PaceResult, "path" | "tipPath" | "timesS">,
): { cures: WhatIf[]; mishaps: WhatIf[] } {
  const guided = { path: pace.path, tipPath: pace.tipPath, timesS: pace.timesS };
  const errorOf = (wire: TautWire, how: GuidedEnds = guided) =>
    Math.max(...wireSurface(wire, how, heldAt(wire)).traces.map((trace) => traceError(trace).errorMm));
  const slower = { ...guided, timesS: guided.timesS.map((t) => t / 0.8) };
  const heat = (share: number): TautWire => ({ ...job.wire, maxFeedMmS: cutAtPower(pair, 0.005, job.powerWPerM * share).maxFeedMPerS * 1000 });
  const half = { ...job.wire, lengthM: job.wire.lengthM / 2, foamToM: job.wire.foamToM / 2, foamFromM: job.wire.foamFromM / 2 };
  const middle = guided.path.map((point, i): Point => [(point[0] + (guided.tipPath[i] as Point)[0]) / 2, (point[1] + (guided.tipPath[i] as Point)[1]) / 2]);
  const total = guided.timesS.at(-1) as number;
  // A clock that both a meant and a slipped way can be read at.
  const clock = Array.from({ length: 401 }, (_, i) => (i * total) / 400);
  const meant: GuidedEnds = { path: placesAt(guided.path, guided.timesS, clock), tipPath: placesAt(guided.tipPath, guided.timesS, clock), timesS: clock };
  // Both begin at the beginning: what is ahead got there along its way.
  const ahead = (seconds: (t: number) => number): GuidedEnds => ({
    ...meant,
    tipPath: placesAt(
      guided.tipPath,
      guided.timesS,
      clock.map((t) => (t === 0 ? 0 : Math.min(total, t + seconds(t)))),
    ),
  });
  const feed = lineLength(guided.tipPath) / total || 1;
  const rootFeed = lineLength(guided.path) / total || 1;
  const stop = waitReach(pair, job.powerWPerM, rootFeed, STOP_S);
  return {
    cures: [
      { code: "tighter", words: "the wire a quarter tighter", errorMm: errorOf({ ...job.wire, tensionN: job.wire.tensionN * 1.25 }) },
      { code: "cooler", words: "a tenth less heat", errorMm: errorOf(heat(0.9)) },
      { code: "hotter", words: "a tenth more heat", errorMm: errorOf(heat(1.1)) },
      { code: "slower", words: "a fifth slower all along", errorMm: errorOf(job.wire, slower) },
      { code: "narrower", words: "two panels half as wide", errorMm: errorOf(half, { ...guided, tipPath: middle }) },
    ],
    mishaps: [
      {
        code: "ahead",
        words: `the tip runs ${AHEAD_S} s ahead all along`,
        errorMm: deviationOf(
          job.wire,
          ahead(() => AHEAD_S),
          meant,
        ),
      },
      {
        code: "slip",
        words: `the tip slips ${SLIP_MM} mm on at half way and waits for its number`,
        errorMm: deviationOf(
          job.wire,
          ahead((t) => (t < total / 2 ? 0 : Math.max(0, SLIP_MM / feed - (t - total / 2)))),
          meant,
        ),
      },
      { code: "stop", words: `both stop for ${STOP_S} s in mid face`, errorMm: errorOf(job.wire), biteMm: Math.max(0, stop.radiusMm - stop.halfKerfMm) },
    ],
  };
}
