import { boundsOf, counterClockwise, type Outline, type Point, signedArea, withoutDoubles } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { type ImportWarning, requireShort } from "./imported";

/** A section read from text, in the file's own numbers. */
export interface ReadSection {
  title: string | null;
  outline: Outline;
  notes: string[];
  warnings: ImportWarning[];
}

const NUMBER = /^[-+]?(?:\d+\.?\d*|\.\d+)(?:[eEdD][-+]?\d+)?$/;
const COMMA_NUMBER = /^[-+]?(?:\d+,\d*|,\d+|\d+)(?:[eEdD][-+]?\d+)?$/;
const MOST_POINTS = 100_000;
/** A step along the chord longer than this share of it is where a new face begins. */
const LEAP = 0.6;

/** Numbers at a line's start, or null where it begins with anything else. Exponents may be Fortran's (1.0D-3). */
function numbersOf(line: string, decimalComma: boolean): number[] | null {
  const words = line
    .trim()
    .split(decimalComma ? /[\s;]+/ : /[\s,;]+/)
    .filter(Boolean);
  const end = words.findIndex((word) => !(decimalComma ? COMMA_NUMBER : NUMBER).test(word));
  const found = (end < 0 ? words : words.slice(0, end)).map((word) => Number(word.replace(",", ".").replace(/d/i, "e")));
  return found.length > 0 && found.every(Number.isFinite) ? found : null;
}

/** Whether a file's commas represent decimal points: no line has a point in a number, and lines split at blanks, tabs or semicolons are pairs of numbers with commas. */
function hasDecimalCommas(lines: readonly string[]): boolean {
  let pairs = 0;
  for (const line of lines) {
    if (/\d\.\d|\.\d/.test(line)) return false;
    const words = line
      .trim()
      .split(/[\s;]+/)
      .filter(Boolean);
    if (words.length >= 2 && words.every((word) => COMMA_NUMBER.test(word)) && words.some((word) => /,\d/.test(word))) pairs += 1;
  }
  return pairs > 0;
}

/** Rows of numbers that begin with their own number, 1, 2, 3 ... or 0, 1, 2 ..., without it. */
function withoutIndex(blocks: number[][][]): { blocks: number[][][]; removed: boolean } {
  const rows = blocks.flat();
  const first = rows[0]?.[0];
  const isIndex =
    rows.length >= 3 &&
    (first === 0 || first === 1) &&
    rows.every((row) => row.length >= 3) &&
    blocks.every((block) => block.every((row, i) => row[0] === (block[0]?.[0] as number) + i && Number.isInteger(row[0])));
  return isIndex ? { blocks: blocks.map((block) => block.map((row) => row.slice(1))), removed: true } : { blocks, removed: false };
}

/**
 * Section coordinates as text: x and y a line, in either of the common orders (once round from the tail, or two faces, each from the nose or each from the tail),
 * with or without a title (which may be a number), an index column or counts; comments after #, ! or a semicolon at a line's start; decimal points or commas; per cent or shares of the chord.
 * @throws CoreError `wrong-format` where there is no section in it
 */
