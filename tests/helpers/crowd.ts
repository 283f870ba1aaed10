import { AsyncLocalStorage } from "node:async_hooks";
import { readFileSync } from "node:fs";
import { setTimeout as pause } from "node:timers/promises";
import type { Design } from "@/core/cutters/design/schema";
import { itemSchema } from "@/core/drawer/items";
import type { StoredDocument } from "@/core/kernel/document";
import { demoLog } from "@/core/log/demoLog";
import type { LogEntry } from "@/core/log/entries";
import { type ClockSample, clockOffset } from "@/core/pace/twoEnds";
import type { Plan } from "@/core/plans/plan";
import { Access } from "@/server/kernel/access/access";
import { openDatabase } from "@/server/kernel/db/client";
import { openPostgres } from "@/server/kernel/db/postgres";
import { createDeskStore, type DeskStore } from "@/ui/features/desk/deskStore";
import { createPlanStore } from "@/ui/features/plans/planStore";
import { ApiError, api, PATIENCE_MS, type SecondView } from "@/ui/kit/api";
import { LogQueue } from "@/ui/kit/logQueue";

/** The phrase of anyone who keeps the crowd's workshop. */
const PHRASE = "lantern barge on the tide";

/** Gives a workshop its phrase. @param where its folder, or its database's address */
export async function letIn(where: string): Promise<void> {
  const { db, close } = await (where.includes("://") ? openPostgres(where) : openDatabase(where));
  await new Access(async () => db).setPhrase("keep", PHRASE);
  await close();
}

/** What a member's requests are counted under. */
export type Kind = "save" | "page" | "read" | "call" | "relay";

/** Whose request it is: the pages' own code asks by bare addresses, as in a browser. */
const acting = new AsyncLocalStorage<CrowdMember>();
const plainFetch = globalThis.fetch;
globalThis.fetch = ((input: string | URL | Request, init?: RequestInit) => {
  const member = acting.getStore();
  return member && typeof input === "string" && input.startsWith("/") ? member.request(input, init) : plainFetch(input, init);
}) as typeof fetch;

/** Anything from the first to the last by the same chance, by a generator of its own (Park and Miller, 1988): a run can be had again. */
export class Chance {
  constructor(private state: number) {
    this.state = (state % 2_147_483_646) + 1;
  }
  next(): number {
    this.state = (this.state * 48_271) % 2_147_483_647;
    return this.state / 2_147_483_647;
  }
  of<T>(all: readonly T[]): T {
    return all[Math.floor(this.next() * all.length)] as T;
  }
}

/** What the members of a crowd did, as the server acknowledged it. */
export class Books {
  readonly ms: { [K in Kind]: number[] } = { save: [], page: [], read: [], call: [], relay: [] };
  /** entries that were acknowledged, and those that were sent at all */
  readonly entries = { acknowledged: new Map<string, string>(), sent: new Map<string, string>() };
  readonly things = { acknowledged: new Map<string, string>(), sent: new Set<string>() };
  /** of each shared cutter: how often a count was acknowledged, and how often it was tried */
  readonly counts = new Map<string, { acknowledged: number; tried: number }>();
  /** of each cutter and plan of one's own: names it was to bear, one after the other, and revisions that were acknowledged */
  readonly own = new Map<string, { wished: string[]; revisions: number[]; finish: () => Promise<string> }>();
  /** by how much two ends of a bow disagree, ms */
  readonly apart: number[] = [];
  readonly faults: string[] = [];
  /** requests that no answer came to */
  unanswered = 0;
  timing = false;

  time(kind: Kind, ms: number): void {
    if (this.timing) this.ms[kind].push(ms);
  }
}

/** The value that this share of the others do not exceed; NaN of none. */
export const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? Number.NaN;

/** One who works in the shed: a browser's page without a browser, made of the pages' own stores and queue. */
export class CrowdMember {
  private cookie = "";
  readonly chance: Chance;
  private readonly shelf = { text: "[]" };
  readonly queue = new LogQueue(
    (cutter, entry, id) => {
      this.record.entries.sent.set(id, (entry as { note?: string }).note ?? "");
      return api.log.add(cutter, entry, id).then((row) => {
        this.record.entries.acknowledged.set(id, (entry as { note?: string }).note ?? "");
        return row;
      });
    },
    { read: () => this.shelf.text, write: (text) => (this.shelf.text = text) },
  );

