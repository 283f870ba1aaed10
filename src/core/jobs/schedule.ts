import TinyQueue from "tinyqueue";
import { CoreError } from "../kernel/errors";
import { seededUniform } from "../numerics/seededUniform";

/** What a step needs while it runs: so many of a kind, or this one. */
export type ResourceNeed = { kind: string; count: number } | { id: string };

export interface ScheduleStep {
  id: string;
  /** whole minutes, without a break */
  minutes: number;
  needs: readonly ResourceNeed[];
  /** ids of the steps that must have ended */
  after: readonly string[];
  /** whole minutes between the end of those and its start */
  waitMin: number;
  /** what its resources must be set up for; null keeps what they are set up for */
  setup: string | null;
  /** when it should have ended, min; null where nobody waits for it */
  dueMin: number | null;
}

export interface ScheduleResource {
  id: string;
  kind: string;
  /** from one set-up to another, whole minutes; it lies immediately before the step that needs it, and the first set-up is free */
  changeoverMin: number;
}

export interface ScheduleInput {
  steps: readonly ScheduleStep[];
  resources: readonly ScheduleResource[];
  /** working hours, in order; null for no end of them. A step lies inside one; waits and changeovers may cross them. */
  windows: readonly (readonly [number, number])[] | null;
  /** what is made small: the end alone, or lateness first, then changes of set-up, then the end */
  aim: "end" | "due";
  /** how much is tried, in choices of resources for a step; the same input and effort give the same schedule on every machine */
  effort: number;
}

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

/** The input by numbers. */
interface Problem {
  minutes: number[];
  wait: number[];
  due: number[];
  setup: number[];
  before: number[][];
  next: number[][];
  /** what each step needs: the resources asked by their ids, and for each kind its resources and how many */
  named: number[][];
  kinds: { of: number[]; count: number }[][];
  changeover: number[];
  /** resources that a step asks for by its id: another of the same kind cannot do their work */
  asked: boolean[];
  resources: number;
  /** from the start of a step to the end of everything that waits for it, without resources and hours */
  tail: number[];
  /** groups of resources that share some work, and each step's work for them, min */
  groups: { of: number[]; work: number[] }[];
  order: number[];
  windows: readonly (readonly [number, number])[] | null;
  aim: ScheduleInput["aim"];
}

/** A step's start, and what it uses. */
interface Placed {
  step: number;
  start: number;
  uses: number[];
}

/** First late minutes, then changes, then the end; or the end alone. */
type Cost = readonly number[];

const less = (a: Cost, b: Cost): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return (a[i] as number) < (b[i] as number);
  return false;
};

const duplicate = (ids: readonly string[]): number => ids.findIndex((id, i) => ids.indexOf(id) < i);

/** Steps in an order in which each comes after what it waits for. @throws CoreError `conflict` where some wait for one another */
function orderOf(steps: readonly ScheduleStep[], before: readonly number[][]): number[] {
  const order: number[] = [];
  const state = new Uint8Array(steps.length);
  const visit = (i: number, path: number[]) => {
    if (state[i] === 2) return;
    if (state[i] === 1) {
      const circle = [...path.slice(path.indexOf(i)), i].map((k) => steps[k]?.id).join(" after ");
      throw new CoreError("conflict", `steps.${i}.after`, `these steps wait for one another: ${circle}`);
    }
    state[i] = 1;
    for (const k of before[i] as number[]) visit(k, [...path, i]);
    state[i] = 2;
    order.push(i);
  };
  for (let i = 0; i < steps.length; i++) visit(i, []);
  return order;
}

