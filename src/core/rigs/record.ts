import { z } from "zod";
import type { Design } from "../cutters/design/schema";
import type { Point } from "../geometry/points";
import type { Relation } from "../kernel/provenance";
import type { OutDrawing } from "../plans/outputs/drawing";
import type { Begun } from "../units/field";
import { kindSchema } from "../units/fieldSchema";
import type { Quantity } from "../units/units";
import type { RigSurroundings } from "./around";
import type { BuildLine, RigEvaluation, RigFigure, RigProgram, Show } from "./evaluation";
import type { Feel } from "./feel";

export type { BuildLine, RigCell, RigCurve, RigEvaluation, RigFigure, RigNote, RigProgram, RigTable, Show } from "./evaluation";

/** A rig as its document holds it. */
export interface AnyRig {
  kind: string;
}

/** What a cutter brings along, mm: its block, along the wire and high, and its wire between the posts. */
export interface RigJob {
  width_mm: number;
  thickness_mm: number;
  wire_mm: number;
}

/** What a rig takes over from a cutter. */
export const rigJobOf = ({ job, wire }: Pick<Design, "job" | "wire">): RigJob => ({
  width_mm: job.width_mm,
  thickness_mm: job.thickness_mm,
  wire_mm: wire.length_mm,
});

/** A thing in the drawing that a hand moves. */
export interface RigHandle {
  id: string;
  label: string;
  at: Point;
}

/** What is logged of a cut on a rig. */
export interface RigLogField {
  key: string;
  label: string;
  quantity: Quantity | null;
  min: number;
  max: number;
}

/** One kind of rig: everything that is to be known of it is here. */
export interface RigRecord<R extends AnyRig = AnyRig> {
  kind: R["kind"];
  title: string;
  /** What it is for. */
  purpose: string;
  fields: readonly Begun<string, unknown>[];
  /** As it is first chosen. */
  start: R;
  /** As it begins on a cutter that is set for a job: with the sizes of its block. */
  sized?: (start: R, job: RigJob) => R;
  /** Takes a plan's guides, slopes or outline; the others need no plan. */
  takesPlan: boolean;
  laws: readonly Relation[];
  /** Foam that lies along the cutter's wire, mm, and the field that says so; null where nothing does. */
  onWire?: (rig: R, around: RigSurroundings) => { mm: number; field?: string } | null;
  /** @throws CoreError that names the field where the rig cannot be */
  solve: (rig: R, around: RigSurroundings, show: Show) => RigEvaluation;
  /** From above, and from the side where that matters: full size, mm. @throws CoreError as solve does */
  draw: (rig: R, around: RigSurroundings, show: Show) => OutDrawing;
  handles?: (rig: R) => RigHandle[];
  moved?: (rig: R, handle: string, to: Point) => R;
  build: (rig: R, around: RigSurroundings, show: Show) => BuildLine[];
  /** The plan next to it as a program, where motors lead. @throws CoreError where it cannot be led */
  program?: (rig: R, around: RigSurroundings) => RigProgram;
  /** In the hand, where it has a feel of its own. @throws CoreError as solve does */
  feel?: (rig: R, around: RigSurroundings) => Feel;
  logged: readonly RigLogField[];
  /** A rig of the demo's shed. */
  example: { name: string; cutter: string | null; plan?: string; notes: string; rig: R };
}

/** A rig's schema from its fields: what is left out is as the kind begins. */
export function schemaOf<R extends AnyRig>({ kind, fields }: Pick<RigRecord<R>, "kind" | "fields">): z.ZodType<R> {
  const { shape } = kindSchema(kind, Object.fromEntries(fields.map((field) => [field.key, field])), "null");
  const begun = fields.map(({ key, start }) => [key, (shape as Record<string, z.ZodType>)[key]?.default(start)]);
  return z.strictObject({ ...shape, ...Object.fromEntries(begun) }) as unknown as z.ZodType<R>;
}

/** A figure of a quantity. */
export const figureOf = (id: string, label: string, quantity: Quantity, value: number, more: { decimals?: number; why?: Relation } = {}): RigFigure => ({
  id,
  label,
  quantity,
  value,
  ...more,
});
