import { z } from "zod";
import type { Design } from "../cutters/design/schema";
import type { Point } from "../geometry/points";
import { bounded } from "../kernel/bounded";
import { plainText } from "../kernel/parse";
import type { Relation } from "../kernel/provenance";
import type { OutDrawing } from "../plans/outputs/drawing";
import type { Quantity } from "../units/units";
import type { RigSurroundings } from "./around";
import type { BuildLine, RigEvaluation, RigFigure, RigProgram, Show } from "./evaluation";
import type { Feel } from "./feel";

export type { BuildLine, RigCell, RigCurve, RigEvaluation, RigFigure, RigNote, RigProgram, RigTable, Show } from "./evaluation";

/** A rig as its document holds it. */
export interface AnyRig {
  kind: string;
}

interface FieldBase {
  key: string;
  label: string;
  /** Fields of one heading are together. */
  group: string;
  hint?: string;
  /** Asked only where another field says so. */
  only?: { key: string; is: unknown };
}
/** One thing a person says of a rig. A number with a quantity is stored in that quantity's canonical unit; `pairs` is a few numbers a line. */
export type RigField =
  | (FieldBase & { as: "number"; quantity?: Quantity; unit?: string; min: number; max: number; whole?: boolean; optional?: boolean; decimals?: number })
  | (FieldBase & { as: "choice"; options: readonly (readonly [value: string, words: string])[] })
  | (FieldBase & { as: "switch" })
  | (FieldBase & { as: "numbers"; quantity: Quantity; min: number; max: number; most: number })
  | (FieldBase & { as: "word"; least: number; most: number })
  | (FieldBase & { as: "rows"; columns: readonly { label: string; min: number; max: number }[]; most: number });

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
  fields: readonly RigField[];
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

/** The unit a quantity is stored in, for messages. */
const STORED: Partial<Record<Quantity, string>> = {
  length: "mm",
  diameter: "mm",
  kerf: "mm",
  feed: "mm/s",
  force: "N",
  angle: "degrees",
  springRate: "N/mm",
  mass: "g",
};

function fieldSchema(field: RigField): z.ZodType {
  switch (field.as) {
    case "number": {
      const own = bounded(field.min, field.max, field.unit ?? (field.quantity ? (STORED[field.quantity] ?? "") : ""));
      const whole = field.whole ? own.int({ error: "must be a whole number" }) : own;
      return field.optional ? whole.nullable() : whole;
    }
    case "choice":
      return z.enum(field.options.map(([value]) => value) as [string, ...string[]], {
        error: `must be one of ${field.options.map(([value]) => value).join(", ")}`,
      });
    case "word": {
      const error = `must be ${field.least === 0 ? `at most ${field.most}` : `${field.least} to ${field.most}`} characters`;
      return plainText(field.most, error).min(field.least, { error });
    }
    case "switch":
      return z.boolean({ error: "must be true or false" });
    case "numbers":
      return z
        .array(bounded(field.min, field.max, STORED[field.quantity] ?? ""), { error: "must be a list of numbers" })
        .max(field.most, { error: `has room for ${field.most}` });
    case "rows":
      return z
        .array(
          z.tuple(field.columns.map(({ min, max }) => bounded(min, max, "")) as [z.ZodNumber, ...z.ZodNumber[]], {
            error: `must be ${field.columns.length} numbers each`,
          }),
          {
            error: "must be a list",
          },
        )
        .max(field.most, { error: `has room for ${field.most}` });
  }
}

/** A rig's schema from its fields: what is left out is as the kind begins. */
export function schemaOf<R extends AnyRig>({ kind, fields, start }: Pick<RigRecord<R>, "kind" | "fields" | "start">): z.ZodType<R> {
  const shape = Object.fromEntries(
    fields.map((field) => [field.key, fieldSchema(field).default((start as unknown as Record<string, never>)[field.key] as never)]),
  );
  return z.strictObject({ kind: z.literal(kind), ...shape }) as unknown as z.ZodType<R>;
}

/** Fields in few words. */
export const number = (
  group: string,
  key: string,
  label: string,
  quantity: Quantity,
  min: number,
  max: number,
  more: { optional?: boolean; hint?: string; decimals?: number } = {},
): RigField => ({
  as: "number",
  group,
  key,
  label,
  quantity,
  min,
  max,
  ...more,
});
export const choice = (group: string, key: string, label: string, options: readonly (readonly [string, string])[], hint?: string): RigField => ({
  as: "choice",
  group,
  key,
  label,
  options,
  ...(hint ? { hint } : {}),
});
export const toggle = (group: string, key: string, label: string): RigField => ({ as: "switch", group, key, label });

/** Fields that are asked only where another says so. */
export const onlyWhere = (key: string, is: unknown, ...fields: RigField[]): RigField[] => fields.map((field) => ({ ...field, only: { key, is } }));

/** A figure of a quantity. */
export const figureOf = (id: string, label: string, quantity: Quantity, value: number, more: { decimals?: number; why?: Relation } = {}): RigFigure => ({
  id,
  label,
  quantity,
  value,
  ...more,
});
