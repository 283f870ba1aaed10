import type { Problem } from "./scheduleProblem";

/** A step's start, and what it uses. */
export interface PlacedStep {
  step: number;
  start: number;
  uses: number[];
}

/** First late minutes, then changes, then the end; or the end alone. */
export type Cost = readonly number[];

/** A schedule while it is made: steps are appended, each as early as it may be after what is on its resources already. */
export class Timeline {
  readonly placed: PlacedStep[] = [];
  readonly free: number[];
  /** what each resource is set up for, -1 for nothing yet */
  readonly state: number[];
  readonly ends: number[];
  late = 0;
  changes = 0;
  end = 0;
  /** how often resources were chosen for a step: what it all costs */
  looks = 0;
  private readonly undo: { free: number[]; state: number[]; late: number; changes: number; end: number }[] = [];

  constructor(private readonly problem: Problem) {
    this.free = new Array(problem.resources).fill(0);
    this.state = new Array(problem.resources).fill(-1);
    this.ends = new Array(problem.minutes.length).fill(Number.NaN);
  }

  get cost(): Cost {
    return this.problem.aim === "end" ? [this.end] : [this.late, this.changes, this.end];
  }

  /** When everything that a step waits for has ended, and its wait is over. */
  ready(i: number): number {
    let at = 0;
    for (const k of this.problem.before[i] as number[]) at = Math.max(at, (this.ends[k] as number) + (this.problem.wait[i] as number));
    return at;
  }

  /** From when a resource can serve a step, its changeover done. */
  serves(r: number, i: number): number {
    const setup = this.problem.setup[i] as number;
    const now = this.state[r] as number;
    return (this.free[r] as number) + (setup >= 0 && now >= 0 && now !== setup ? (this.problem.changeover[r] as number) : 0);
  }

  /** The start of a step on these resources. */
  startOf(i: number, uses: readonly number[]): number {
    let at = this.ready(i);
    for (const r of uses) at = Math.max(at, this.serves(r, i));
    return inWindow(this.problem, at, this.problem.minutes[i] as number);
  }

  append(i: number, uses: number[], start: number): void {
    const { problem } = this;
    const setup = problem.setup[i] as number;
    this.undo.push({
      free: uses.map((r) => this.free[r] as number),
      state: uses.map((r) => this.state[r] as number),
      late: this.late,
      changes: this.changes,
      end: this.end,
    });
    const end = start + (problem.minutes[i] as number);
    for (const r of uses) {
      if (setup >= 0) {
        if ((this.state[r] as number) >= 0 && this.state[r] !== setup) this.changes += 1;
        this.state[r] = setup;
      }
      this.free[r] = end;
    }
    this.ends[i] = end;
    this.end = Math.max(this.end, end);
    if (Number.isFinite(problem.due[i])) this.late += Math.max(0, end - (problem.due[i] as number));
    this.placed.push({ step: i, start, uses });
  }

  /** Takes the last step off again. */
  back(): void {
    const last = this.placed.pop() as PlacedStep;
    const was = this.undo.pop() as (typeof this.undo)[number];
    for (const [k, r] of last.uses.entries()) {
      this.free[r] = was.free[k] as number;
      this.state[r] = was.state[k] as number;
    }
    this.ends[last.step] = Number.NaN;
    Object.assign(this, { late: was.late, changes: was.changes, end: was.end });
  }

  /** The resources that let a step begin first; of equals the one that is set up for it, then the one that has been idle least. */
  bestUses(i: number): number[] {
    const { problem } = this;
    this.looks += 1;
    const uses = [...(problem.named[i] as number[])];
    const setup = problem.setup[i] as number;
    for (const { of, count } of problem.kinds[i] as Problem["kinds"][number]) {
      if (of.length === count) {
        uses.push(...of);
        continue;
      }
      const from = this.startOf(i, uses);
      const ranked = of
        .map((r) => ({
          r,
          at: Math.max(from, this.serves(r, i)),
          foreign: setup >= 0 && this.state[r] !== setup,
          free: this.free[r] as number,
          asked: problem.asked[r],
        }))
        .sort((a, b) => a.at - b.at || Number(a.foreign) - Number(b.foreign) || Number(a.asked) - Number(b.asked) || b.free - a.free || a.r - b.r);
      for (const { r } of ranked.slice(0, count)) uses.push(r);
    }
    return uses;
  }

