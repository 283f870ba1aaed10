import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { RIG_KINDS } from "@/core/rigs/kinds";
import { newRig, type RigDocument } from "@/core/rigs/rig";
import { engines } from "../../../tests/helpers/engines";
import { rigRepository } from "../features/rigs/repository";
import type { Database } from "./db/client";
import { rigs } from "./db/schema";
import type { ServerError } from "./errors";

/** What should be in the table: by id, in no order. */
interface Known {
  id: string;
  document: RigDocument;
  revision: number;
  deleted: boolean;
}
type Model = Known[];
interface Real {
  db: Database;
}
type Action = fc.AsyncCommand<Model, Real>;

const codeOf = (doing: Promise<unknown>) =>
  doing.then(
    () => "done",
    (error: ServerError) => error.code,
  );
const inUse = (model: Readonly<Model>) => model.filter(({ deleted }) => !deleted);
const pick = (model: Model, at: number) => model[at % model.length] as Known;

class Create implements Action {
  constructor(private readonly document: RigDocument) {}
  check = () => true;
  async run(model: Model, { db }: Real) {
    const { id, revision, document } = await rigRepository.create(db, this.document);
    expect([revision, document]).toEqual([1, this.document]);
    model.push({ id, revision, document: this.document, deleted: false });
  }
  toString = () => `create ${this.document.name}`;
}
class Save implements Action {
  constructor(
    private readonly at: number,
    private readonly name: string,
    private readonly behind: number,
  ) {}
  check = (model: Readonly<Model>) => model.length > 0;
  async run(model: Model, { db }: Real) {
    const known = pick(model, this.at);
    const document = { ...known.document, name: this.name };
    const result = await codeOf(rigRepository.save(db, known.id, known.revision - this.behind, document));
    expect(result).toBe(known.deleted ? "not-found" : this.behind > 0 ? "stale-revision" : "done");
    if (result === "done") Object.assign(known, { document, revision: known.revision + 1 });
  }
  toString = () => `save ${this.at}, ${this.behind} behind, as ${this.name}`;
}
/** Two at once from the same revision: one is stored, the other gets the stored version. */
class Race implements Action {
  constructor(private readonly at: number) {}
  check = (model: Readonly<Model>) => inUse(model).length > 0;
  async run(model: Model, { db }: Real) {
    const known = pick(inUse(model), this.at);
    const documents = ["left", "right"].map((name) => ({ ...known.document, name }));
    const both = await Promise.allSettled(documents.map((document) => rigRepository.save(db, known.id, known.revision, document)));
    const won = both.flatMap((each) => (each.status === "fulfilled" ? [each.value] : []));
    expect(won).toHaveLength(1);
    Object.assign(known, { document: won[0]?.document, revision: known.revision + 1 });
    const lost = both.find((each) => each.status === "rejected") as PromiseRejectedResult;
    expect((lost.reason as ServerError).extra.current).toMatchObject({ revision: known.revision, document: known.document });
  }
  toString = () => `race for ${this.at}`;
}
class Put implements Action {
  constructor(
    private readonly at: number,
    private readonly away: boolean,
  ) {}
  check = (model: Readonly<Model>) => model.length > 0;
  async run(model: Model, { db }: Real) {
    const known = pick(model, this.at);
    const result = await codeOf(rigRepository.setDeleted(db, known.id, this.away));
    expect(result).toBe(known.deleted === this.away ? "not-found" : "done");
    known.deleted = this.away;
  }
  toString = () => `${this.away ? "archived" : "restore"} ${this.at}`;
}
class Copy implements Action {
  constructor(private readonly at: number) {}
  check = (model: Readonly<Model>) => inUse(model).length > 0;
  async run(model: Model, { db }: Real) {
    const known = pick(inUse(model), this.at);
    const taken = inUse(model).map(({ document }) => document.name);
    const { id, document, revision } = await rigRepository.duplicate(db, known.id);
    expect(taken).not.toContain(document.name);
    expect(document).toEqual({ ...known.document, name: document.name });
    model.push({ id, document, revision, deleted: false });
  }
  toString = () => `copy ${this.at}`;
}
class Look implements Action {
  constructor(
    private readonly find: string,
    private readonly limit: number,
  ) {}
  check = () => true;
  async run(model: Model, { db }: Real) {
    for (const deleted of [false, true]) {
      const wanted = model.filter((known) => known.deleted === deleted && known.document.name.toLowerCase().includes(this.find.toLowerCase()));
      const { readable, unreadable } = await rigRepository.list(db, { deleted, find: this.find });
      expect(unreadable).toEqual([]);
      const plain = (rows: { id: string; document: RigDocument; revision: number }[]) =>
        rows.map(({ id, document, revision }) => ({ id, document, revision })).sort((a, b) => (a.id < b.id ? -1 : 1));
      expect(plain(readable)).toEqual(plain(wanted));
      expect(await rigRepository.count(db, { deleted, find: this.find })).toBe(wanted.length);
      // Pages, one after the other, are the list.
      const pages = [];
      for (let offset = 0; offset < wanted.length; offset += this.limit)
        pages.push(...(await rigRepository.list(db, { deleted, find: this.find, limit: this.limit, offset })).readable);
      expect(pages.map(({ id }) => id)).toEqual(readable.map(({ id }) => id));
    }
    expect((await rigRepository.names(db)).map(({ id }) => id).sort()).toEqual(model.flatMap(({ id, deleted }) => (deleted ? [] : [id])).sort());
    for (const { id, document, deleted } of model.slice(0, 3)) {
      if (deleted) expect(await codeOf(rigRepository.get(db, id))).toBe("not-found");
      else expect((await rigRepository.get(db, id)).document).toEqual(document);
    }
  }
  toString = () => `look for "${this.find}", ${this.limit} a page`;
}

const NAMES = ["Swing", "swing 100%", "Under_score", "Back\\slash", "Long, copy", "Long, copy 2", "Long"];
const name = fc.constantFrom(...NAMES);
const at = fc.nat({ max: 20 });
const document = fc.record({ name, kind: fc.constantFrom(...RIG_KINDS) }).map(({ name, kind }) => newRig(kind, name));
const actions = fc.commands(
  [
    document.map((each) => new Create(each)),
    fc.tuple(at, name, fc.constantFrom(0, 0, 0, 1)).map(([at, name, behind]) => new Save(at, name, behind)),
    at.map((at) => new Race(at)),
    fc.tuple(at, fc.boolean()).map(([at, away]) => new Put(at, away)),
    at.map((at) => new Copy(at)),
    fc.tuple(fc.constantFrom("", "swing", "%", "_", "\\", "copy"), fc.integer({ min: 1, max: 3 })).map(([find, limit]) => new Look(find, limit)),
  ],
  { maxCommands: 25 },
);

describe.each(await engines())("documents on %s", (_name, open) => {
  let db: Database;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await open());
  }, 60_000);
  afterAll(() => close());

  it("after any commands in any order, two at once, the stored rows equal a list in memory", async () => {
    await fc.assert(
      fc.asyncProperty(actions, async (actions) => {
        await db.delete(rigs);
        await fc.asyncModelRun(() => ({ model: [], real: { db } }), actions);
      }),
      { numRuns: 15 },
    );
  });
});
