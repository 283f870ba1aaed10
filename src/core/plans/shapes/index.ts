import { z } from "zod";
import { CoreError } from "../../kernel/errors";
import { kindsError } from "../../kernel/parse";
import { type ColumnShape, type CoordinatesShape, column, coordinates, type PointsShape, points } from "./given";
import { type Naca4, naca4 } from "./naca4";
import { type Naca5, naca5 } from "./naca5";
import { type Arc, arc, type Ellipse, ellipse, type Polygon, polygon, type Rounded, rounded, type Superellipse, superellipse, type Wave, wave } from "./plain";
import type { Drawn, ShapeRecord } from "./record";
import { type TextShape, textShape } from "./text";

/** Every kind of shape. A new one: its file, and its line here. */
export type EndShape = Naca4 | Naca5 | Ellipse | Superellipse | Polygon | Rounded | Wave | Arc | ColumnShape | TextShape | PointsShape | CoordinatesShape;
export type ShapeKind = EndShape["kind"];
type Records = { [K in ShapeKind]: ShapeRecord<Extract<EndShape, { kind: K }>> };
const RECORDS: Records = { naca4, naca5, ellipse, superellipse, polygon, rounded, wave, arc, column, text: textShape, points, coordinates };

export const SHAPE_KINDS = Object.keys(RECORDS) as [ShapeKind, ...ShapeKind[]];
/** A kind's record. The caller's shape is of that kind. */
export const shapeRecord = (kind: ShapeKind): ShapeRecord<EndShape> => RECORDS[kind] as unknown as ShapeRecord<EndShape>;

/** Every shape the core draws. */
export const shapeSchema: z.ZodType<EndShape> = z.discriminatedUnion(
  "kind",
  Object.values(RECORDS).map((record) => record.schema) as unknown as [z.core.$ZodTypeDiscriminable, ...z.core.$ZodTypeDiscriminable[]],
  kindsError(SHAPE_KINDS.join(", ")),
) as unknown as z.ZodType<EndShape>;

/**
 * A shape drawn, mm.
 * @param chordMm wanted x extent; a shape that keeps its own size may go without
 * @throws CoreError `missing-key` where a chord is needed
 */
export function drawShape(shape: EndShape, chordMm: number | undefined): Drawn {
  const record = shapeRecord(shape.kind);
  if (record.needsChord && chordMm === undefined) throw new CoreError("missing-key", "chord_mm", `chord_mm is required for ${record.title.toLowerCase()}`);
  return record.draw(shape, chordMm);
}
