import svgpath from "svgpath";
import { arcSteps, cubicPoints, quadraticPoints } from "../../geometry/flatten";
import type { Line, Point } from "../../geometry/points";
import { type Element, lengthOf, numbers, type Viewport } from "./svgDocument";

/** An elliptic arc's points after its first (SVG 1.1, appendix F.6). */
function svgArc(from: Point, rx0: number, ry0: number, turnDeg: number, large: boolean, sweep: boolean, to: Point, tolerance: number): Point[] {
  if (from[0] === to[0] && from[1] === to[1]) return [];
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)];
  if (rx === 0 || ry === 0) return [to];
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const [dx, dy] = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
  const [x1, y1] = [cos * dx + sin * dy, -sin * dx + cos * dy];
  const lambda = (x1 / rx) ** 2 + (y1 / ry) ** 2;
  if (lambda > 1) [rx, ry] = [rx * Math.sqrt(lambda), ry * Math.sqrt(lambda)];
  const under = (rx * ry) ** 2 - (rx * y1) ** 2 - (ry * x1) ** 2;
  const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, under / ((rx * y1) ** 2 + (ry * x1) ** 2)));
  const [cx1, cy1] = [(k * rx * y1) / ry, (-k * ry * x1) / rx];
  const [cx, cy] = [cos * cx1 - sin * cy1 + (from[0] + to[0]) / 2, sin * cx1 + cos * cy1 + (from[1] + to[1]) / 2];
  const start = Math.atan2((y1 - cy1) / ry, (x1 - cx1) / rx);
  let angle = Math.atan2((-y1 - cy1) / ry, (-x1 - cx1) / rx) - start;
  if (sweep && angle < 0) angle += 2 * Math.PI;
  if (!sweep && angle > 0) angle -= 2 * Math.PI;
  const steps = arcSteps(Math.max(rx, ry), angle, tolerance);
  return Array.from({ length: steps }, (_, i) => {
    if (i === steps - 1) return to;
    const at = start + (angle * (i + 1)) / steps;
    const [x, y] = [rx * Math.cos(at), ry * Math.sin(at)];
    return [cx + cos * x - sin * y, cy + sin * x + cos * y] as const;
  });
}

export interface DrawnLine {
  line: Line;
  closed: boolean;
}

/** A path's lines in its own coordinates. `fault` says where its data ends early: what is before is drawn, as the standard asks. */
function pathLines(d: string, tolerance: number): { lines: DrawnLine[]; fault: boolean } {
  const path = svgpath(d);
  const lines: DrawnLine[] = [];
  let line: Point[] = [];
  let here: Point = [0, 0];
  let started: Point = [0, 0];
  const end = (closed: boolean) => {
    if (line.length > 1) lines.push({ line, closed });
    line = [];
  };
  const go = (points: readonly Point[]) => {
    if (line.length === 0) line.push(here);
    for (const point of points) line.push(point);
    here = line.at(-1) as Point;
  };
  path
    .abs()
    .unshort()
    .iterate(([command, ...n]) => {
      const [a, b, c, e, f, g, h] = n as number[] as [number, number, number, number, number, number, number];
      switch (command) {
        case "M":
          end(false);
          here = [a, b];
          started = here;
          break;
        case "L":
          go([[a, b]]);
          break;
        case "H":
          go([[a, here[1]]]);
          break;
        case "V":
          go([[here[0], a]]);
          break;
        case "C":
          go(cubicPoints(here, [a, b], [c, e], [f, g], tolerance));
          break;
        case "Q":
          go(quadraticPoints(here, [a, b], [c, e], tolerance));
          break;
        case "A":
          go(svgArc(here, a, b, c, Boolean(e), Boolean(f), [g, h], tolerance));
          break;
        case "Z":
        case "z":
          end(true);
          here = started;
          break;
      }
    });
  end(false);
  return { lines, fault: Boolean((path as unknown as { err?: string }).err) };
}

/** What a basic shape draws; null for another element. */
export function shapeLines(element: Element, viewport: Viewport, tolerance: number): { lines: DrawnLine[]; fault: boolean } | null {
  const number = (name: string) => lengthOf(element, name, viewport) ?? 0;
  const round = (cx: number, cy: number, rx: number, ry: number): DrawnLine[] => {
    if (!(rx > 0 && ry > 0)) return [];
    const steps = 4 * Math.ceil(arcSteps(Math.max(rx, ry), 2 * Math.PI, tolerance) / 4);
    return [
      {
        line: Array.from({ length: steps }, (_, i): Point => [cx + rx * Math.cos((2 * Math.PI * i) / steps), cy + ry * Math.sin((2 * Math.PI * i) / steps)]),
        closed: true,
      },
    ];
  };
  const pairs = () => {
    const n = numbers(element.attributes.points ?? "");
    return Array.from({ length: n.length >> 1 }, (_, i): Point => [n[2 * i] as number, n[2 * i + 1] as number]);
  };
  switch (element.name) {
    case "path":
      return pathLines(element.attributes.d ?? "", tolerance);
    case "rect": {
      const [x, y, w, h] = ["x", "y", "width", "height"].map(number) as [number, number, number, number];
      if (!(w > 0 && h > 0)) return { lines: [], fault: false };
      const [rx0, ry0] = [lengthOf(element, "rx", viewport), lengthOf(element, "ry", viewport)];
      const rx = Math.min(w / 2, rx0 ?? ry0 ?? 0);
      const ry = Math.min(h / 2, ry0 ?? rx0 ?? 0);
      if (!(rx > 0 && ry > 0)) {
        return {
          lines: [
            {
              line: [
                [x, y],
                [x + w, y],
                [x + w, y + h],
                [x, y + h],
              ],
              closed: true,
            },
          ],
          fault: false,
        };
      }
      return pathLines(
        `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`,
        tolerance,
      );
    }
    case "circle":
      return { lines: round(number("cx"), number("cy"), number("r"), number("r")), fault: false };
    case "ellipse":
      return { lines: round(number("cx"), number("cy"), number("rx"), number("ry")), fault: false };
    case "line":
      return {
        lines: [
          {
            line: [
              [number("x1"), number("y1")],
              [number("x2"), number("y2")],
            ],
            closed: false,
          },
        ],
        fault: false,
      };
    case "polyline":
      return { lines: [{ line: pairs(), closed: false }], fault: false };
    case "polygon":
      return { lines: [{ line: pairs(), closed: true }], fault: false };
    default:
      return null;
  }
}
