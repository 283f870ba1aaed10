import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import type { StoredDocument } from "@/core/kernel/document";
import { ApiError, api } from "../../kit/api";
import { createDeskStore } from "./deskStore";

const tom = designSchema.parse(DEMO_CUTTERS[0]);
const ID = "11111111-1111-4111-8111-111111111111";
const withFeed = (design: Design, feed: number): Design => ({ ...design, job: { ...design.job, feed_mm_s: feed } });
const withNotes = (design: Design, notes: string): Design => ({ ...design, notes });

/** A server of one row, that counts revisions and refuses stale ones as the real one does. */
class FakeServer {
  row: StoredDocument<Design> = { id: ID, document: tom, revision: 1, updatedAt: "2026-11-24T10:00:00Z", deletedAt: null, changedBy: null };
  down = false;
  saves = 0;

  async save(_id: string, revision: number, design: Design): Promise<StoredDocument<Design>> {
    this.saves += 1;
    if (this.down) throw new ApiError("unreachable", "The server does not answer.", 0);
    if (revision !== this.row.revision) throw new ApiError("stale-revision", "Changed elsewhere.", 409, undefined, this.row);
    this.row = { ...this.row, document: design, revision: revision + 1 };
    return this.row;
  }

  /** Another tab's save. */
  meanwhile(change: (design: Design) => Design): void {
    this.row = { ...this.row, document: change(this.row.document), revision: this.row.revision + 1 };
  }
}

let server: FakeServer;
const stored = new Map<string, string>();
beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  stored.clear();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
    removeItem: (key: string) => void stored.delete(key),
  });
  vi.spyOn(api.cutters, "save").mockImplementation((id, revision, design) => server.save(id, revision, design));
  vi.spyOn(api.cutters, "get").mockImplementation(async () => server.row);
  vi.spyOn(api.cutters, "create").mockImplementation(async (design) => ({ ...server.row, id: "another", document: design }));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const desk = () => createDeskStore({ id: ID, document: tom, revision: 1, updatedAt: server.row.updatedAt });
const settle = () => vi.advanceTimersByTimeAsync(1000);

