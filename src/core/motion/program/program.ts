import { distance, type Line, type Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { WRITTEN_BY } from "../../kernel/version";
import { arcFrom } from "../path/arcs";
import { carriagesOf, requireTravel } from "./carriages";
import { FULL_HEAT, type Machine } from "./machine";

export const PROGRAM: Relation = {
  id: "program",
  title: "Words of a program",
  formula: "G21 G90 G17; G94 F mm/min for two axes, G93 F = 1/minutes on every move for four; G4 P seconds; M3 S, M5 heat; M2 end",
  words: "One statement a line, comments in brackets: every word is one of the published ones, and the axes have the letters that are chosen.",
  range: "straight moves; no rapid move while the wire is in foam",
  basis: "published",
  source: "NIST IR 6556, The NIST RS274NGC Interpreter, version 3 (2000)",
};

/** How a program is written down. */
export interface ProgramStyle {
  /** S of each move and wait, one fewer than the points; full heat without */
  heat?: readonly number[] | undefined;
  /** of a place, mm */
  decimals?: number | undefined;
  /** runs of moves on one circle become arcs, where two axes lead */
  arcs?: boolean | undefined;
  /** characters of a line: longer comments are cut off, and a move that would be longer is refused */
  longest?: number | undefined;
}

/** An arc leaves the points it represents by no more than this, mm. */
const ARC_MM = 0.012;
/** Feeds that differ by less than this share are one. */
const SAME_FEED = 0.002;

/** Decimals of a place, mm. */
const DECIMALS = 4;
const number = (value: number, decimals = DECIMALS): string => {
  const fixed = value.toFixed(decimals);
  const text = fixed.includes(".") ? fixed.replace(/\.?0+$/, "") : fixed;
  return text === "-0" || text === "" ? "0" : text;
};
/** A figure that must hold over many moves: nine digits, never in powers of ten. */
const exact = (value: number): string => {
  const digits = Math.max(0, Math.min(12, 8 - Math.floor(Math.log10(Math.max(1e-9, Math.abs(value))))));
  return number(value, digits);
};

/** Brackets would end a comment early. */
const comment = (words: string): string => `(${words.replaceAll(/[()\r\n]/g, " ")})`;

/**
 * A program that leads the wire along ways at the block's faces.
 * @param timesS when each point is passed, not decreasing; equal points are a wait
 * @param warmUpS with the heat on before the first move
 * @returns its text, and the time of all its moves and waits together, s
 * @throws CoreError where two axes are to lead two different ways, where time does not move on a move, or where a way leaves its travel
 */
export function writeProgram(
  machine: Machine,
  root: Line,
  tip: Line | null,
  timesS: readonly number[],
  warmUpS = 0,
  title = "a cut",
  { heat, decimals = DECIMALS, arcs = false, longest = Number.POSITIVE_INFINITY }: ProgramStyle = {},
): { text: string; timeS: number } {
  const { axes, layout, turn } = machine;
  const four = axes.length === 4;
  const far = tip ?? root;
  const differ = far.findIndex((point, i) => Math.hypot(point[0] - (root[i] as Point)[0], point[1] - (root[i] as Point)[1]) > 1e-9);
  if (!four && differ >= 0)
    throw new CoreError("no-solution", "tipPath_mm", `two axes lead both ends alike: a tip of its own (from point ${differ} on) takes four`);
  const { left, right } = layout ? carriagesOf(layout, root, far) : { left: [...root], right: [...far] };
  const [x, y, u, v] = axes as [string, string, string, string];
  if (machine.travelMm)
    requireTravel(
      [
        { name: four ? "near carriage" : "carriage", axes: [x, y], line: left },
        ...(four ? [{ name: "far carriage", axes: [u, v] as [string, string], line: right }] : []),
      ],
      machine.travelMm,
    );
  // As they are written, so that a reader's moves are as long as the feeds say.
  const written = (line: Line): Point[] => line.map(([px, py]) => [Number(px.toFixed(decimals)), Number(py.toFixed(decimals))]);
  const [near, beyond] = [written(left), written(right)];
  const place = (i: number): string => {
    const [p, q] = [left[i] as Point, right[i] as Point];
    return `${x}${number(p[0], decimals)} ${y}${number(p[1], decimals)}${four ? ` ${u}${number(q[0], decimals)} ${v}${number(q[1], decimals)}` : ""}`;
  };
  const lines = [comment(`${title}, ${WRITTEN_BY}`), comment("heat off, the wire away from the part"), "G21", "G90", "G17", four ? "G93" : "G94", "M5"];
  const feedOf = (i: number) => distance(near[i] as Point, near[i - 1] as Point) / ((timesS[i] as number) - (timesS[i - 1] as number));
  /** Last point that is led to at the feed and the heat of one, without a wait between. */
  const alike = (from: number): number => {
    let i = from;
    while (
      i + 1 < near.length &&
      Math.abs(feedOf(i + 1) / feedOf(from) - 1) < SAME_FEED &&
      Math.round(heat?.[i] ?? FULL_HEAT) === Math.round(heat?.[from - 1] ?? FULL_HEAT)
    )
      i += 1;
    return i;
  };
  let timeS = 0;
  const dwell = (seconds: number) => {
    lines.push(`G4 P${exact(seconds)}`);
    timeS += seconds;
  };
  for (let pass = 0; pass < (turn?.passes ?? 1); pass++) {
    if (turn) {
      lines.push(comment(`pass ${pass + 1} of ${turn.passes}`));
      lines.push(`G0 ${turn.axis}${number(turn.deg * pass)}`);
    }
    let hot = heat?.[0] ?? FULL_HEAT;
    lines.push(`G0 ${place(0)}`, `M3 S${number(hot, 0)}`);
    if (warmUpS > 0) dwell(warmUpS);
    for (let i = 1; i < root.length; i++) {
      const seconds = (timesS[i] as number) - (timesS[i - 1] as number);
      const wanted = heat?.[i - 1] ?? FULL_HEAT;
      if (Math.round(wanted) !== Math.round(hot)) {
        hot = wanted;
        lines.push(`M3 S${number(hot, 0)}`);
      }
      const own = distance(near[i] as Point, near[i - 1] as Point);
      const moved = four ? Math.max(own, distance(beyond[i] as Point, beyond[i - 1] as Point)) : own;
      if (moved === 0) {
        if (seconds > 0) dwell(seconds);
        continue;
      }
      if (!(seconds > 0)) throw new CoreError("out-of-range", `times_s.${i}`, `times_s.${i} must be later than the time before it: the wire moves there`);
      const arc = arcs && !four ? arcFrom(near, i - 1, alike(i), ARC_MM) : null;
      if (arc) {
        const whole = (timesS[arc.to] as number) - (timesS[i - 1] as number);
        const [cx, cy] = [arc.centre[0] - (near[i - 1] as Point)[0], arc.centre[1] - (near[i - 1] as Point)[1]];
        lines.push(`G${arc.clockwise ? 2 : 3} ${place(arc.to)} I${number(cx, 5)} J${number(cy, 5)} F${exact((60 * arc.lengthMm) / whole)}`);
        timeS += whole;
        i = arc.to;
        continue;
      }
      // Four axes: one over the minutes of the move. Two: millimetres a minute of the carriages' own way.
      lines.push(`G1 ${place(i)} F${exact(four ? 60 / seconds : (60 * moved) / seconds)}`);
      timeS += seconds;
    }
    lines.push("M5");
  }
  lines.push("M2");
  for (const [i, line] of lines.entries()) {
    if (line.length <= longest) continue;
    if (!line.startsWith("("))
      throw new CoreError(
        "out-of-range",
        "longest",
        `line ${i + 1} of the program has ${line.length} characters: longest must be at least that, or fewer decimals`,
      );
    lines[i] = `${line.slice(0, longest - 1)})`;
  }
  return { text: `${lines.join("\n")}\n`, timeS };
}
