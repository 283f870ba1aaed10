import { JUDGEMENT } from "../kernel/constants";
import type { CutFace } from "../log/entries";
import type { BenchSetup, TrackRow } from "./setup";
import type { BenchSimulator } from "./simulator";

/** What a cut of one straight pass, or of one corner, can look like. */
export type BenchFace = Extract<CutFace, "matt" | "glossy" | "ridged" | "grooved" | "hooked">;

/** A stretch of the cut that looks alike, m along the cut from where the wire went in. */
export interface FaceStretch {
  fromM: number;
  toM: number;
  face: BenchFace;
}

/** What the cut looks like once the block is lifted off. SI. */
export interface FaceReport {
  stretches: FaceStretch[];
  /** By the stretch past the entry; the whole where the cut is shorter. */
  kerfM: { mean: number; least: number; most: number };
  /** How much deeper the worst pause burnt each face than the cut about it. */
  grooveM: number;
  /** Farthest the middle's face lies from where it should be: half the kerf's unevenness, and a corner cut short. */
  errorM: number;
  /** How far from the corner the middle of the wire passed; null for a straight cut. */
  hookM: number | null;
  /** What somebody would say of it as a whole. */
  overall: BenchFace;
}

/** The wire enters hot and bites: the first stretch is not judged (common practice: it settles within about 12 mm). */
export const ENTRY_M = 0.012;
/** Way over which drag is averaged before a face is called ridged: beads come and go. */
const RIDGE_OVER_M = 0.003;
/** A pause shows when its groove is this much deeper than the face about it, and its feed fell to this share. */
const GROOVE_SEEN_M = 0.00018;
const PAUSED_SHARE = 0.3;
/** A corner passed farther off than this shows as a hook. */
export const HOOK_SEEN_M = 0.0006;
/** Share of a face that has to look wrong before the whole is called so. */
const SHOWS_SHARE = 0.15;

const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** Way along a track at each of its rows, m. */
function ways(track: readonly TrackRow[]): number[] {
  let way = 0;
  return track.map((row, i) => {
    const before = track[i - 1];
    if (before) way += Math.hypot(row.p - before.p, row.q - before.q);
    return way;
  });
}

/** Reads the face of a cut off the middle's track. null before the wire has been in foam for a few rows. */
export function readFace(setup: BenchSetup, track: readonly TrackRow[]): FaceReport | null {
  if (track.length < 4) return null;
  const way = ways(track);
  const whole = way[way.length - 1] as number;
  const judgedFrom = whole > 2 * ENTRY_M ? ENTRY_M : 0;
  const judged = track.map((row, i) => ({ row, at: way[i] as number })).filter(({ at }) => at >= judgedFrom);
  const usualKerf = median(judged.map(({ row }) => row.kerfM));
  const usualFeed = median(judged.map(({ row }) => row.feedMPerS));
  const { fumeLimitC } = setup.pair.foam;
  const { cornerAtM } = setup.path;
  let grooveM = 0;
  const looks = judged.map(({ row, at }): BenchFace => {
    const deeper = (row.kerfM - usualKerf) / 2;
    if (deeper > GROOVE_SEEN_M && row.feedMPerS < PAUSED_SHARE * usualFeed) {
      grooveM = Math.max(grooveM, deeper);
      return "grooved";
    }
    const near = judged.filter((other) => Math.abs(other.at - at) <= RIDGE_OVER_M / 2);
    const ratio = near.reduce((sum, other) => sum + other.row.ratio, 0) / near.length;
    if (ratio > JUDGEMENT.dragsAboveFeedRatio) return "ridged";
    return row.wireC > fumeLimitC || row.kerfM > setup.acceptedKerfM ? "glossy" : "matt";
  });
  const stretches: FaceStretch[] = [];
  for (const [i, face] of looks.entries()) {
    const at = judged[i]?.at as number;
    const last = stretches[stretches.length - 1];
    if (last?.face === face) last.toM = at;
    else stretches.push({ fromM: last ? last.toM : at, toM: at, face });
  }
  const kerfs = judged.map(({ row }) => row.kerfM);
  const mean = kerfs.reduce((a, b) => a + b, 0) / kerfs.length;
  const hookM = cornerAtM === null || !track.some((row) => row.q > 1e-3) ? null : Math.min(...track.map((row) => Math.hypot(row.p - cornerAtM, row.q)));
  const share = (face: BenchFace) => looks.filter((look) => look === face).length / looks.length;
  const overall: BenchFace =
    share("ridged") > SHOWS_SHARE
      ? "ridged"
      : share("glossy") > SHOWS_SHARE
        ? "glossy"
        : hookM !== null && hookM > HOOK_SEEN_M
          ? "hooked"
          : grooveM > 0
            ? "grooved"
            : "matt";
  return {
    stretches,
    kerfM: { mean, least: Math.min(...kerfs), most: Math.max(...kerfs) },
    grooveM,
    errorM: Math.max((Math.max(...kerfs) - mean) / 2, hookM ?? 0),
    hookM,
    overall,
  };
}