/** @throws CoreError that names the step and what is wrong with it */
function problemOf({ steps, resources, windows, aim }: ScheduleInput): Problem {
  const again = duplicate(steps.map(({ id }) => id));
  if (again >= 0) throw new CoreError("conflict", `steps.${again}.id`, `"${steps[again]?.id}" is the id of an earlier step too`);
  const twice = duplicate(resources.map(({ id }) => id));
  if (twice >= 0) throw new CoreError("conflict", `resources.${twice}.id`, `"${resources[twice]?.id}" is the id of an earlier resource too`);
  for (const [k, [from, to]] of (windows ?? []).entries())
    if (!(from < to) || (k > 0 && from < (windows?.[k - 1]?.[1] as number)))
      throw new CoreError("out-of-range", `windows.${k}`, "each window must end after it begins, and begin no earlier than the one before it ends");
  const stepAt = new Map(steps.map(({ id }, i) => [id, i]));
  const resourceAt = new Map(resources.map(({ id }, i) => [id, i]));
  const setups = new Map<string, number>();
  const setup = steps.map(({ setup: name }) => {
    if (name === null) return -1;
    if (!setups.has(name)) setups.set(name, setups.size);
    return setups.get(name) as number;
  });
  const before = steps.map(({ after }, i) =>
    after.map((id, k) => {
      const at = stepAt.get(id);
      if (at === undefined) throw new CoreError("not-one-of", `steps.${i}.after.${k}`, `"${id}" is the id of no step`);
      return at;
    }),
  );
  const asked = resources.map(() => false);
  const named: number[][] = [];
  const kinds: Problem["kinds"] = [];
  for (const [i, step] of steps.entries()) {
    const longest = windows === null ? Number.POSITIVE_INFINITY : Math.max(0, ...windows.map(([from, to]) => to - from));
    if (step.minutes > longest)
      throw new CoreError(
        "does-not-fit",
        `steps.${i}.minutes`,
        `"${step.id}" takes ${step.minutes} min, and the longest window has ${longest}: split it, or work longer`,
      );
    const own: number[] = [];
    const counts = new Map<string, number>();
    for (const [k, need] of step.needs.entries()) {
      if ("id" in need) {
        const at = resourceAt.get(need.id);
        if (at === undefined) throw new CoreError("not-one-of", `steps.${i}.needs.${k}.id`, `"${need.id}" is the id of no resource`);
        if (!own.includes(at)) own.push(at);
        asked[at] = true;
      } else counts.set(need.kind, (counts.get(need.kind) ?? 0) + need.count);
    }
    named.push(own);
    kinds.push(
      [...counts].map(([kind, count]) => {
        const of = resources.flatMap((each, r) => (each.kind === kind && !own.includes(r) ? [r] : []));
        if (count > of.length) {
          const k = step.needs.findIndex((need) => "kind" in need && need.kind === kind);
          throw new CoreError("does-not-fit", `steps.${i}.needs.${k}`, `"${step.id}" needs ${count} of kind ${kind}, and there are ${of.length}`);
        }
        return { of, count };
      }),
    );
  }
  const order = orderOf(steps, before);
  const next = steps.map((): number[] => []);
  for (const [i, each] of before.entries()) for (const k of each) next[k]?.push(i);
  const tail = steps.map(({ minutes }) => minutes);
  for (const i of [...order].reverse())
    for (const k of next[i] as number[])
      tail[i] = Math.max(tail[i] as number, (steps[i]?.minutes as number) + (steps[k]?.waitMin as number) + (tail[k] as number));
  const perKind = [...new Set(resources.map(({ kind }) => kind))].map((kind) => {
    const of = resources.flatMap((each, r) => (each.kind === kind ? [r] : []));
    const takes = (i: number) =>
      (named[i] as number[]).filter((r) => of.includes(r)).length +
      (kinds[i] as Problem["kinds"][number]).reduce((sum, each) => sum + (of.includes(each.of[0] as number) ? each.count : 0), 0);
    return { of, work: steps.map(({ minutes }, i) => minutes * takes(i)) };
  });
  const perOne = asked.flatMap((is, r) => (is ? [{ of: [r], work: steps.map(({ minutes }, i) => ((named[i] as number[]).includes(r) ? minutes : 0)) }] : []));
  return {
    minutes: steps.map(({ minutes }) => minutes),
    wait: steps.map(({ waitMin }) => waitMin),
    due: steps.map(({ dueMin }) => dueMin ?? Number.POSITIVE_INFINITY),
    setup,
    before,
    next,
    named,
    kinds,
    changeover: resources.map(({ changeoverMin }) => changeoverMin),
    asked,
    resources: resources.length,
    tail,
    groups: [...perKind, ...perOne],
    order,
    windows,
    aim,
  };
}

/** A schedule while it is made: steps are appended, each as early as it may be after what is on its resources already. */
class Timeline {
  readonly placed: Placed[] = [];
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
    const last = this.placed.pop() as Placed;
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
function boundOf(problem: Problem, line: Timeline): Cost {
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

/** The best schedule seen, and what is left of the effort. */
class Best {
  placed: readonly Placed[] | null = null;
  cost: Cost = [];
  constructor(public left: number) {}

  /** @returns whether it is better than what was known */
  offer(line: Timeline): boolean {
    if (!Number.isFinite(line.end) || (this.placed && !less(line.cost, this.cost))) return false;
    this.placed = [...line.placed];
    this.cost = line.cost;
    return true;
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
    const choices: Placed[] = [];
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