describe("the desk's store", () => {
  it("saves a change automatically after a moment of quiet, once for a burst, and says so", async () => {
    const store = desk();
    for (const feed of [5, 5.5, 6, 7]) store.change(withFeed(tom, feed), "feed");
    expect(store.getState().save.kind).toBe("changed");
    expect(stored.size).toBe(1); // until it is acknowledged it also lies in the browser
    await settle();
    expect(store.getState().save).toEqual({ kind: "saved", at: server.row.updatedAt });
    expect(server.row.document.job.feed_mm_s).toBe(7);
    expect(server.saves).toBe(1);
    expect(stored.size).toBe(0);
  });

  it("a save that is asked for while another is on its way waits for it, and ends with what is now on the server", async () => {
    const store = desk();
    let land = () => {};
    vi.mocked(api.cutters.save).mockImplementationOnce(async (id, revision, design) => {
      await new Promise<void>((resolve) => {
        land = resolve;
      });
      return server.save(id, revision, design);
    });
    store.change(withFeed(tom, 5), "feed");
    const first = store.flush();
    store.change(withFeed(tom, 6), "feed");
    let requested = false;
    const second = store.flush().then(() => {
      requested = true;
    });
    await vi.advanceTimersByTimeAsync(10);
    expect([requested, server.saves]).toEqual([false, 0]);
    land();
    await Promise.all([first, second]);
    expect(server.row.document.job.feed_mm_s).toBe(6);
    expect(store.getState().save.kind).toBe("saved");
    expect(server.saves).toBe(2);
  });

  it("undoes and redoes; quick changes of one part are one step, other parts their own", () => {
    const store = desk();
    store.change(withFeed(tom, 5), "feed");
    store.change(withFeed(tom, 6.1), "feed");
    store.change(withNotes(store.getState().document, "new"), "notes");
    vi.advanceTimersByTime(2000);
    store.change(withFeed(store.getState().document, 8), "feed");
    expect(store.getState().past).toHaveLength(3);
    store.undo();
    expect(store.getState().document.job.feed_mm_s).toBe(6.1);
    store.undo();
    store.undo();
    expect(store.getState().document).toEqual(tom);
    store.undo(); // nothing left: no harm
    for (let i = 0; i < 3; i++) store.redo();
    expect(store.getState().document).toMatchObject({ notes: "new", job: { feed_mm_s: 8 } });
    store.change(withFeed(store.getState().document, 9));
    expect(store.getState().future).toEqual([]);
  });

  it("a change that changes nothing is no step and no save", async () => {
    const store = desk();
    store.change({ ...tom, job: { ...tom.job } });
    await settle();
    expect(store.getState().past).toEqual([]);
    expect(server.saves).toBe(0);
  });

  it("tries again while the server is away, and loses nothing meanwhile", async () => {
    const store = desk();
    server.down = true;
    store.change(withFeed(tom, 4));
    await settle();
    expect(store.getState().save.kind).toBe("failed");
    expect(stored.size).toBe(1);
    store.change(withFeed(tom, 4.5));
    server.down = false;
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().save.kind).toBe("saved");
    expect(server.row.document.job.feed_mm_s).toBe(4.5);
  });

  it("a save that landed and whose answer was lost is its own, also when it was typed on or somebody saved after it; what never landed clashes with nothing", async () => {
    const store = desk();
    const lost = new ApiError("unreachable", "The server does not answer.", 0);
    vi.mocked(api.cutters.save).mockImplementationOnce(async (id, revision, design) => {
      await server.save(id, revision, design);
      throw lost;
    });
    store.change(withNotes(tom, "one"));
    await settle();
    expect(store.getState().save.kind).toBe("failed");
    store.change(withNotes(store.getState().document, "two"));
    await vi.advanceTimersByTimeAsync(5000);
    expect([store.getState().conflict, store.getState().save.kind, server.row.document.notes, server.row.revision]).toEqual([null, "saved", "two", 3]);
    expect(store.getState().notice).toBeNull();
    // As before, and somebody saves another part of what landed.
    vi.mocked(api.cutters.save).mockImplementationOnce(async (id, revision, design) => {
      await server.save(id, revision, design);
      throw lost;
    });
    store.change(withNotes(store.getState().document, "three"));
    await settle();
    server.meanwhile((design) => withFeed(design, 8.5));
    store.change(withNotes(store.getState().document, "four"));
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().conflict).toBeNull();
    expect(server.row.document).toMatchObject({ notes: "four", job: { feed_mm_s: 8.5 } });
    expect(store.getState().notice).toMatch(/Joined with a change made in another tab: [^.]*feed[^.]*\.$/i);
    // One that got nowhere, and somebody else's change of the same part: that is a clash as ever.
    vi.mocked(api.cutters.save).mockRejectedValueOnce(lost);
    store.change(withNotes(store.getState().document, "five"));
    await settle();
    server.meanwhile((design) => withNotes(design, "theirs"));
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().conflict?.clashes).toEqual(["notes"]);
  });

  it("joins another tab's change of another part, and says which", async () => {
    const store = desk();
    server.meanwhile((design) => withNotes(design, "theirs"));
    store.change(withFeed(tom, 4));
    await settle();
    await settle();
    expect(server.row.document).toMatchObject({ notes: "theirs", job: { feed_mm_s: 4 } });
    expect(store.getState().notice).toMatch(/Joined with a change made in another tab: notes/);
    expect(store.getState().conflict).toBeNull();
  });

  it.each([
    ["mine", 4, 4],
    ["theirs", 9, 9],
    ["both", 9, 9],
  ] as const)("asks when both changed one part: %s", async (choice, shown, saved) => {
    const store = desk();
    server.meanwhile((design) => withFeed(design, 9));
    store.change(withFeed(tom, 4));
    await settle();
    expect(store.getState().conflict?.clashes).toEqual(["feed"]);
    expect(server.row.document.job.feed_mm_s).toBe(9); // nothing is overwritten while the question stands
    await store.resolve(choice);
    await settle();
    expect(store.getState().conflict).toBeNull();
    expect(store.getState().document.job.feed_mm_s).toBe(shown);
    expect(server.row.document.job.feed_mm_s).toBe(saved);
    expect(api.cutters.create).toHaveBeenCalledTimes(choice === "both" ? 1 : 0);
    if (choice === "both") expect(vi.mocked(api.cutters.create).mock.calls[0]?.[0]).toMatchObject({ name: "Long Tom, my version", job: { feed_mm_s: 4 } });
  });

  it("looks again on coming back to the front, and takes what another tab saved", async () => {
    const store = desk();
    server.meanwhile((design) => withNotes(design, "while you were away"));
    await store.refresh();
    expect(store.getState().document.notes).toBe("while you were away");
    await store.refresh();
    expect(store.getState().revision).toBe(2);
  });

  it("takes up what a tab that died had not saved, over what the server has since", async () => {
    const dead = desk();
    dead.change(withFeed(tom, 3.3));
    const draft = new Map(stored);
    server.meanwhile((design) => withNotes(design, "since then"));
    stored.clear();
    for (const [key, value] of draft) stored.set(key, value);
    const store = createDeskStore({ id: ID, document: server.row.document, revision: server.row.revision });
    store.recoverDraft();
    expect(store.getState().document).toMatchObject({ notes: "since then", job: { feed_mm_s: 3.3 } });
    expect(store.getState().notice).toMatch(/Took up changes/);
    await settle();
    expect(server.row.document).toMatchObject({ notes: "since then", job: { feed_mm_s: 3.3 } });
  });

  it("the demo keeps nothing: changes live, but no save and no draft", async () => {
    const store = createDeskStore({ id: null, document: tom, revision: 0 });
    store.change(withFeed(tom, 4));
    await settle();
    expect(store.getState().save.kind).toBe("unkept");
    expect(server.saves).toBe(0);
    expect(stored.size).toBe(0);
  });

  it("a ready mark does not outlive the safety it was given for", () => {
    const ready: Design = { ...tom, ready: true };
    const store = createDeskStore({ id: ID, document: ready, revision: 1 });
    store.change({ ...ready, wiring: { isolation: "unknown" } });
    expect(store.getState().document.ready).toBeUndefined();
    expect(store.getState().notice).toMatch(/No longer marked ready/);
  });

  it("a clip moves along when its wire is made shorter than it", () => {
    const clipped: Design = { ...tom, control: { kind: "clip", live_mm: 1200 } };
    const store = createDeskStore({ id: ID, document: clipped, revision: 1 });
    store.change({ ...clipped, wire: { ...clipped.wire, length_mm: 1150 } });
    expect(store.getState().document.control).toEqual({ kind: "clip", live_mm: 1150 });
  });
});
