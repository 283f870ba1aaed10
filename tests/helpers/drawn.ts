import svgpath from "svgpath";
import type { Shape } from "@/core/kernel/drawing";

/** A box about something drawn. */
export interface Extent {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Corners of a shape's path: where its pen goes, handles of curves left out. */
export function corners(shape: Shape): [number, number][] {
  if (shape.kind === "text") return [];
  const points: [number, number][] = [];
  svgpath(shape.d)
    .unarc()
    .abs()
    .iterate((segment, _, x, y) => {
      const [command, ...figures] = segment as [string, ...number[]];
      if (command === "H") points.push([x, y], [figures[0] as number, y]);
      else if (command === "V") points.push([x, y], [x, figures[0] as number]);
      else if (command !== "Z" && command !== "z") points.push(figures.slice(-2) as [number, number]);
    });
  return points;
}

/** Room that words take, by the width of a letter in this size (0.62 of it: an estimate that fits both fonts). */
export function shapeExtent(shape: Extract<Shape, { kind: "text" }>): Extent {
  const width = 0.62 * shape.size * shape.text.length;
  const left = shape.x - (shape.anchor === "start" ? 0 : shape.anchor === "end" ? width : width / 2);
  return { left, right: left + width, top: shape.y - 0.75 * shape.size, bottom: shape.y + 0.2 * shape.size };
}

/** Words that lie over other words, as `one / other`. */
export function overlaps(shapes: readonly Shape[]): string[] {
  const said = shapes.filter((shape) => shape.kind === "text");
  return said.flatMap((one, i) =>
    said.slice(i + 1).flatMap((other) => {
      const [a, b] = [shapeExtent(one), shapeExtent(other)];
      return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom ? [`${one.text} / ${other.text}`] : [];
    }),
  );
}

/** The box about every corner and word. */
export function extent(shapes: readonly Shape[]): Extent {
  const points = shapes.flatMap((shape) => {
    if (shape.kind !== "text") return corners(shape);
    const { left, right, top, bottom } = shapeExtent(shape);
    return [
      [left, top],
      [right, bottom],
    ] as [number, number][];
  });
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** True where some pen stops or begins just there. */
export const touches = (shapes: readonly Shape[], x: number, y: number): boolean =>
  shapes.some((shape) => corners(shape).some(([px, py]) => Math.hypot(px - x, py - y) < 1e-6));