/** A whole run in figures: what lessons score and the bench shows. */
export interface BenchReport {
  face: FaceReport | null;
  /** Mean feed of the ends between entry and the far face, and its spread as a share; null before the foam. */
  feed: { meanMPerS: number; spread: number } | null;
  /** Feed over top feed of the middle past its entry, mean. */
  ratio: number;
  /** Greatest bow while in the foam, m. */
  mostLagM: number;
  /** Heat in the cut past the entry, mean W/m. */
  heatWPerM: number;
  /** Time the wire had after the last turn of the knob, or after switching on, before it met the foam, s. */
  waitedS: number;
  /** Rest of the ends at the corner, s. */
  dwellS: number;
  trips: number;
  broken: boolean;
  through: boolean;
  cutS: number;
}

/** What the world notes while it runs, for the report. */
export interface BenchNotes {
  lastTurnS: number;
  enteredS: number | null;
  trips: number;
  /** Feeds of the ends while the middle was in the foam, one a tick, and the most the middle trailed. */
  feeds: { timeS: number; feedMPerS: number }[];
  heats: number[];
  mostLagM: number;
  dwellS: number;
}

export function reportOf(sim: BenchSimulator, notes: BenchNotes): BenchReport {
  const moving = notes.feeds.filter(({ feedMPerS }) => feedMPerS > 2e-4);
  const mean = moving.reduce((sum, { feedMPerS }) => sum + feedMPerS, 0) / Math.max(1, moving.length);
  // A hand is judged by its second-long means: twitches shorter than that leave no trace.
  const seconds = new Map<number, number[]>();
  for (const { timeS, feedMPerS } of notes.feeds) seconds.set(Math.floor(timeS), [...(seconds.get(Math.floor(timeS)) ?? []), feedMPerS]);
  const means = [...seconds.values()].slice(1, -1).map((list) => list.reduce((a, b) => a + b, 0) / list.length);
  const spread = means.length < 2 ? 0 : Math.sqrt(means.reduce((sum, each) => sum + (each - mean) ** 2, 0) / means.length) / Math.max(1e-9, mean);
  const track = sim.tracks.middle;
  const way = ways(track);
  const past = track.filter((_, i) => (way[i] as number) > ENTRY_M);
  const settled = past.length > 0 ? past : track;
  return {
    face: readFace(sim.setup, track),
    feed: moving.length < 2 ? null : { meanMPerS: mean, spread },
    ratio: settled.reduce((sum, row) => sum + Math.min(2, row.ratio), 0) / Math.max(1, settled.length),
    mostLagM: notes.mostLagM,
    heatWPerM: notes.heats.reduce((a, b) => a + b, 0) / Math.max(1, notes.heats.length),
    waitedS: notes.enteredS === null ? 0 : notes.enteredS - notes.lastTurnS,
    dwellS: notes.dwellS,
    trips: notes.trips,
    broken: sim.broken,
    through: sim.through,
    cutS: notes.enteredS === null ? 0 : sim.timeS - notes.enteredS,
  };
}
