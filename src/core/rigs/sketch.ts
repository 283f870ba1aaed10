import { distance, type Line, type Point } from "../geometry/points";
import type { OutDrawing, OutLine, OutText } from "../plans/outputs/drawing";

/** What a line of a rig's drawing is, in words: a file's layers, and the pens of the screen. */
export type RigLayer = "foam" | "wire" | "thread" | "wood" | "metal" | "weight" | "template" | "ways" | "measures" | "words";

const ARC_STEP_DEG = 4;

/** Draws a rig full size, mm, y up. Words are so high that they are read when the whole is looked at. */
export class Sketch {
  private readonly lines: OutLine[] = [];
  private readonly texts: OutText[] = [];

  /** @param size the larger side of what will be drawn, mm */
  constructor(private readonly size: number) {}

  get wordsMm(): number {
    return this.size / 46;
  }

  line(layer: RigLayer, points: Line, closed = false): this {
    this.lines.push({ layer, points, closed });
    return this;
  }

  box(layer: RigLayer, x: number, y: number, wide: number, high: number): this {
    return this.line(
      layer,
      [
        [x, y],
        [x + wide, y],
        [x + wide, y + high],
        [x, y + high],
      ],
      true,
    );
  }

  /** A bar of a width from one place to another. */
  bar(layer: RigLayer, [ax, ay]: Point, [bx, by]: Point, wide: number): this {
    const long = Math.max(1e-9, Math.hypot(bx - ax, by - ay));
    const [nx, ny] = [(-(by - ay) / long) * (wide / 2), ((bx - ax) / long) * (wide / 2)];
    return this.line(
      layer,
      [
        [ax + nx, ay + ny],
        [bx + nx, by + ny],
        [bx - nx, by - ny],
        [ax - nx, ay - ny],
      ],
      true,
    );
  }

  arc(layer: RigLayer, [x, y]: Point, radius: number, fromDeg = 0, toDeg = 360): this {
    const whole = Math.abs(toDeg - fromDeg) >= 360;
    const steps = Math.max(8, Math.ceil(Math.abs(toDeg - fromDeg) / ARC_STEP_DEG));
    const points = Array.from({ length: whole ? steps : steps + 1 }, (_, i): Point => {
      const a = ((fromDeg + ((toDeg - fromDeg) * i) / steps) * Math.PI) / 180;
      return [x + radius * Math.cos(a), y + radius * Math.sin(a)];
    });
    return this.line(layer, points, whole);
  }

  /** Words about a place: next to it to the right, in its middle, or to its left. */
  words([x, y]: Point, text: string, anchor: "start" | "middle" | "end" = "start", share = 1): this {
    const heightMm = this.wordsMm * share;
    // About half as wide as high: near enough to set words about a place.
    const wide = text.length * heightMm * 0.52;
    const left = anchor === "start" ? x : anchor === "middle" ? x - wide / 2 : x - wide;
    this.texts.push({ layer: "words", at: [left, y], heightMm, text });
    return this;
  }

  /** A measure between two places, drawn so far to the left of the way from one to the other, its figure in the middle. */
  measure(a: Point, b: Point, off: number, text: string): this {
    const long = distance(a, b);
    if (long < 1e-6) return this;
    const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
    const [nx, ny] = [-uy, ux];
    const tick = this.wordsMm * 0.5;
    const at = ([x, y]: Point, by: number): Point => [x + nx * by, y + ny * by];
    const [p, q] = [at(a, off), at(b, off)];
    const over = Math.sign(off || 1) * tick;
    this.line("measures", [at(a, 0), at(a, off + over)]);
    this.line("measures", [at(b, 0), at(b, off + over)]);
    this.line("measures", [p, q]);
    // Slanted ticks at both ends, as on a drawing board.
    for (const end of [p, q])
      this.line("measures", [
        [end[0] - (ux + nx) * tick * 0.5, end[1] - (uy + ny) * tick * 0.5],
        [end[0] + (ux + nx) * tick * 0.5, end[1] + (uy + ny) * tick * 0.5],
      ]);
    const middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    const steep = Math.abs(uy) > 0.7;
    // Next to an upright measure, over or under a level one: on the far side from what is measured.
    const side = nx * off;
    if (steep) this.words([middle[0] + Math.sign(side || 1) * tick, middle[1] - this.wordsMm / 3], text, side < 0 ? "end" : "start", 0.85);
    else this.words([middle[0], middle[1] + (ny * off >= 0 ? tick * 0.7 : -this.wordsMm - tick * 0.3)], text, "middle", 0.85);
    return this;
  }

  done(title: string): OutDrawing {
    return { title, lines: this.lines, texts: this.texts };
  }
}
