import type { Design } from "@/core/cutters/design/schema";

const key = (id: string) => `upwind-handover-${id}`;

interface Handover {
  design: Design;
  words: string;
}

/** Leaves a set-up for the desk of a cutter to take up when it opens, as a change that can be undone. */
export function leaveForDesk(id: string, handover: Handover): boolean {
  try {
    sessionStorage.setItem(key(id), JSON.stringify(handover));
    return true;
  } catch {
    // Private windows may refuse storage: the caller says so.
    return false;
  }
}

/** Takes up what was left for this desk, once. */
export function takeFromHandover(id: string): Handover | null {
  try {
    const text = sessionStorage.getItem(key(id));
    sessionStorage.removeItem(key(id));
    return text ? (JSON.parse(text) as Handover) : null;
  } catch {
    // As above: then nothing was left either.
    return null;
  }
}
