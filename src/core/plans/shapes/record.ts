import type { z } from "zod";
import type { Outline, Point, Region } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";

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

/** A figure or a few words of a shape, as its chooser asks for it. `pairs` is a text of two numbers a line, `font` a file with its name next to it. */
export type ShapeField =
  | { key: string; as: "number"; label: string; unit: string; min: number; max: number; whole?: boolean; optional?: boolean }
  | { key: string; as: "text" | "long" | "pairs"; label: string; hint: string }
  | { key: string; as: "switch"; label: string }
  | { key: string; as: "font"; label: string; nameKey: string };

/** One kind of shape: everything that is to be known of it is here. */
export interface ShapeRecord<S extends AnyShape = AnyShape> {
  kind: S["kind"];
  /** What people call it. */
  title: string;
  /** In a sentence: "2415", "an ellipse 0.4 thick". */
  words: (shape: S) => string;
  schema: z.ZodType<S>;
  /** What a chooser asks for. */
  fields: readonly ShapeField[];
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
