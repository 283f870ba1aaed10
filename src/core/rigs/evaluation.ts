import type { Line, Point, Region } from "../geometry/points";
import type { Basis, Relation } from "../kernel/provenance";
import type { Plan } from "../plans/plan";
import type { Quantity } from "../units/units";

/** A figure of an answer: a number of a quantity, or words. */
export interface RigFigure {
  id: string;
  label: string;
  quantity?: Quantity;
  value: number | string;
  decimals?: number;
  why?: Relation;
}

/** A cell of a table: words, or a number of a quantity. */
export type RigCell = string | { quantity: Quantity; value: number; decimals?: number };

export interface RigTable {
  id: string;
  title: string;
  columns: readonly string[];
  rows: readonly (readonly RigCell[])[];
}

/** A line of one quantity over another, or over a share of the way. */
export interface RigCurve {
  id: string;
  title: string;
  x: { label: string; quantity: Quantity | null };
  y: { label: string; quantity: Quantity };
  points: readonly Point[];
}

export interface RigNote {
  code: string;
  severity: "danger" | "caution" | "note";
  words: string;
  basis: Basis;
  /** The field beside which it is; none where it is of the whole. */
  field?: string;
  /** The smallest change that cures it, and what it says it does. */
  cure?: { words: string; change: Readonly<Record<string, unknown>> };
  /** A cure that changes the plan instead. */
  planCure?: { words: string; plan: Plan };
}

/** A program for a rig that motors lead, and what it leads the wire along: mm from home. */
export interface RigProgram {
  text: string;
  timeS: number;
  lengthMm: number;
  block: Line;
  parts: readonly Region[];
  /** the wire's way; where both ends go their own, the near one's and the far one's */
  ways: readonly Line[];
  links: readonly Line[];
  slits: readonly Line[];
  bars: readonly Line[];
  /** what the wire misses of the ways, by the whole wire's own computation; null where no cutter says how it bows */
  deviationMm: number | null;
  /** deviation of the face: the line's, and half of what the kerf is wider where it goes slowest; null as for the line */
  faceMm: number | null;
  /** what is left to cut where the path ends, and what was added to free the part; null where no cutter says how the wire bows */
  end: { leftMm: number; waitS: number; runOutMm: number } | null;
  /** what it was to keep */
  toleranceMm: number;
  stretchMm: number;
  /** with the carriages' own speeding up and slowing down, one pass, s */
  runS: number;
  waits: readonly { at: Point; waitS: number }[];
  /** runs past a corner into the waste and back */
  ears: readonly Line[];
  /** mm/s */
  feeds: { least: number; most: number };
  /** as S says it */
  heat: { least: number; most: number };
  /** how much wider the kerf is where it goes slowest, mm; null where no cutter says */
  widerMm: number | null;
  /** copies that lie in the block */
  copies: number;
  /** round the turntable; 1 without one */
  passes: number;
}

/** What is left to do where a path ends, in words; null where the wire is through within the tolerance. */
export function endWords({ end, toleranceMm }: Pick<RigProgram, "end" | "toleranceMm">, show: Show): string | null {
  if (!end || end.leftMm <= toleranceMm) return null;
  const freed =
    end.waitS > 0
      ? `they wait ${end.waitS.toFixed(1)} s, heat on, until it is out`
      : `they go on ${show("length", end.runOutMm)} past the part, until it has come`;
  return `the middle of the wire is ${show("length", end.leftMm)} behind where the ends stop: ${freed}`;
}

/** A line of the build sheet. */
export interface BuildLine {
  of: "wood" | "hardware" | "wiring";
  words: string;
}

export interface RigEvaluation {
  /** What comes out, in a sentence. */
  says: string;
  figures: RigFigure[];
  curves?: RigCurve[];
  tables?: RigTable[];
  notes: RigNote[];
}

/** Writes a number of a quantity in the units a person reads. */
export type Show = (quantity: Quantity, value: number, decimals?: number) => string;