  constructor(
    readonly name: string,
    /** the address this member's browser is at */
    readonly at: string,
    readonly record: Books,
    seed: number,
  ) {
    this.chance = new Chance(seed);
  }

  /** Does something as this member's page would. */
  as<T>(work: () => Promise<T>): Promise<T> {
    return acting.run(this, work);
  }

  async request(path: string, init: RequestInit = {}): Promise<Response> {
    const from = performance.now();
    const method = init.method ?? "GET";
    const response = await plainFetch(`${this.at}${path}`, {
      ...init,
      headers: { ...(init.headers as Record<string, string> | undefined), origin: this.at, ...(this.cookie ? { cookie: this.cookie } : {}) } as HeadersInit,
      redirect: "manual",
    });
    if (path.startsWith("/api/changes") || path.endsWith("/events")) return response;
    // Read apart, so that one that breaks off does so for anyone who asked as well.
    await response
      .clone()
      .text()
      .catch(() => undefined);
    const kind: Kind = !path.startsWith("/api/") ? "page" : method === "GET" ? "read" : path.startsWith("/api/second") ? "call" : "save";
    // Refusals by revision are answers as good as any: they are timed too. A sign-in is slow on purpose.
    if (response.status < 500 && !path.includes("/sign-in")) this.record.time(kind, performance.now() - from);
    return response;
  }

  async signIn(): Promise<void> {
    const response = await this.request("/api/access/sign-in", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ name: this.name, phrase: PHRASE }),
    });
    if (!response.ok) throw new Error(`${this.name} is not let in: ${await response.text()}`);
    this.cookie = (response.headers.get("set-cookie") as string).split(";")[0] as string;
  }

  /** Listens as an open page does, and again three seconds after it was cut off, as browsers do. */
  async listen(path: string, over: AbortSignal, heard: (data: string) => void): Promise<void> {
    while (!over.aborted) {
      try {
        const response = await this.request(path, { signal: over });
        const text = new TextDecoder();
        let rest = "";
        for await (const bytes of response.body as unknown as AsyncIterable<Uint8Array>) {
          const events = (rest + text.decode(bytes, { stream: true })).split("\n\n");
          rest = events.pop() ?? "";
          for (const event of events) if (event.startsWith("data: ")) heard(event.slice(6));
        }
      } catch (error) {
        if (!over.aborted && !isAway(error)) throw error;
      }
      await pause(3000, undefined, { signal: over }).catch(() => undefined);
    }
  }

  /** Asks until the server is there, as a person does who presses again. @returns null where it was called off */
  async insist<T>(work: () => Promise<T>, over?: AbortSignal): Promise<T | null> {
    for (;;) {
      try {
        return await work();
      } catch (error) {
        if (!isAway(error)) throw error;
        this.record.unanswered++;
        if (over?.aborted) return null;
        await pause(500);
      }
    }
  }
}

/** Whether a fault is of the way there, or a server's that is going or coming, and not its saying no. */
export function isAway(error: unknown): boolean {
  if (error instanceof ApiError) return error.status === 0 || error.status >= 502;
  return error instanceof TypeError || /^(Abort|Timeout)Error$/.test((error as Error).name);
}

/** Things the crowd works on. */
export interface Shed {
  shared: readonly string[];
  pages: readonly string[];
  cutter: Design;
  plan: Plan;
}

export interface Crowd {
  record: Books;
  members: readonly CrowdMember[];
  /** Ends the work, lets everybody finish what they had begun, and looks at what stands. @returns what is wrong with it, each in words */
  finish: () => Promise<string[]>;
}

const nameOfCount = (n: number, count: number) => `Shared ${n}, counted ${count}`;
const countOf = (name: string) => Number(/counted (\d+)$/.exec(name)?.[1]);

/**
 * Lets members in and sets them to work: pages, lists, saves of their own and of shared cutters, plans, things, log entries, and two pairs at a bow.
 * @param addresses where the members' browsers stand, one after the other
 * @param thinkS between two things one does, on average, s
 */
