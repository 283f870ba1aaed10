import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { AnyDocument, StoredDocument } from "@/core/kernel/document";
import { mergerOf } from "@/core/kernel/merge";
import { ApiError } from "./api";
import { createDocumentStore, type StoreClient, type StoreRecord } from "./documentStore";

interface Sheet extends AnyDocument {
  mine: number;
  yours: number;
  note: string;
}
const EMPTY: Sheet = { format: "sheet", version: 1, name: "Sheet", mine: 0, yours: 0, note: "" };
const parts = mergerOf<Sheet>({ format: null, version: null, name: "name", mine: "mine", yours: "yours", note: "note" });

/** A server of one sheet, over a way that a scheduler rules: it decides when a question comes through and when its answer does, and a list says which of them are lost. */
class Far {
  row: StoredDocument<Sheet> = { id: "sheet", document: EMPTY, revision: 1, updatedAt: "2026-11-24T10:00:00Z", deletedAt: null, changedBy: null };
  heard: (() => void)[] = [];
  constructor(
    private readonly way: fc.Scheduler,
    private readonly fates: ("fine" | "question lost" | "answer lost")[],
  ) {}

  save = async (_id: string, revision: number, document: Sheet): Promise<StoredDocument<Sheet>> => {
    const fate = this.fates.pop() ?? "fine";
    await this.way.schedule(Promise.resolve(), "question");
    if (fate === "question lost") throw new ApiError("unreachable", "The server does not answer.", 0);
    if (revision !== this.row.revision) {
      const current = this.row;
      await this.way.schedule(Promise.resolve(), "refusal");
      throw new ApiError("stale-revision", "Changed elsewhere.", 409, undefined, current as never);
    }
    this.row = { ...this.row, document, revision: revision + 1 };
    const saved = this.row;
    for (const tell of this.heard) tell();
    await this.way.schedule(Promise.resolve(), "answer");
    if (fate === "answer lost") throw new ApiError("unreachable", "The answer was lost.", 0);
    return saved;
  };
  get = async (): Promise<StoredDocument<Sheet>> => {
    await this.way.schedule(Promise.resolve(), "look");
    const found = this.row;
    await this.way.schedule(Promise.resolve(), "found");
    return found;
  };
}
const RECORD: StoreRecord<Sheet> = { id: "plans", merger: parts };
const clientOf = ({ get, save }: Far): StoreClient<Sheet> => ({ get, save, create: async () => undefined });

beforeEach(() => {
  vi.useFakeTimers();
  // Each page has a browser of its own.
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined, removeItem: () => undefined });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** What happens at a page, or on the way to the server. */
type Event = { page: 0 | 1; change: number } | { page: 0 | 1; undo: true } | { waitMs: number } | { comesThrough: number };
const page = fc.constantFrom<0 | 1>(0, 1);
const event: fc.Arbitrary<Event> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ page, change: fc.integer({ min: 1, max: 9 }) }) },
  { weight: 1, arbitrary: fc.record({ page, undo: fc.constant(true as const) }) },
  { weight: 4, arbitrary: fc.record({ waitMs: fc.integer({ min: 50, max: 4000 }) }) },
  { weight: 6, arbitrary: fc.record({ comesThrough: fc.integer({ min: 1, max: 3 }) }) },
);
const fates = fc.array(fc.constantFrom<"fine" | "question lost" | "answer lost">("fine", "fine", "question lost", "answer lost"), { maxLength: 8 });

