import type { LogEntry } from "../log/entries";
import type { PlanEvaluation } from "./evaluate";
import type { Plan } from "./plan";

/** A cut that the Pacer guided to its end. Times are in seconds, one for each number. */
export interface FinishedRun {
  face: Plan["runs"][number]["face"];
  labels: string[];
  plannedS: number[];
  realS: number[];
  pausesS: number;
  /** as each end reported it from its own screen; null for a number that it did not mark */
  ends?: Record<"root" | "tip", (number | null)[]>;
}

/** Most runs that a plan stores, newest first. */
export const MOST_RUNS = 30;
const NOTE_CHARACTERS = 500;

const tenth = (s: number) => Math.round(s * 10) / 10;
const tenthOrNull = (s: number | null) => (s === null ? null : Math.max(0, tenth(s)));
const sum = (all: readonly number[]) => all.reduce((total, each) => total + each, 0);

/** The plan with what its templates were made for: the cutter's heat, feed and kerfs. Without a cutter it is unchanged. */
export function withMade(plan: Plan, { cutter, root, tip }: PlanEvaluation, at: string): Plan {
  if (!cutter) return plan;
  return { ...plan, made: { at, heat_W_per_m: cutter.heatWPerM, rootFeed_mm_s: root.feedMmS, rootKerf_mm: root.kerfMm, tipKerf_mm: tip.kerfMm } };
}

/** The plan with one more run of a panel (from 0), to a tenth of a second. */
export function withRun(plan: Plan, { face, labels, plannedS, realS, pausesS, ends }: FinishedRun, panel: number, at: string): Plan {
  const run = {
    at,
    face,
    panel: panel + 1,
    labels,
    planned_s: plannedS.map(tenth),
    real_s: realS.map(tenth),
    pauses_s: tenth(pausesS),
    ...(ends ? { ends_s: { root: ends.root.map(tenthOrNull), tip: ends.tip.map(tenthOrNull) } } : {}),
  };
  return { ...plan, runs: [run, ...plan.runs].slice(0, MOST_RUNS) };
}

const timesOf = (times: readonly (number | null)[]) => (times.length === 0 ? "nothing" : times.map((s) => (s === null ? "–" : s.toFixed(1))).join(" "));

/** The run as an entry in the log of the plan's cutter; null where the plan has none. @param spanMm width of the panel that was cut */
export function planRunEntry({ name }: Plan, { cutter, root }: PlanEvaluation, run: FinishedRun, spanMm: number, at: string): LogEntry | null {
  if (!cutter) return null;
  const { family, density_kg_m3, own } = cutter.design.job.foam;
  const seconds = sum(run.realS);
  const face = run.face === "whole" ? "all round" : `${run.face} face`;
  const ends = run.ends ? `; reported by each end: root ${timesOf(run.ends.root)}, tip ${timesOf(run.ends.tip)}` : "";
  return {
    kind: "run",
    at,
    foam: { family, density_kg_m3, ...(own ? { own } : {}) },
    width_mm: spanMm,
    setting: "",
    feed_mm_s: root.feedMmS,
    pieces: 1,
    hot_min: Math.max(0.1, tenth(seconds / 60)),
    note: `${name}, ${face}: ${seconds.toFixed(0)} s, planned ${sum(run.plannedS).toFixed(0)} s${ends}`.slice(0, NOTE_CHARACTERS),
  };
}
