import { boundsOf, counterClockwise, type Outline, type Point, signedArea, withoutDoubles } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { requireShort } from "./imported";

/** A section read from text, in the file's own numbers. */
export interface ReadSection {
  title: string | null;
  outline: Outline;
  notes: string[];
}

const NUMBER = /^[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?$/;
const MOST_POINTS = 100_000;

/** The two numbers of a line, or null where it holds anything else. */
function pairOf(line: string): Point | null {
  const words = line
    .trim()
    .split(/[\s,;]+/)
    .filter(Boolean);
  return words.length >= 2 && words.slice(0, 2).every((word) => NUMBER.test(word)) ? [Number(words[0]), Number(words[1])] : null;
}

/**
 * Section coordinates as text: x and y a line, in either of the common orders (once round from the tail, or upper face then lower face, each from the nose),
 * with or without a title, with or without counts, comments after #, ! or a semicolon at a line's start; per cent or shares of the chord.
 * @throws CoreError `wrong-format` where there is no section in it
 */
export function readCoordinates(text: string): ReadSection {
  requireShort(text);
  const notes: string[] = [];
  let title: string | null = null;
  let blocks: Point[][] = [[]];
  let refused = 0;
  for (const raw of text.replace(/^\uFEFF/, "").split(/\r\n|[\r\n]/)) {
    const line = raw.replace(/[#!].*$/, "").replace(/^\s*;.*$/, "");
    if (line.trim() === "") {
      if ((blocks.at(-1)?.length ?? 0) > 0) blocks.push([]);
      continue;
    }
    const pair = pairOf(line);
    if (pair) {
      (blocks.at(-1) as Point[]).push(pair);
      if ((blocks.at(-1) as Point[]).length > MOST_POINTS) throw new CoreError("out-of-range", "text", `a section has at most ${MOST_POINTS} points`);
    } else if (blocks.every((block) => block.length === 0) && title === null) title = line.trim().slice(0, 80);
    else refused += 1;
  }
  blocks = blocks.filter((block) => block.length > 0);
  if (refused > 0) notes.push(`refused: ${refused} line${refused === 1 ? "" : "s"} without two numbers`);
  // A first pair of whole numbers larger than any coordinate counts the points of each face.
  const first = blocks[0]?.[0];
  const points = blocks.flat();
  const counts = first && Number.isInteger(first[0]) && Number.isInteger(first[1]) && first[0] > 1 && first[1] > 1 && first[0] + first[1] === points.length - 1;
  let faces: Point[][];
  if (counts) {
    const rest = points.slice(1);
    faces = [rest.slice(0, first[0]), rest.slice(first[0])];
    notes.push(`read as two faces of ${first[0]} and ${first[1]} points`);
  } else {
    faces = blocks.length === 2 ? blocks : [points];
    if (faces.length === 1) {
      // A face that begins at the nose again shows as one leap back along the chord.
      const { minX, maxX } = boundsOf(points);
      const leap = points.findIndex((point, i) => i > 0 && (points[i - 1] as Point)[0] - point[0] > 0.6 * (maxX - minX));
      if (leap > 1 && leap < points.length - 1) faces = [points.slice(0, leap), points.slice(leap)];
    }
    if (faces.length === 2) notes.push("read as two faces from the nose");
  }
  const loop = faces.length === 2 ? twoFaces(faces as [Point[], Point[]]) : (faces[0] ?? []);
  const clean = withoutDoubles(loop);
  if (clean.length < loop.length) notes.push(`dropped: ${loop.length - clean.length} points drawn twice`);
  if (clean.length < 3 || Math.abs(signedArea(clean)) === 0)
    throw new CoreError("wrong-format", "text", "no section stands in this text: it needs at least three pairs of numbers that enclose something");
  return { title, outline: counterClockwise(clean), notes };
}

/** Two faces, each from one end of the chord to the other, as one line round. */
function twoFaces([a, b]: [Point[], Point[]]): Point[] {
  const first = a[0] as Point;
  const towards = (face: Point[]) => Math.abs((face[0] as Point)[0] - first[0]) < Math.abs((face.at(-1) as Point)[0] - first[0]);
  // Both from the nose: the first is walked back to it, then the second away from it.
  return towards(b) ? [...[...a].reverse(), ...b] : [...a, ...b];
}

/** A section's coordinates in shares of its chord, once round from the tail over the top. */
export function writeCoordinates(title: string, outline: Outline): string {
  const { minX, maxX } = boundsOf(outline);
  const chord = maxX - minX;
  const tail = outline.reduce((best, point, i) => (point[0] > (outline[best] as Point)[0] ? i : best), 0);
  const round = [...outline.slice(tail), ...outline.slice(0, tail)];
  return `${[title.replaceAll(/[\r\n]+/g, " "), ...round.map(([x, y]) => `${((x - minX) / chord).toFixed(7)} ${(y / chord).toFixed(7)}`)].join("\n")}\n`;
}
