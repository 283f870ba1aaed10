import { createStore } from "zustand/vanilla";
import { type Merge, mergeDesigns, sameDesign } from "@/core/cutters/design/merge";
import type { Design } from "@/core/cutters/design/schema";
import { keepValid } from "@/core/cutters/solve/evaluate";
import { isBlocked } from "@/core/cutters/solve/readiness";
import { ApiError, api, type CutterRow } from "../../kit/api";

export type SaveState =
  | { kind: "saved"; at: string | null }
  | { kind: "changed" }
  | { kind: "saving" }
  | { kind: "failed"; message: string }
  /** The demo: nothing is kept. */
  | { kind: "unkept" };

/** Two tabs changed the same part: waiting for the maker's word. */
export interface Conflict extends Merge {
  current: CutterRow;
}

export interface DeskState {
  id: string | null;
  design: Design;
  /** What the server had when this tab last agreed with it. */
  base: Design;
  revision: number;
  past: Design[];
  future: Design[];
  save: SaveState;
  conflict: Conflict | null;
  /** Words about something that happened by itself, such as a merge. */
  notice: string | null;
}

export interface DeskStart {
  id: string | null;
  design: Design;
  revision: number;
  updatedAt?: string;
}

const SAVE_AFTER_MS = 350;
const RETRY_AFTER_MS = 3000;
const MOST_UNDO = 200;
/** Changes of one part closer together than this undo as one. */
const COALESCE_MS = 900;

interface Draft {
  base: Design;
  design: Design;
  revision: number;
}

const draftKey = (id: string) => `upwind-draft-${id}`;

function readDraft(id: string): Draft | null {
  try {
    const text = localStorage.getItem(draftKey(id));
    return text ? (JSON.parse(text) as Draft) : null;
  } catch {
    // Private windows may refuse storage; the server still has all that was acknowledged.
    return null;
  }
}

function writeDraft(id: string, draft: Draft | null): void {
  try {
    if (draft) localStorage.setItem(draftKey(id), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(id));
  } catch {
    // As above: without storage the draft is lost only if the tab dies before the save.
  }
}

