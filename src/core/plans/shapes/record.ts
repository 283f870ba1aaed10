import type { z } from "zod";
import type { Outline, Point, Region } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";
import { type Begun, type Field, startOf } from "../../units/field";
import { kindSchema } from "../../units/fieldSchema";

/** A shape as a plan holds it. */
export interface AnyShape {
  kind: string;
}

/** A shape drawn, mm: x from the leading edge (0), y up. */
export interface Drawn {
  /** Largest first. Most shapes have one. */
  regions: Region[];
  /** The leading-edge point, where a face begins. */
  nose: Point;
  /** Ends of the upper and of the lower face at the tail: one point on a sharp tail. */
  tail: { upper: Point; lower: Point };
  /** What was done to it on the way in. */
  notes: string[];
}

/** One kind of shape: everything that is to be known of it is here. */
export interface ShapeRecord<S extends AnyShape = AnyShape> {
  kind: S["kind"];
  /** What people call it. */
  title: string;
  /** In a sentence: "2415", "an ellipse 0.4 thick". */
  words: (shape: S) => string;
  schema: z.ZodType<S>;
  /** What a chooser asks for. */
  fields: readonly Field[];
  /** As it is first chosen. */
  start: () => S;
  /** Needs a chord; the others keep their own size where none is given. */
  needsChord: boolean;
  law: Relation | null;
  /** @param chordMm wanted x extent; undefined keeps a shape's own size. @throws CoreError where the shape cannot be */
  draw: (shape: S, chordMm: number | undefined) => Drawn;
  /** Good examples, for property tests and docs. */
  examples: readonly S[];
}

/**
 * A kind's record, with its schema and its start from its fields.
 * @param read what its schema has besides
 */
export const shapeOf = <S extends AnyShape>(
  record: Omit<ShapeRecord<S>, "schema" | "start" | "fields"> & { fields: readonly Begun<string, unknown>[] },
  read: (own: ReturnType<typeof kindSchema>) => z.ZodType = (own) => own,
): ShapeRecord<S> => ({
  ...record,
  schema: read(kindSchema(record.kind, Object.fromEntries(record.fields.map((field) => [field.key, field])), "left-out")) as unknown as z.ZodType<S>,
  start: () => structuredClone(startOf(record.kind, record.fields)) as unknown as S,
});

/** A drawn shape from its outline alone: the nose is its foremost point, the tail its rearmost. */
export function drawnFrom(regions: Region[], notes: string[] = []): Drawn {
  const outline = regions[0]?.outline ?? [];
  return { regions, ...endsOf(outline), notes };
}

/** Foremost and rearmost places of an outline; where an edge is upright there, its middle and its two ends. */
export function endsOf(outline: Outline): Pick<Drawn, "nose" | "tail"> {
  const xs = outline.map(([x]) => x);
  const span = Math.max(...xs) - Math.min(...xs);
  const near = (x: number) => outline.filter((point) => Math.abs(point[0] - x) <= span * 1e-9).map(([, y]) => y);
  const front = near(Math.min(...xs));
  const back = near(Math.max(...xs));
  return {
    nose: [Math.min(...xs), (Math.min(...front) + Math.max(...front)) / 2],
    tail: { upper: [Math.max(...xs), Math.max(...back)], lower: [Math.max(...xs), Math.min(...back)] },
  };
}
