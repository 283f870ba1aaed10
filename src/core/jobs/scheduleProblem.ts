import { CoreError } from "../kernel/errors";

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

/** The input by numbers. */
export interface Problem {
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
export function problemOf({ steps, resources, windows, aim }: ScheduleInput): Problem {
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
