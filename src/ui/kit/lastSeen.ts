import type { Design } from "@/core/cutters/design/schema";
import type { PaceRow } from "@/core/pace/planPace";

/** What was last on the desk, and last called out: kept in this browser for when the workshop's computer does not answer. */
export interface LastSeen {
  cutter?: { id: string | null; design: Design; at: string };
  pace?: { name: string; face: string; rows: readonly PaceRow[]; parts: number };
}

const KEY = "upwind-last-seen";

export function lastSeen(): LastSeen {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as LastSeen;
  } catch {
    // No storage, or what lies there is not this program's.
    return {};
  }
}

/** Keeps what is seen now. */
export function seen(what: LastSeen): void {
  try {
    localStorage.setItem(KEY, JSON.stringify({ ...lastSeen(), ...what }));
  } catch {
    // Without storage there is nothing to show when the server is away: all else goes on.
  }
}
