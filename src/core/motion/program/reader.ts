import type { Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { carriageFaces } from "./carriages";
import { Interpreter } from "./interpreter";
import { programLines } from "./lines";
import type { Machine } from "./machine";

/** What a program does to the wire. */
export interface ReadProgram {
  /** ways at the block's faces, or of the carriages where nothing is said of a block */
  path: Point[];
  tip: Point[] | null;
  timesS: number[];
  /** whether the heat is on from each point to the next */
  hot: boolean[];
  /** how hot, as its S says: 0 while it is off */
  heat: number[];
  /** line of the program that leads to each point */
  lines: number[];
  /** the turntable's turns: before which point, and to how many degrees */
  turns: { index: number; deg: number }[];
  warnings: { code: string; message: string }[];
}

/** Longest program that is read. */
export const MOST_PROGRAM_CHARACTERS = 40_000_000;

/**
 * Reads a program of the published words and follows it: where the wire is led, when, with the heat on or off.
 * @throws CoreError with the line and the reason, for a word that is not read, a contradiction, a move without a feed, or a figure that is none
 */
export function readProgram(text: string, machine: Machine): ReadProgram {
  if (text.length > MOST_PROGRAM_CHARACTERS) throw new CoreError("out-of-range", "text", `text must be at most ${MOST_PROGRAM_CHARACTERS} characters`);
  const four = machine.axes.length === 4;
  const [near, far]: [Point[], Point[]] = [[], []];
  const timesS: number[] = [];
  const heat: number[] = [];
  const lines: number[] = [];
  const turns: ReadProgram["turns"] = [];
  const warnings: ReadProgram["warnings"] = [];
  const follows = new Interpreter(machine);
  let atS = 0;
  const note = (p: Point, q: Point, hot: number, line: number) => {
    lines.push(line);
    near.push(p);
    if (four) far.push(q);
    timesS.push(atS);
    heat.push(hot);
  };
  for (const [row, raw] of programLines(text).entries()) {
    const before = timesS.length === 0 ? ([follows.here(0), follows.here(2)] as const) : null;
    const { steps, turnDeg } = follows.take(raw, row + 1);
    if (turnDeg !== null) turns.push({ index: timesS.length, deg: turnDeg });
    const [first] = steps;
    if (first) {
      if (before && first.kind !== "rapid") note(...before, first.heat, row + 1);
      else if (first.kind === "rapid" && first.heat > 0 && timesS.length > 0)
        warnings.push({ code: "rapid-with-heat", message: `line ${row + 1}: a rapid move with the heat on: its time is not known` });
      if (timesS.length > 0) heat[heat.length - 1] = first.heat;
    }
    for (const step of steps) {
      atS += step.seconds;
      note(step.near, step.far, step.heat, row + 1);
    }
    if (follows.ended) break;
  }
  if (!follows.ended) warnings.push({ code: "no-end", message: "the program does not end: M2 is missing" });
  if (follows.on) warnings.push({ code: "heat-left-on", message: "the program leaves the heat on: M5 is missing" });
  const hot = heat.map((each) => each > 0);
  if (!four) return { path: near, tip: null, timesS, hot, heat, lines, turns, warnings };
  const { layout } = machine;
  const faces = layout ? carriageFaces(layout, near, far) : { root: near, tip: far };
  return { path: faces.root, tip: faces.tip, timesS, hot, heat, lines, turns, warnings };
}
