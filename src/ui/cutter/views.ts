import { slugOf } from "../kit/slug";

/** What fills the room below the rod, by its word in the address; the desk itself has none. */
export const DESK_VIEWS = ["tension", "bench", "wiring", "sheet", "log", "setups"] as const;
/** What each view is called. */
export const DESK_VIEW_WORDS: Readonly<Record<(typeof DESK_VIEWS)[number], string>> = {
  tension: "Tension",
  bench: "Bench",
  wiring: "Wiring",
  sheet: "Build sheet",
  log: "Log",
  setups: "Set-ups",
};
export type DeskView = "desk" | (typeof DESK_VIEWS)[number];

export const TENSION_TABS = ["Pull", "Stiffness", "Frame", "Tuner", "Ends", "Checks"] as const;
export const BENCH_TABS = ["Cut", "Lessons", "Instruments"] as const;
export const LOG_TABS = ["Test cut", "Calibration", "Setting card", "Logbook"] as const;

const TABS: Partial<Record<string, readonly string[]>> = { tension: TENSION_TABS, bench: BENCH_TABS, log: LOG_TABS };

/** Whether an address's words after the cutter lead anywhere. */
export function isPlace(place: readonly string[]): boolean {
  const [view, tab, ...more] = place;
  if (view === undefined) return true;
  if (more.length > 0 || !(DESK_VIEWS as readonly string[]).includes(view)) return false;
  return tab === undefined || (TABS[view] ?? []).some((name) => slugOf(name) === tab);
}
