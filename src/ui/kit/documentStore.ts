import { createStore } from "zustand/vanilla";
import type { AnyDocument, DocumentRecord, StoredDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import type { Merge } from "@/core/kernel/merge";
import { ApiError } from "./api";
import { gestureHeld } from "./gesture";

/** What the store needs of a kind's record. */
export type StoreRecord<T extends AnyDocument> = Pick<DocumentRecord<T>, "id" | "merger" | "normalise">;

/** The server's routes that the store calls. A stale save is refused with the current row in `ApiError.current`. */
export interface StoreClient<T> {
  get: (id: string) => Promise<StoredDocument<T>>;
  save: (id: string, revision: number, document: T, keepalive: boolean) => Promise<StoredDocument<T>>;
  create: (document: T) => Promise<unknown>;
}

export type SaveState =
  | { kind: "saved"; at: string | null }
  | { kind: "changed" }
  | { kind: "saving" }
  | { kind: "failed"; message: string }
  /** The demo: nothing is stored. */
  | { kind: "unkept" };

/** Two tabs changed the same part: the maker must choose. */
export interface Conflict<T> extends Merge<T> {
  current: StoredDocument<T>;
}

export interface DocumentState<T> {
  id: string | null;
  document: T;
  /** What the server had when this tab last agreed with it. */
  base: T;
  revision: number;
  past: T[];
  future: T[];
  save: SaveState;
  conflict: Conflict<T> | null;
  /** Says what happened automatically, such as a merge. */
  notice: string | null;
}

/** The document that a page opens; without an id nothing is saved. */
export type DocumentStart<T> = Pick<StoredDocument<T>, "document" | "revision"> & { id: string | null; updatedAt?: string };

const SAVE_AFTER_MS = 350;
const RETRY_AFTER_MS = 3000;
const MOST_UNDO = 200;
/** Changes of one part closer together than this undo as one. */
const COALESCE_MS = 900;

interface Draft<T> {
  base: T;
  document: T;
  revision: number;
}

/** Drafts of cutters have an older name, so that one written before an update is found after it. */
const draftKey = (kind: DocumentId, id: string) => `upwind-${kind === "cutters" ? "draft" : DOCUMENT_NAMES[kind].one}-${id}`;

function readDraft<T>(kind: DocumentId, id: string): Draft<T> | null {
  try {
    const text = localStorage.getItem(draftKey(kind, id));
    if (!text) return null;
    // Drafts of the version before called what they hold a design.
    const { design, ...draft } = JSON.parse(text) as Draft<T> & { design?: T };
    return design === undefined ? draft : { ...draft, document: design };
  } catch {
    // Private windows may refuse storage; the server still has all that was acknowledged.
    return null;
  }
}

function writeDraft<T>(kind: DocumentId, id: string, draft: Draft<T> | null): void {
  try {
    if (draft) localStorage.setItem(draftKey(kind, id), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(kind, id));
  } catch {
    // As above: without storage the draft is lost only if the tab dies before the save.
  }
}

/** An open document: edits, undo, autosave with revisions, and the meeting of two tabs. */
export function createDocumentStore<T extends AnyDocument>(
  { id: kind, merger, normalise }: StoreRecord<T>,
  client: StoreClient<T>,
  start: DocumentStart<T>,
  gesture: () => number | null = gestureHeld,
) {
  const store = createStore<DocumentState<T>>(() => ({
    id: start.id,
    document: start.document,
    base: start.document,
    revision: start.revision,
    past: [],
    future: [],
    save: start.id ? { kind: "saved", at: start.updatedAt ?? null } : { kind: "unkept" },
    conflict: null,
    notice: null,
  }));
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** The save that is on its way. */
  let running: Promise<void> | null = null;
  const underWay = (): Promise<void> | null => running;
  /** Saves that no answer came to: each may be on the server or not. */
  let unanswered: T[] = [];
  let lastKey: string | undefined;
  let lastAt = 0;
  let lastGesture: number | null = null;

  const schedule = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), ms);
  };

  function setDocument(wanted: T, rest: Partial<DocumentState<T>> = {}): void {
    const { document, notice } = normalise?.(wanted) ?? { document: wanted };
    const { id, base, revision } = store.getState();
    store.setState({
      document,
      ...rest,
      ...(notice === undefined ? {} : { notice }),
      ...(id ? { save: { kind: "changed" as const } } : {}),
    });
    if (!id) return;
    writeDraft(kind, id, { base, document, revision });
    schedule(SAVE_AFTER_MS);
  }

  /**
   * Changes the document.
   * @param key names the part; quick changes of one part undo as one, and so do all of one drag
   */
  function change(next: T | ((document: T) => T), key?: string): void {
    const { document, past } = store.getState();
    const changed = typeof next === "function" ? (next as (document: T) => T)(document) : next;
    if (merger.same(document, changed)) return;
    const now = Date.now();
    const held = gesture();
    const joins = key !== undefined && key === lastKey && (now - lastAt < COALESCE_MS || (held !== null && held === lastGesture));
    lastKey = key;
    lastAt = now;
    lastGesture = held;
    setDocument(changed, { past: joins ? past : [...past, document].slice(-MOST_UNDO), future: [], notice: null });
  }

  function undo(): void {
    const { past, future, document } = store.getState();
    const previous = past.at(-1);
    if (!previous) return;
    lastKey = undefined;
    setDocument(previous, { past: past.slice(0, -1), future: [document, ...future] });
  }

  function redo(): void {
    const { past, future, document } = store.getState();
    const next = future[0];
    if (!next) return;
    lastKey = undefined;
    setDocument(next, { past: [...past, document], future: future.slice(1) });
  }

  /** Steps back and forth of this page, with what others changed since: undone is what was done here, and nothing of theirs. */
  const withTheirs = (from: T, current: T): Pick<DocumentState<T>, "past" | "future"> => {
    const { past, future } = store.getState();
    const moved = merger.rebase(from, current);
    return { past: past.map(moved), future: future.map(moved) };
  };

  function reconcile(current: StoredDocument<T>): void {
    const { base, document } = store.getState();
    // What is there may be this page's own save whose answer was lost, or be made of it: it is where all that it changed is there too. That is nobody else's change.
    const landed = unanswered.findLast((sent) => {
      const { clashes, merged } = merger.merge(base, sent, current.document);
      return clashes.length === 0 && merger.same(merged, current.document);
    });
    const from = landed ?? base;
    const merge = merger.merge(from, document, current.document);
    unanswered = [];
    if (merge.clashes.length > 0) {
      store.setState({ conflict: { ...merge, current } });
      return;
    }
    store.setState({
      base: current.document,
      revision: current.revision,
      ...(merge.theirs.length > 0
        ? {
            ...withTheirs(from, current.document),
            notice: `Joined with a change ${current.changedBy ? `by ${current.changedBy}` : "made in another tab"}: ${merge.theirs.join(", ")}.`,
          }
        : {}),
    });
    setDocument(merge.merged);
  }

  /** Ends a conflict with my values, theirs, or theirs here and mine kept as one of its own. */
  async function resolve(choice: "mine" | "theirs" | "both"): Promise<void> {
    const { conflict, document, base } = store.getState();
    if (!conflict) return;
    if (choice === "both") {
      try {
        await client.create({ ...document, name: `${document.name.slice(0, 66)}, my version` });
      } catch (error) {
        store.setState({ save: { kind: "failed", message: (error as Error).message } });
        return;
      }
    }
    store.setState({
      conflict: null,
      ...withTheirs(base, conflict.current.document),
      base: conflict.current.document,
      revision: conflict.current.revision,
      notice: choice === "both" ? "Your version is in the list as one of its own." : null,
    });
    setDocument(choice === "mine" ? conflict.withMine : conflict.merged);
  }

  async function flush(keepalive = false): Promise<void> {
    clearTimeout(timer);
    const { id, document, base, revision, conflict } = store.getState();
    if (!id || conflict) return;
    if (running) {
      // The caller wants the server's state now, not that of an earlier request. The caller that began that save gets its error.
      await running.catch(() => undefined);
      return flush(keepalive);
    }
    if (merger.same(document, base)) {
      writeDraft(kind, id, null);
      store.setState((state) => (state.save.kind === "saved" ? state : { save: { kind: "saved", at: new Date().toISOString() } }));
      return;
    }
    running = send(id, revision, document, keepalive);
    try {
      await running;
    } finally {
      running = null;
    }
  }

  async function send(id: string, revision: number, document: T, keepalive: boolean): Promise<void> {
    store.setState({ save: { kind: "saving" } });
    try {
      const saved = await client.save(id, revision, document, keepalive);
      unanswered = [];
      const unchanged = merger.same(store.getState().document, document);
      store.setState({ base: document, revision: saved.revision, save: unchanged ? { kind: "saved", at: saved.updatedAt } : { kind: "changed" } });
      if (unchanged) writeDraft(kind, id, null);
      else schedule(SAVE_AFTER_MS);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.code === "stale-revision" && error.current) reconcile(error.current as StoredDocument<T>);
      else {
        store.setState({ save: { kind: "failed", message: error.message } });
        // Anyone who may only look tries things out: nothing of that is a draft to be taken up later.
        if (error.code === "role") writeDraft(kind, id, null);
        if (error.status === 0 || error.status >= 500) {
          unanswered.push(document);
          schedule(RETRY_AFTER_MS);
        }
      }
    }
  }

  /** Takes up what a tab that died had not yet saved. */
  function recoverDraft(): void {
    const { id, document } = store.getState();
    const draft = id ? readDraft<T>(kind, id) : null;
    if (!draft || merger.same(draft.document, document)) return;
    const merge = merger.merge(draft.base, draft.document, document);
    store.setState({ notice: "Took up changes that were not yet saved when this page closed." });
    setDocument(merge.withMine, { past: [document] });
  }

  /** Looks whether another tab saved since; called when this one comes back to the front. */
  async function refresh(): Promise<void> {
    const { id, conflict } = store.getState();
    if (!id || conflict || running) return;
    try {
      const current = await client.get(id);
      // Looks may overtake each other, and a save may have begun meanwhile: what counts is what this page has once this one has come.
      for (let save = underWay(); save; save = underWay()) await save.catch(() => undefined);
      const now = store.getState();
      if (current.revision > now.revision && !now.conflict) reconcile(current);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ save: { kind: "failed", message: error.message } });
    }
  }

  /** Somebody saved this document, perhaps this page itself: looked at once what is on its way has come. */
  async function onRemoteChange(id: string, revision: number | null | undefined): Promise<void> {
    if (id !== store.getState().id) return;
    await running?.catch(() => undefined);
    if (revision === null || revision === undefined || revision > store.getState().revision) await refresh();
  }

  return { ...store, kind, change, undo, redo, flush, resolve, recoverDraft, refresh, onRemoteChange };
}
export type DocumentStore<T extends AnyDocument> = ReturnType<typeof createDocumentStore<T>>;