/** The open design: edits, undo, autosave with revisions, and the meeting of two tabs. */
export function createDeskStore(start: DeskStart) {
  const store = createStore<DeskState>(() => ({
    id: start.id,
    design: start.design,
    base: start.design,
    revision: start.revision,
    past: [],
    future: [],
    save: start.id ? { kind: "saved", at: start.updatedAt ?? null } : { kind: "unkept" },
    conflict: null,
    notice: null,
  }));
  let timer: ReturnType<typeof setTimeout> | undefined;
  let inFlight = false;
  let lastKey: string | undefined;
  let lastAt = 0;

  const schedule = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), ms);
  };

  function put(wished: Design, rest: Partial<DeskState> = {}): void {
    const valid = keepValid(wished);
    // A ready mark does not outlive the safety it was given for.
    const unmarked = valid.ready === true && isBlocked(valid);
    const design = unmarked ? { ...valid, ready: undefined } : valid;
    const { id, base, revision } = store.getState();
    store.setState({
      design,
      ...rest,
      ...(unmarked ? { notice: "No longer marked ready: this change brings a hazard." } : {}),
      ...(id ? { save: { kind: "changed" as const } } : {}),
    });
    if (!id) return;
    writeDraft(id, { base, design, revision });
    schedule(SAVE_AFTER_MS);
  }

  /**
   * Changes the design.
   * @param key names the part; quick changes of one part undo as one
   */
  function change(next: Design | ((design: Design) => Design), key?: string): void {
    const { design, past } = store.getState();
    const changed = typeof next === "function" ? next(design) : next;
    if (sameDesign(design, changed)) return;
    const now = Date.now();
    const joins = key !== undefined && key === lastKey && now - lastAt < COALESCE_MS;
    lastKey = key;
    lastAt = now;
    put(changed, { past: joins ? past : [...past, design].slice(-MOST_UNDO), future: [], notice: null });
  }

  function undo(): void {
    const { past, future, design } = store.getState();
    const previous = past.at(-1);
    if (!previous) return;
    lastKey = undefined;
    put(previous, { past: past.slice(0, -1), future: [design, ...future] });
  }

  function redo(): void {
    const { past, future, design } = store.getState();
    const next = future[0];
    if (!next) return;
    lastKey = undefined;
    put(next, { past: [...past, design], future: future.slice(1) });
  }

  function meet(current: CutterRow): void {
    const { base, design } = store.getState();
    const merge = mergeDesigns(base, design, current.design);
    if (merge.clashes.length > 0) {
      store.setState({ conflict: { ...merge, current } });
      return;
    }
    store.setState({ base: current.design, revision: current.revision, notice: `Joined with a change made in another tab: ${merge.theirs.join(", ")}.` });
    put(merge.merged);
  }

  /** Ends a conflict with my values, theirs, or theirs here and mine kept as a cutter of its own. */
  async function resolve(choice: "mine" | "theirs" | "both"): Promise<void> {
    const { conflict, design } = store.getState();
    if (!conflict) return;
    if (choice === "both") {
      try {
        await api.create({ ...design, name: `${design.name.slice(0, 66)}, my version` });
      } catch (error) {
        store.setState({ save: { kind: "failed", message: (error as Error).message } });
        return;
      }
    }
    store.setState({
      conflict: null,
      base: conflict.current.design,
      revision: conflict.current.revision,
      notice: choice === "both" ? "Your version stands in the list as its own cutter." : null,
    });
    put(choice === "mine" ? conflict.withMine : conflict.merged);
  }

  async function flush(keepalive = false): Promise<void> {
    clearTimeout(timer);
    const { id, design, base, revision, conflict } = store.getState();
    if (!id || conflict) return;
    if (inFlight) {
      schedule(SAVE_AFTER_MS);
      return;
    }
    if (sameDesign(design, base)) {
      writeDraft(id, null);
      store.setState((state) => (state.save.kind === "saved" ? state : { save: { kind: "saved", at: new Date().toISOString() } }));
      return;
    }
    inFlight = true;
    store.setState({ save: { kind: "saving" } });
    try {
      const saved = await api.save(id, revision, design, keepalive);
      const unchanged = sameDesign(store.getState().design, design);
      store.setState({ base: design, revision: saved.revision, save: unchanged ? { kind: "saved", at: saved.updatedAt } : { kind: "changed" } });
      if (unchanged) writeDraft(id, null);
      else schedule(SAVE_AFTER_MS);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      if (error.code === "stale-revision" && error.current) meet(error.current as CutterRow);
      else {
        store.setState({ save: { kind: "failed", message: error.message } });
        if (error.status === 0 || error.status >= 500) schedule(RETRY_AFTER_MS);
      }
    } finally {
      inFlight = false;
    }
  }

  /** Takes up what a tab that died had not yet saved. */
  function recoverDraft(): void {
    const { id, design } = store.getState();
    const draft = id ? readDraft(id) : null;
    if (!draft || sameDesign(draft.design, design)) return;
    const merge = mergeDesigns(draft.base, draft.design, design);
    store.setState({ notice: "Took up changes that were not yet saved when this page closed." });
    put(merge.withMine, { past: [design] });
  }

  /** Looks whether another tab saved since; called when this one comes back to the front. */
  async function refresh(): Promise<void> {
    const { id, revision, conflict } = store.getState();
    if (!id || conflict || inFlight) return;
    try {
      const current = await api.get(id);
      if (current.revision > revision && !store.getState().conflict && store.getState().revision === revision) meet(current);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ save: { kind: "failed", message: error.message } });
    }
  }

  return { ...store, change, undo, redo, flush, resolve, recoverDraft, refresh };
}

export type DeskStore = ReturnType<typeof createDeskStore>;
