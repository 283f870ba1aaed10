import type { LogEntry } from "./entries";

/** What a cutter took from one spool, and how its wires lasted. */
export interface SpoolUse {
  spool: string;
  changes: number;
  usedM: number;
  broke: number;
  /** Way cut and time hot while its wires were on, as far as runs say. */
  cutM: number;
  hotMin: number;
}

/** Use by spool, in the order first used. Runs count for the wire that was on at the time. */
export function spoolUse(entries: readonly LogEntry[]): SpoolUse[] {
  const uses = new Map<string, SpoolUse>();
  let current: SpoolUse | null = null;
  for (const entry of [...entries].sort((a, b) => (a.at < b.at ? -1 : 1))) {
    if (entry.kind === "wire-change") {
      // A break ends the wire that was on, not the one put on.
      if (entry.why === "broke" && current) current.broke += 1;
      const name = entry.spool ?? "no spool named";
      current = uses.get(name) ?? { spool: name, changes: 0, usedM: 0, broke: 0, cutM: 0, hotMin: 0 };
      uses.set(name, current);
      current.changes += 1;
      current.usedM += entry.cut_mm / 1000;
    } else if (entry.kind === "run" && current) {
      current.cutM += entry.cut_m ?? 0;
      current.hotMin += entry.hot_min ?? 0;
    }
  }
  return [...uses.values()];
}
