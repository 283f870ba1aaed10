import TinyQueue from "tinyqueue";
import { CoreError } from "../kernel/errors";
import { seededUniform } from "../numerics/seededUniform";
import { type Problem, problemOf, type ScheduleInput } from "./scheduleProblem";
import { boundOf, type Cost, type PlacedStep, Timeline } from "./timeline";

export interface StepTimes {
  /** by step, min */
  starts: Record<string, number>;
  /** by step, ids of the resources that it uses */
  uses: Record<string, string[]>;
  endMin: number;
  /** no schedule ends before this */
  boundMin: number;
  /** sum over all steps, min */
  lateMin: number;
  changeovers: number;
}

/** Choices that a middling computer of today makes in a second (measured on two cores of a server; an estimate). */
export const EFFORT_PER_S = 500_000;
/** Up to so many steps every order is tried, as far as the effort goes. */
const EXACT_STEPS = 14;
/** Share of the effort in which good orders are looked for before every order is tried. */
const FIRST_SHARE = 0.15;

const less = (a: Cost, b: Cost): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return (a[i] as number) < (b[i] as number);
  return false;
};

/** The best schedule seen, and what is left of the effort. */
class Best {
  placed: readonly PlacedStep[] | null = null;
  cost: Cost = [];
  constructor(public left: number) {}

  offer(line: Timeline): void {
    if (!Number.isFinite(line.end) || (this.placed && !less(line.cost, this.cost))) return;
    this.placed = [...line.placed];
    this.cost = line.cost;
  }
}

/** Lays all steps in the order of their ranks, each once what it waits for is placed; or, of those that could begin first, the one of the lowest rank. */
function laid(problem: Problem, rank: readonly number[], soonest: boolean): Timeline {
  const line = new Timeline(problem);
  const open = problem.before.map((each) => each.length);
  const take = (i: number, uses: number[]) => {
    line.append(i, uses, line.startOf(i, uses));
    return (problem.next[i] as number[]).filter((k) => {
      open[k] = (open[k] as number) - 1;
      return open[k] === 0;
    });
  };
  const first = problem.order.filter((i) => open[i] === 0);
  const byRank = (a: number, b: number) => (rank[a] as number) - (rank[b] as number) || a - b;
  if (!soonest) {
    const queue = new TinyQueue(first, byRank);
    for (let i = queue.pop(); i !== undefined; i = queue.pop()) for (const k of take(i, line.bestUses(i))) queue.push(k);
    return line;
  }
  const eligible = new Set(first);
  while (eligible.size > 0) {
    let best: { i: number; uses: number[]; start: number } | null = null;
    for (const i of eligible) {
      const uses = line.bestUses(i);
      const start = line.startOf(i, uses);
      if (!best || start < best.start || (start === best.start && byRank(i, best.i) < 0)) best = { i, uses, start };
    }
    const { i, uses } = best as { i: number; uses: number[] };
    eligible.delete(i);
    for (const k of take(i, uses)) eligible.add(k);
  }
  return line;
}

/** Good orders by rules, then changed at random: what comes out no worse is kept. */
function improve(problem: Problem, best: Best, until: number): void {
  const n = problem.minutes.length;
  const uniform = seededUniform(1);
  const rules = [
    problem.tail.map((tail) => -tail),
    problem.due.map((due, i) => (Number.isFinite(due) ? due : 1e9) - (problem.tail[i] as number) / 1e6),
    problem.setup.map((setup, i) => setup * 1e6 - (problem.tail[i] as number)),
    problem.minutes.map((_, i) => i),
  ];
  let ranks: { rank: number[]; soonest: boolean; cost: Cost } | null = null;
  const offer = (rank: number[], soonest: boolean) => {
    const line = laid(problem, rank, soonest);
    best.left -= line.looks;
    best.offer(line);
    if (Number.isFinite(line.end) && (!ranks || !less(ranks.cost, line.cost))) ranks = { rank, soonest, cost: line.cost };
  };
  for (const rule of rules) for (const soonest of [false, true]) if (best.left > until || !ranks) offer(rule, soonest);
  while (best.left > until) {
    const now = ranks as { rank: number[]; soonest: boolean } | null;
    // By place in the order: a few steps are moved elsewhere.
    const order = (now?.rank ?? (rules[0] as number[])).map((rank, i) => ({ rank, i })).sort((a, b) => a.rank - b.rank || a.i - b.i);
    for (let k = Math.ceil(3 * uniform() ** 2); k > 0; k--) {
      const [moved] = order.splice(Math.floor(uniform() * n), 1);
      if (moved) order.splice(Math.floor(uniform() * n), 0, moved);
    }
    const rank = new Array<number>(n);
    for (const [place, { i }] of order.entries()) rank[i] = place;
    offer(rank, uniform() < 0.5);
  }
}

/** Tries every order in which starts do not fall, with every choice of resources, and leaves out what cannot be better. @returns whether it came to its end */
function tryAll(problem: Problem, best: Best): boolean {
  const line = new Timeline(problem);
  const n = problem.minutes.length;
  const descend = (): boolean => {
    if (line.placed.length === n) {
      best.offer(line);
      return true;
    }
    if (best.placed && !less(boundOf(problem, line), best.cost)) return true;
    const last = line.placed.at(-1)?.start ?? 0;
    const choices: PlacedStep[] = [];
    for (let i = 0; i < n; i++) {
      if (!Number.isNaN(line.ends[i]) || (problem.before[i] as number[]).some((k) => Number.isNaN(line.ends[k]))) continue;
      for (const uses of line.allUses(i)) {
        const start = line.startOf(i, uses);
        best.left -= 1;
        if (start >= last && Number.isFinite(start)) choices.push({ step: i, start, uses });
      }
    }
    choices.sort((a, b) => a.start - b.start || (problem.tail[b.step] as number) - (problem.tail[a.step] as number));
    for (const { step, start, uses } of choices) {
      if (best.left <= 0) return false;
      line.append(step, uses, start);
      const whole = descend();
      line.back();
      if (!whole) return false;
    }
    return true;
  };
  return descend();
}

/**
 * When each step begins, and on what. Up to {@link EXACT_STEPS} steps every order is tried as far as the effort goes, and then the bound is the end itself; for more, orders by rule are improved by random changes.
 * @throws CoreError `does-not-fit`, `not-one-of`, `conflict`, or `no-solution` where the windows do not hold all steps
 */
export function scheduleSteps(input: ScheduleInput): StepTimes {
  const problem = problemOf(input);
  const { steps, resources } = input;
  const best = new Best(input.effort);
  const root = boundOf(problem, new Timeline(problem));
  const small = steps.length <= EXACT_STEPS;
  improve(problem, best, small ? (1 - FIRST_SHARE) * input.effort : 0);
  const exact = small && tryAll(problem, best);
  if (!best.placed)
    throw new CoreError("no-solution", "windows", "no order was found in which all steps lie inside the windows: work longer, or leave steps out");
  const line = new Timeline(problem);
  for (const { step, start, uses } of best.placed) line.append(step, uses, start);
  const found = [...best.placed].sort((a, b) => a.start - b.start || a.step - b.step);
  const idOf = (i: number) => steps[i]?.id as string;
  return {
    starts: Object.fromEntries(found.map(({ step, start }) => [idOf(step), start])),
    uses: Object.fromEntries(found.map(({ step, uses }) => [idOf(step), uses.map((r) => resources[r]?.id as string)])),
    endMin: line.end,
    boundMin: exact && problem.aim === "end" ? line.end : Math.min(line.end, root.at(-1) as number),
    lateMin: line.late,
    changeovers: line.changes,
  };
}