/** Found by such runs: a look at the server that comes back after a later one began, at which the page once stayed at the older sheet; and a step back that once took another's change back too. */
const FOUND: [fc.Scheduler, never[], Event[]][] = [
  [
    fc.schedulerFor()`
-> [task${1}] promise::question resolved
-> [task${2}] promise::answer resolved
-> [task${3}] promise::look resolved
-> [task${5}] promise::question resolved
-> [task${6}] promise::answer resolved
-> [task${4}] promise::found resolved
-> [task${7}] promise::look resolved
-> [task${8}] promise::found resolved`,
    [],
    [{ waitMs: 50 }, { page: 1, change: 7 }, { waitMs: 350 }, { comesThrough: 2 }, { page: 1, change: 1 }, { comesThrough: 1 }],
  ],
  [
    fc.schedulerFor()`
-> [task${1}] promise::question resolved
-> [task${2}] promise::question resolved
-> [task${4}] promise::refusal resolved
-> [task${3}] promise::answer resolved
-> [task${5}] promise::question resolved
-> [task${6}] promise::answer resolved
-> [task${7}] promise::look resolved
-> [task${8}] promise::found resolved`,
    [],
    [
      { page: 1, change: 2 },
      { page: 0, change: 4 },
      { page: 0, change: 6 },
      { waitMs: 2364 },
      { comesThrough: 2 },
      { comesThrough: 2 },
      { page: 0, undo: true },
    ],
  ],
];