export async function startCrowd(addresses: readonly string[], many: number, thinkS: number, seed = 1): Promise<Crowd> {
  const record = new Books();
  const over = new AbortController();
  const administrator = new CrowdMember("Administrator", addresses[0] as string, record, seed);
  await administrator.signIn();
  const names = Array.from({ length: many }, (_, i) => `Hand ${i + 1}`);
  const [design, plan] = await administrator.as(async () => {
    for (const name of names) await api.access.change({ do: "add", name });
    const cutters = await api.cutters.list();
    const plans = (await (await administrator.request("/api/plans")).json()) as { plans: { plan: Plan }[] };
    return [(cutters[0] as StoredDocument<Design>).document, (plans.plans[0] as { plan: Plan }).plan] as const;
  });
  const shared: string[] = [];
  for (let n = 0; n < 4; n++) shared.push((await administrator.as(() => api.cutters.create({ ...design, name: nameOfCount(n, 0) }))).id);
  for (const id of shared) record.counts.set(id, { acknowledged: 0, tried: 0 });
  const members = names.map((name, i) => new CrowdMember(name, addresses[i % addresses.length] as string, record, seed * 1000 + i));
  for (const member of members) await member.signIn();
  const fail = (error: unknown) => record.faults.push(String((error as Error).stack ?? error));

  /** The first and third make a screen; those after them are its other end, from wherever their browser stands. */
  const offsets: number[] = [];
  const tickets: Promise<string>[] = [];
  const made: ((ticket: string) => void)[] = [];
  async function paceOneEnd(member: CrowdMember, i: number): Promise<void> {
    const pair = i >> 1;
    tickets[pair] ??= new Promise((resolve) => {
      made[pair] = resolve;
    });
    const leads = i % 2 === 0;
    if (leads) {
      const rows = Array.from({ length: 400 }, (_, k) => ({
        from: String(k),
        to: String(k + 1),
        seconds: 4,
        waitS: 0,
        rootFeedMmS: 5,
        tipFeedMmS: 3,
        limit: "drag" as const,
        corner: false,
      }));
      const about = {
        kind: "pacer" as const,
        name: "Fin",
        face: "root",
        rows,
        parts: 4,
        templates: { root: { lines: [], numbers: [] }, tip: { lines: [], numbers: [] } },
      };
      const screen = await member.insist(() => api.second.make(about), over.signal);
      if (!screen) return;
      made[pair]?.(screen.ticket);
    }
    const ticket = await (tickets[pair] as Promise<string>);
    let pausedMs: number | null = null;
    void member
      .listen(`/api/second/${ticket}/events`, over.signal, (data) => {
        const at = (JSON.parse(data) as SecondView).pacer?.run?.pausedMs ?? null;
        // The other end paused: how long the news of it took.
        if (!leads && at !== null && at !== pausedMs && Date.now() - at < 5000) record.time("relay", Date.now() - at);
        pausedMs = at;
      })
      .catch(fail);
    while (!over.signal.aborted) {
      const samples: ClockSample[] = [];
      for (let k = 0; k < 5; k++) {
        const sentMs = Date.now();
        const reply = await member.insist(
          () => api.second.act(ticket, { do: k === 0 ? "here" : "look", ...(k === 0 ? { end: leads ? "root" : "tip" } : {}) } as never),
          over.signal,
        );
        if (reply) samples.push({ sentMs, saidMs: reply.nowMs, lastReportMs: Date.now() });
      }
      // Both read one clock here: what one end takes the server's for, less what the other does, is what their counts are apart.
      const offset = clockOffset(samples)?.offsetMs;
      if (offset !== undefined) offsets[i] = offset;
      if (record.timing && offsets[i] !== undefined && offsets[i ^ 1] !== undefined)
        record.apart.push(Math.abs((offsets[i] as number) - (offsets[i ^ 1] as number)));
      if (leads) {
        for (const action of ["begin", "pause", "resume", "pause"] as const) {
          await member.insist(() => api.second.act(ticket, (action === "begin" ? { do: action, by: "pacer" } : { do: action }) as never), over.signal);
          await pause(700 * thinkS);
        }
        await member.insist(() => api.second.act(ticket, { do: "again" }), over.signal);
      } else await pause(2000 * thinkS);
    }
  }

  async function workOn(member: CrowdMember): Promise<void> {
    const mine = await member.insist(() => api.cutters.create({ ...design, name: `${member.name}, 0` }));
    const myPlan = await member.insist(() => api.plans.create({ ...plan, name: `${member.name}, 0` }));
    if (!mine || !myPlan) return;
    const desk = createDeskStore(mine);
    const drawn = createPlanStore(myPlan);
    keepTrack(`/api/cutters/${mine.id}`, desk, (name) => desk.change((now) => ({ ...now, name })));
    keepTrack(`/api/plans/${myPlan.id}`, drawn, (name) => drawn.change((now) => ({ ...now, name })));
    void member.listen(`/api/changes?at=cutters/${mine.id}&page=${member.name.replace(/\D/g, "").padStart(16, "0")}`, over.signal, () => undefined).catch(fail);
    const pages = ["/cutters", `/cutters/${mine.id}`, `/cutters/${shared[0]}/log`, "/plans", `/plans/${myPlan.id}`, "/drawer", "/rigs"];
    const names = { cutter: 0, plan: 0, thing: 0, entry: 0 };
    const readings = [
      () => api.cutters.list(),
      () => api.drawer.list(),
      () => api.log.list(member.chance.of(shared)),
      () => api.cutters.get(member.chance.of(shared)),
    ] as const satisfies readonly (() => Promise<unknown>)[];
    const often = (times: number, action: () => Promise<unknown>) => Array.from({ length: times }, () => action);
    const actions = [
      ...often(5, () => member.insist(() => look(member, member.chance.of(pages)))),
      ...often(3, () => member.insist<unknown>(member.chance.of(readings))),
      ...often(4, async () => wish(`/api/cutters/${mine.id}`, `${member.name}, ${++names.cutter}`)),
      ...often(2, async () => wish(`/api/plans/${myPlan.id}`, `${member.name}, ${++names.plan}`)),
      ...often(3, () => countUp(member)),
      ...often(3, () => write(member, ++names.entry)),
      ...often(1, () => addThing(member, ++names.thing)),
    ];
    while (!over.signal.aborted) {
      await member.chance.of(actions)();
      // Exponential, as arrivals are.
      await pause(-Math.log(1 - member.chance.next()) * thinkS * 1000, undefined, { signal: over.signal }).catch(() => undefined);
      await member.queue.flush();
    }
    // Each action that has begun is finished, as by a page that stays open.
    while (member.queue.waiting.some(({ refused }) => refused === undefined)) {
      await member.queue.flush();
      await pause(200);
    }
  }

  const wishes = new Map<string, (name: string) => void>();
  function wish(path: string, name: string): void {
    record.own.get(path)?.wished.push(name);
    wishes.get(path)?.(name);
  }
  function keepTrack(
    path: string,
    store: Pick<DeskStore, "flush"> & {
      getState: () => { save: { kind: string }; revision: number; document: { name: string }; conflict: unknown };
      subscribe: (heard: () => void) => unknown;
    },
    set: (name: string) => void,
  ): void {
    const revisions: number[] = [];
    store.subscribe(() => {
      const { revision, conflict } = store.getState();
      if (revisions.at(-1) !== revision && revision > 1) revisions.push(revision);
      if (conflict) record.faults.push(`${path}: a conflict with nobody`);
    });
    wishes.set(path, set);
    record.own.set(path, {
      wished: [],
      revisions,
      finish: async () => {
        for (let tries = 0; store.getState().save.kind !== "saved"; tries++) {
          if (tries > 300) throw new Error(`${path} is not saved after a minute: ${JSON.stringify(store.getState().save)}`);
          await pause(200);
        }
        return store.getState().document.name;
      },
    });
  }

  async function countUp(member: CrowdMember): Promise<void> {
    const id = member.chance.of(shared);
    const counts = record.counts.get(id) as { acknowledged: number; tried: number };
    let row = await member.insist(() => api.cutters.get(id));
    for (;;) {
      if (!row) return;
      counts.tried++;
      try {
        await api.cutters.save(id, row.revision, { ...row.document, name: nameOfCount(shared.indexOf(id), countOf(row.document.name) + 1) });
        counts.acknowledged++;
        return;
      } catch (error) {
        // A lost answer is not known to have been counted: it is not counted twice.
        if (isAway(error)) return;
        if (!(error instanceof ApiError && error.code === "stale-revision")) throw error;
        counts.tried--;
        row = error.current as StoredDocument<Design>;
      }
    }
  }

  async function write(member: CrowdMember, n: number): Promise<void> {
    const entry = { ...(demoLog()[0] as LogEntry), note: `${member.name}, entry ${n}` } as LogEntry;
    await member.queue.keep(member.chance.of(shared), entry);
  }

  async function addThing(member: CrowdMember, n: number): Promise<void> {
    const name = `${member.name}, thing ${n}`;
    record.things.sent.add(name);
    const item = itemSchema.parse({ kind: "wire", name, alloy: "nicr-80-20", diameter_mm: 0.4, length_m: 5 });
    try {
      const row = await api.drawer.add(item);
      record.things.acknowledged.set(row.id, name);
    } catch (error) {
      if (!isAway(error)) throw error;
      record.unanswered++;
    }
  }

  const work = members.map((member, i) => member.as(() => (i < 4 ? paceOneEnd(member, i) : workOn(member))));
  for (const each of work) each.catch(fail);

  async function finish(): Promise<string[]> {
    over.abort();
    await Promise.all(work.map((each) => each.catch(() => undefined)));
    const wrong = [...record.faults];
    for (const { name, queue } of members) for (const { refused } of queue.waiting) wrong.push(`an entry of ${name} was refused: ${refused}`);
    for (const [path, { wished, revisions, finish: end }] of record.own) {
      const last = await end();
      const row = Object.values(
        (await (await administrator.request(path)).json()) as { [key: string]: { revision: number; design?: Design; plan?: Design } },
      )[0];
      const name = row?.design?.name ?? row?.plan?.name;
      if (name !== last || name !== (wished.at(-1) ?? last)) wrong.push(`${path} is called ${name}, not ${wished.at(-1)}`);
      if ((row?.revision ?? 0) - 1 > wished.length) wrong.push(`${path} was saved ${row?.revision} times for ${wished.length} wishes`);
      if ((row?.revision ?? 0) < (revisions.at(-1) ?? 1)) wrong.push(`${path} is at ${row?.revision}, before ${revisions.at(-1)} that was acknowledged`);
      if (new Set(revisions).size !== revisions.length) wrong.push(`${path} had a revision acknowledged twice`);
    }
    for (const [id, { acknowledged, tried }] of record.counts) {
      const row = await administrator.as(() => api.cutters.get(id));
      const count = countOf(row.document.name);
      if (count !== row.revision - 1) wrong.push(`a shared cutter counts ${count} after ${row.revision - 1} saves`);
      if (count < acknowledged || count > tried) wrong.push(`a shared cutter counts ${count}: ${acknowledged} were acknowledged of ${tried}`);
    }
    const present = new Map<string, string[]>();
    for (const id of shared) for (const [entry, note] of await everyEntry(administrator, id)) present.set(entry, [...(present.get(entry) ?? []), note]);
    for (const [id, note] of record.entries.acknowledged) if (present.get(id)?.join() !== note) wrong.push(`entry ${note}: ${present.get(id) ?? "gone"}`);
    const notes = [...present.values()].flat();
    if (new Set(notes).size !== notes.length) wrong.push("an entry is twice");
    for (const id of present.keys()) if (!record.entries.sent.has(id)) wrong.push(`entry ${id} was sent by nobody`);
    const things = (await administrator.as(() => api.drawer.list())).filter(({ item }) => / thing \d+$/.test(item.name));
    for (const [id, name] of record.things.acknowledged)
      if (things.filter((row) => row.id === id && row.item.name === name).length !== 1) wrong.push(`${name} is not in the drawer once`);
    const called = things.map(({ item }) => item.name);
    if (new Set(called).size !== called.length) wrong.push("a thing lies in the drawer twice");
    return wrong;
  }

  return { record, members, finish };
}

async function everyEntry(administrator: CrowdMember, cutter: string): Promise<[string, string][]> {
  const all: [string, string][] = [];
  for (let before: Parameters<typeof api.log.list>[1]; ; ) {
    const page = await administrator.as(() => api.log.list(cutter, before));
    for (const { id, entry } of page.entries) all.push([id, (entry as { note?: string }).note ?? ""]);
    before = page.entries.at(-1);
    if (!page.older || !before) return all;
  }
}

/** Opens a page. */
async function look(member: CrowdMember, path: string): Promise<void> {
  const { status } = await member.request(path, { signal: AbortSignal.timeout(PATIENCE_MS) });
  if (status >= 500) throw new ApiError("server-failed", `${path} answered ${status}`, 502);
  if (status !== 200) throw new Error(`${path} answered ${status}`);
}

/** Resident memory of a process, MB (proc(5)). */
export const residentMb = (pid: number): number => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? Number.NaN) / 1024;