export function readCoordinates(text: string): ReadSection {
  requireShort(text);
  const notes: string[] = [];
  const warnings: ImportWarning[] = [];
  const lines = text
    .replace(/^\uFEFF/, "")
    .split(/\r\n|[\r\n]/)
    .map((raw) => raw.replace(/[#!].*$/, "").replace(/^\s*;.*$/, ""));
  const decimalComma = hasDecimalCommas(lines);
  if (decimalComma) notes.push("read with decimal commas");
  let title: string | null = null;
  let rows: number[][][] = [[]];
  let [refused, used] = [0, 0];
  for (const line of lines) {
    if (line.trim() === "") {
      if ((rows.at(-1)?.length ?? 0) > 0) rows.push([]);
      continue;
    }
    const row = numbersOf(line, decimalComma);
    if (row && row.length >= 2) {
      (rows.at(-1) as number[][]).push(row);
      used += 1;
      if (used > MOST_POINTS) throw new CoreError("out-of-range", "text", `a section has at most ${MOST_POINTS} points`);
    } else if (used === 0 && title === null) title = line.trim().slice(0, 80);
    else refused += 1;
  }
  rows = rows.filter((block) => block.length > 0);
  if (refused > 0)
    warnings.push({
      code: "unread",
      message: `${refused} line${refused === 1 ? "" : "s"} without two numbers: not read`,
      share: refused / (refused + used),
    });
  // A first row far outside of all others is a title made of numbers, unless it counts the points of each face.
  const [head, ...others] = rows.flat();
  const counts =
    head && [head[0], head[1]].every((n) => Number.isInteger(n) && (n as number) > 1) && (head[0] as number) + (head[1] as number) === others.length;
  if (head && !counts && title === null && others.length >= 3 && isFarOutside(head, others)) {
    title = head.join(" ");
    rows = rows.map((block, i) => (i === 0 ? block.slice(1) : block)).filter((block) => block.length > 0);
  }
  const { blocks: plain, removed } = withoutIndex(counts ? [others] : rows);
  if (removed) notes.push("read without its first column, which numbers the rows");
  const blocks = plain.map((block) => block.map(([x, y]): Point => [x as number, y as number]));
  const points = blocks.flat();
  const first = counts ? (head?.[0] as number) : 0;
  const { loop, faces } = counts ? { loop: twoFaces([points.slice(0, first), points.slice(first)]), faces: 2 } : bestLoop(blocks, points);
  if (counts) notes.push(`read as two faces of ${head?.[0]} and ${head?.[1]} points`);
  else if (faces === 2) notes.push("read as two faces");
  const clean = withoutDoubles(loop);
  if (clean.length < loop.length) notes.push(`dropped: ${loop.length - clean.length} points drawn twice`);
  if (clean.length < 3 || Math.abs(signedArea(clean)) === 0)
    throw new CoreError("wrong-format", "text", "there is no section in this text: it needs at least three pairs of numbers that enclose something");
  return { title, outline: counterClockwise(clean), notes, warnings };
}

/** Whether a row lies more than ten times the others' extent away from them. */
function isFarOutside([x = 0, y = 0]: readonly number[], others: readonly (readonly number[])[]): boolean {
  const { minX, maxX, minY, maxY } = boundsOf(others.map(([a = 0, b = 0]): Point => [a, b]));
  const extent = Math.max(maxX - minX, maxY - minY);
  return Math.hypot(Math.max(0, minX - x, x - maxX), Math.max(0, minY - y, y - maxY)) > 10 * extent;
}

/** Points as one line round, or as two faces: whichever encloses more. A wrong order runs through the section and encloses less. */
function bestLoop(blocks: readonly Point[][], points: Point[]): { loop: Point[]; faces: 1 | 2 } {
  const { minX, maxX } = boundsOf(points);
  const splits = points.flatMap((point, i) => {
    const leaps = i > 1 && i < points.length - 1 && Math.abs((points[i - 1] as Point)[0] - point[0]) > LEAP * (maxX - minX);
    return leaps && runsOneWay(points.slice(0, i)) && runsOneWay(points.slice(i)) ? [i] : [];
  });
  if (blocks.length === 2) splits.unshift((blocks[0] as Point[]).length);
  let best: { loop: Point[]; faces: 1 | 2 } = { loop: points, faces: 1 };
  const enclosed = (loop: readonly Point[]) => Math.abs(signedArea(loop));
  for (const at of splits.slice(0, 4)) {
    const loop = twoFaces([points.slice(0, at), points.slice(at)]);
    if (enclosed(loop) > enclosed(best.loop) * (1 + 1e-9)) best = { loop, faces: 2 };
  }
  return best;
}

/** Whether x never turns round. */
const runsOneWay = (face: readonly Point[]): boolean => [1, -1].some((sign) => face.every(([x], i) => i === 0 || sign * (x - (face[i - 1] as Point)[0]) >= 0));

/** Two faces, each from one end of the chord to the other, as one line round. */
function twoFaces([a, b]: [Point[], Point[]]): Point[] {
  const [first] = a;
  const [begin, end] = [b[0], b.at(-1)];
  if (!first || !begin || !end) return [...a, ...b];
  // Both from the same end: the first is walked back to it, then the second away from it.
  return Math.abs(begin[0] - first[0]) < Math.abs(end[0] - first[0]) ? [...[...a].reverse(), ...b] : [...a, ...b];
}

/** A section's coordinates in shares of its chord, once round from the tail over the top. */
export function writeCoordinates(title: string, outline: Outline): string {
  const { minX, maxX } = boundsOf(outline);
  const chord = maxX - minX;
  const tail = outline.reduce((best, point, i) => (point[0] > (outline[best] as Point)[0] ? i : best), 0);
  const round = [...outline.slice(tail), ...outline.slice(0, tail)];
  return `${[title.replaceAll(/[\r\n]+/g, " "), ...round.map(([x, y]) => `${((x - minX) / chord).toFixed(7)} ${(y / chord).toFixed(7)}`)].join("\n")}\n`;
}