describe("an open document, however questions and answers come through", () => {
  it("two pages that change different parts lose nothing and never quarrel, and both end at what is on the server", async () => {
    await fc.assert(
      fc.asyncProperty(fc.scheduler(), fates, fc.array(event, { maxLength: 30 }), async (way, fates, events) => {
        const far = new Far(way, [...fates]);
        const stores = [0, 1].map(() => createDocumentStore(RECORD, clientOf(far), { id: "sheet", document: EMPTY, revision: 1 }));
        far.heard = stores.map((store) => () => void store.onRemoteChange("sheet", far.row.revision));
        const parts = ["mine", "yours"] as const;
        const wanted = { mine: 0, yours: 0 };
        for (const each of events) {
          if ("waitMs" in each) await vi.advanceTimersByTimeAsync(each.waitMs);
          else if ("comesThrough" in each) for (let i = 0; i < each.comesThrough && way.count() > 0; i++) await way.waitOne();
          else {
            const [store, part] = [stores[each.page] as (typeof stores)[number], parts[each.page] as "mine" | "yours"];
            if ("change" in each) store.change((sheet) => ({ ...sheet, [part]: each.change }));
            else store.undo();
            wanted[part] = store.getState().document[part];
          }
          for (const store of stores) expect(store.getState().conflict).toBeNull();
        }
        // In the end everything comes through, and every page saves automatically.
        for (let i = 0; i < 40; i++) {
          await vi.advanceTimersByTimeAsync(3500);
          while (way.count() > 0) await way.waitOne();
        }
        expect(far.row.document).toMatchObject({ ...wanted, note: "" });
        for (const store of stores) {
          expect(store.getState()).toMatchObject({ document: far.row.document, base: far.row.document, revision: far.row.revision, save: { kind: "saved" } });
        }
      }),
      { numRuns: 250, examples: FOUND },
    );
  });

  it("a step back takes back what was done here and nothing that another changed since, and a step forth brings it again", async () => {
    const far = new Far(fc.schedulerFor()``, []);
    // Nothing is on its way for long.
    const store = createDocumentStore(
      RECORD,
      { ...clientOf(far), get: async () => far.row, save: async (_, revision, document) => (far.row = { ...far.row, document, revision: revision + 1 }) },
      { id: "sheet", document: EMPTY, revision: 1 },
    );
    for (const mine of [4, 6]) store.change((sheet) => ({ ...sheet, mine }));
    await store.flush();
    far.row = { ...far.row, document: { ...far.row.document, yours: 2 }, revision: far.row.revision + 1 };
    await store.refresh();
    const now = () => store.getState().document;
    expect(now()).toMatchObject({ mine: 6, yours: 2 });
    const seen = [store.undo, store.undo, store.undo, store.redo, store.redo].map((step) => {
      step();
      return now();
    });
    expect(seen.map(({ mine }) => mine)).toEqual([4, 0, 0, 4, 6]);
    expect(seen.map(({ yours }) => yours)).toEqual([2, 2, 2, 2, 2]);
    // Of a part that both changed what is chosen stands, and so does the rest through every step.
    store.change((sheet) => ({ ...sheet, note: "from here" }));
    far.row = { ...far.row, document: { ...far.row.document, note: "from there", yours: 3 }, revision: far.row.revision + 1 };
    await store.refresh();
    await store.resolve("mine");
    expect(now()).toMatchObject({ mine: 6, yours: 3, note: "from here" });
    store.undo();
    expect(now()).toMatchObject({ mine: 6, yours: 3 });
  });

  it("one drag is one step back however slow it is, and the next drag is another", async () => {
    let held: number | null = null;
    const store = createDocumentStore(RECORD, clientOf(new Far(fc.schedulerFor()``, [])), { id: null, document: EMPTY, revision: 0 }, () => held);
    const drag = (gesture: number, values: number[]) => {
      held = gesture;
      for (const mine of values) {
        vi.advanceTimersByTime(5000);
        store.change((sheet) => ({ ...sheet, mine }), "mine");
      }
      held = null;
    };
    drag(1, [1, 2, 3]);
    drag(2, [4, 5]);
    const steps = [0, 1].map(() => {
      store.undo();
      return store.getState().document.mine;
    });
    expect(steps).toEqual([3, 0]);
  });

  it("where both change the same part somebody is asked, nothing is overwritten unasked, and what is chosen stands", async () => {
    await fc.assert(
      fc.asyncProperty(fc.scheduler(), fc.constantFrom<"mine" | "theirs">("mine", "theirs"), fates, async (way, choice, fates) => {
        const far = new Far(way, [...fates]);
        const store = createDocumentStore(RECORD, clientOf(far), { id: "sheet", document: EMPTY, revision: 1 });
        store.change((sheet) => ({ ...sheet, note: "from here", mine: 3 }));
        far.row = { ...far.row, document: { ...EMPTY, note: "from there", yours: 4 }, revision: 2 };
        for (let i = 0; i < 40 && !store.getState().conflict; i++) {
          await vi.advanceTimersByTimeAsync(3500);
          while (way.count() > 0) await way.waitOne();
          expect(far.row.document.note).toBe("from there");
        }
        expect(store.getState().conflict?.clashes).toEqual(["note"]);
        await store.resolve(choice);
        for (let i = 0; i < 40; i++) {
          await vi.advanceTimersByTimeAsync(3500);
          while (way.count() > 0) await way.waitOne();
        }
        expect(far.row.document).toMatchObject({ mine: 3, yours: 4, note: choice === "mine" ? "from here" : "from there" });
        expect(store.getState().save.kind).toBe("saved");
      }),
      { numRuns: 60 },
    );
  });
});

describe("a draft", () => {
  const storage = new Map<string, string>();
  beforeEach(() => {
    storage.clear();
    vi.stubGlobal("localStorage", {
      getItem: (key: string) => storage.get(key) ?? null,
      setItem: (key: string, text: string) => storage.set(key, text),
      removeItem: (key: string) => storage.delete(key),
    });
  });
  const changed = async (error: ApiError) => {
    const store = createDocumentStore(
      RECORD,
      {
        create: async () => undefined,
        get: async () => ({ id: "sheet", document: EMPTY, revision: 1, updatedAt: "", deletedAt: null, changedBy: null }),
        save: async () => {
          throw error;
        },
      },
      { id: "sheet", document: EMPTY, revision: 1 },
    );
    store.change((sheet) => ({ ...sheet, mine: 7 }));
    expect(storage.size).toBe(1);
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.getState().save.kind).toBe("failed");
  };

  it("that a member who may only look could not save is not stored, so it is not taken up later", async () => {
    await changed(new ApiError("role", "You signed in to look.", 403));
    expect(storage.size).toBe(0);
  });

  it("that the server did not take for another reason stays", async () => {
    await changed(new ApiError("unreachable", "The server does not answer.", 0));
    expect(storage.size).toBe(1);
  });
});