  /** Every choice of resources for a step that is not like another. */
  *allUses(i: number): Generator<number[]> {
    const { problem } = this;
    const kinds = problem.kinds[i] as Problem["kinds"][number];
    const alike = (r: number) => (problem.asked[r] ? `own ${r}` : `${this.free[r]} ${this.state[r]} ${problem.changeover[r]}`);
    function* from(k: number, uses: number[]): Generator<number[]> {
      if (k === kinds.length) {
        yield uses;
        return;
      }
      const { of, count } = kinds[k] as { of: number[]; count: number };
      function* choose(at: number, chosen: number[]): Generator<number[]> {
        if (chosen.length === count) {
          yield* from(k + 1, [...uses, ...chosen]);
          return;
        }
        const seen = new Set<string>();
        for (let m = at; m < of.length; m++) {
          const r = of[m] as number;
          if (seen.has(alike(r))) continue;
          seen.add(alike(r));
          // Those like it that come before it in the list were left out: they stay out.
          yield* choose(m + 1, [...chosen, r]);
        }
      }
      yield* choose(0, []);
    }
    yield* from(0, problem.named[i] as number[]);
  }
}

/** The first start from a time on at which so many minutes lie inside one window; infinity where there is none. */
function inWindow({ windows }: Problem, from: number, minutes: number): number {
  if (windows === null) return from;
  for (const [begin, end] of windows) if (Math.max(from, begin) + minutes <= end) return Math.max(from, begin);
  return Number.POSITIVE_INFINITY;
}

/** Open minutes before a time. */
const openBefore = ({ windows }: Problem, at: number): number =>
  windows === null ? at : windows.reduce((sum, [from, to]) => sum + Math.max(0, Math.min(at, to) - from), 0);

/** The first time before which so many minutes are open. */
function whenOpen({ windows }: Problem, minutes: number): number {
  if (windows === null) return minutes;
  let left = minutes;
  for (const [from, to] of windows) {
    if (left <= to - from) return left <= 0 ? 0 : from + left;
    left -= to - from;
  }
  return Number.POSITIVE_INFINITY;
}

/** No schedule that goes on from here costs less: by what waits for what, and by the work that is left for each group of resources. */
export function boundOf(problem: Problem, line: Timeline): Cost {
  const last = line.placed.at(-1)?.start ?? 0;
  const least = new Array<number>(problem.minutes.length);
  let [end, late] = [line.end, line.late];
  for (const i of problem.order) {
    if (!Number.isNaN(line.ends[i])) {
      least[i] = line.ends[i] as number;
      continue;
    }
    let from = last;
    for (const k of problem.before[i] as number[]) from = Math.max(from, (least[k] as number) + (problem.wait[i] as number));
    const start = inWindow(problem, from, problem.minutes[i] as number);
    least[i] = start + (problem.minutes[i] as number);
    end = Math.max(end, start + (problem.tail[i] as number));
    if (Number.isFinite(problem.due[i])) late += Math.max(0, (least[i] as number) - (problem.due[i] as number));
  }
  for (const { of, work } of problem.groups) {
    let [left, after] = [0, Number.POSITIVE_INFINITY];
    let head = Number.POSITIVE_INFINITY;
    for (const i of problem.order) {
      if (!Number.isNaN(line.ends[i]) || (work[i] as number) === 0) continue;
      left += work[i] as number;
      after = Math.min(after, (problem.tail[i] as number) - (problem.minutes[i] as number));
      head = Math.min(head, (least[i] as number) - (problem.minutes[i] as number));
    }
    if (left === 0) continue;
    const begins = of.map((r) => openBefore(problem, Math.max(head, line.free[r] as number))).sort((a, b) => a - b);
    let [sum, count, at] = [0, 0, 0];
    for (const [k, begin] of begins.entries()) {
      sum += begin;
      count = k + 1;
      at = (left + sum) / count;
      if (k + 1 === begins.length || at <= (begins[k + 1] as number)) break;
    }
    end = Math.max(end, Math.ceil(whenOpen(problem, at) - 1e-9) + after);
  }
  return problem.aim === "end" ? [end] : [late, line.changes, end];
}
