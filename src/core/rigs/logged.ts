import type { Design } from "../cutters/design/schema";
import type { LogEntry, TestCut } from "../log/entries";
import { testCut } from "../log/testCut";
import { around as aroundOf } from "./around";
import { type Rig, rigRecord } from "./kinds";
import { sliced } from "./kinds/sheet";

/** A cut on a rig as an entry of its cutter's log: the rig's own fields, in its own order; what was not filled in is left out. */
export function rigEntry(
  rig: Rig,
  name: string,
  given: Readonly<Record<string, number | undefined>>,
  note: string,
  at: string,
): Extract<LogEntry, { kind: "rig-cut" }> {
  const figures = rigRecord(rig.kind).logged.flatMap(({ key, label, quantity }) => {
    const value = given[key];
    return value === undefined ? [] : [{ key, label, ...(quantity ? { quantity } : {}), value }];
  });
  return { kind: "rig-cut", at, rig: rig.kind, name, figures, note };
}

/**
 * A stack of sheets as one more test cut of its cutter: the kerf computed from it teaches.
 * @returns null where the stack gives no kerf that such a wire leaves
 */
export function stackCut(rig: Rig, design: Design, stack: { sheets: number; mm: number; spacerMm?: number | undefined }, at: string): TestCut | null {
  if (rig.kind !== "sheet") return null;
  const around = aroundOf(design, null);
  const found = sliced({ ...rig, stack: stack.sheets, stack_mm: stack.mm }, around);
  const spacer = stack.spacerMm ?? found.spacerMm;
  const kerf = around.cut.wireMm + 2 * (spacer - stack.mm / stack.sheets);
  if (!(kerf > around.cut.wireMm)) return null;
  return testCut(design, around.cutter?.heatWPerM, {
    at,
    width_mm: rig.blockWide_mm,
    feed_mm_s: design.job.feed_mm_s,
    kerf_mm: Math.round(kerf * 1000) / 1000,
    face: "matt",
    note: `a stack of ${stack.sheets} sheets, ${stack.mm} mm`,
  });
}

const UNDER_WAY = ": under way, last heard of at ";

const ENDED_EARLY = /: (stopped by hand|is in a fault|cut off) at line [1-9]|: refused: /;

/** Ends the note of a run that ended early, once somebody has said so. */
export const WIRE_IS_OUT = "; the wire is out";

/** What a frame's newest entry says of a run that did not come to its end, such as one whose computer died: the wire may be in the foam; null where it did, or somebody has said that the wire is out. @param entries newest first */
export function brokenOffNote(entries: readonly LogEntry[], name: string): string | null {
  const last = entries.find((entry) => entry.kind === "rig-cut" && entry.rig === "frame" && entry.name === name.slice(0, 80));
  if (!last || last.note.endsWith(WIRE_IS_OUT)) return null;
  return last.note.includes(UNDER_WAY) || ENDED_EARLY.test(last.note) ? last.note : null;
}

/** What was done of a program on a frame, as an entry of its cutter's log: written when it begins, and again as it goes on, so that it is true whenever it ends. */
export function runEntry(
  name: string,
  program: string,
  done: { phase: string; reason: string; line: number; lines: number; seconds: number; hotSeconds: number },
  at: string,
  nowAt: string,
): Extract<LogEntry, { kind: "rig-cut" }> {
  const clock = nowAt.slice(11, 19);
  const ended: Readonly<Record<string, string>> = {
    done: "done to its end",
    stopped: `stopped by hand at line ${done.line}`,
    refused: `refused: ${done.reason}`,
    fault: `is in a fault at line ${done.line}: ${done.reason}`,
    lost: `cut off at line ${done.line}: ${done.reason}`,
  };
  const figure = (key: string, label: string, value: number) => ({ key, label, value: Math.round(value * 10) / 10 });
  return {
    kind: "rig-cut",
    at,
    rig: "frame",
    name: name.slice(0, 80),
    figures: [
      figure("lines", "Lines done", done.line),
      figure("of", "of the program's", done.lines),
      figure("seconds", "Time, s", done.seconds),
      figure("hot", "with the heat on, s", done.hotSeconds),
    ],
    note: `${program}${ended[done.phase] ? `: ${ended[done.phase]}` : `${UNDER_WAY}${clock} UTC`}`.slice(0, 500),
  };
}
