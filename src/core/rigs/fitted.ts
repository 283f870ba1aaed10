import { boundsOf } from "../geometry/points";
import { type Drawing, type Ink, path, text } from "../kernel/drawing";
import type { OutDrawing } from "../plans/outputs/drawing";
import type { RigLayer } from "./sketch";

/** Scales that a drawing board knows: one to so many. */
const SCALES = [1, 2, 5, 10, 15, 20, 25, 50, 100] as const;

/** How each kind of line is drawn. */
export const PENS: Readonly<Record<RigLayer, { ink: Ink; width: number; dash?: readonly number[]; fill?: Ink }>> = {
  foam: { ink: "graphite", width: 0.5, fill: "paper" },
  wire: { ink: "ember", width: 0.9 },
  thread: { ink: "cool", width: 0.6 },
  wood: { ink: "graphite", width: 0.45 },
  metal: { ink: "graphite", width: 0.8 },
  weight: { ink: "graphite", width: 0.8 },
  template: { ink: "cool", width: 0.9 },
  ways: { ink: "soft", width: 0.35, dash: [2, 1.6] },
  measures: { ink: "soft", width: 0.3 },
  words: { ink: "graphite", width: 0.3 },
};

/** Room for words that are out at the sides, as a share of the whole. */
const ROOM = 0.07;

/** What a drawing covers with room for its words: the place of its top left, and its size, mm. */
export function fittedFrame({ lines, texts }: OutDrawing) {
  const bounds = boundsOf([
    ...lines.flatMap(({ points }) => points),
    ...texts.flatMap(({ at, heightMm, text: words }) => [at, [at[0] + words.length * heightMm * 0.52, at[1] + heightMm] as const]),
  ]);
  const room = ROOM * Math.max(bounds.maxX - bounds.minX, bounds.maxY - bounds.minY) * 0.5;
  return { left: bounds.minX - room, top: bounds.maxY + room, wide: bounds.maxX - bounds.minX + 2 * room, high: bounds.maxY - bounds.minY + 2 * room };
}

/** A full-size drawing on a sheet, at the largest scale of a drawing board that lets it are there, mm. */
export function fitted(drawing: OutDrawing, wide: number, high: number): { drawing: Drawing; scale: number } {
  const frame = fittedFrame(drawing);
  const scale = SCALES.find((each) => frame.wide / each <= wide && frame.high / each <= high) ?? Math.ceil(Math.max(frame.wide / wide, frame.high / high));
  const figure = (value: number) => value.toFixed(2);
  const at = ([x, y]: readonly [number, number]) => [(x - frame.left) / scale, (frame.top - y) / scale] as const;
  return {
    scale,
    drawing: {
      title: drawing.title,
      width: frame.wide / scale,
      height: frame.high / scale,
      shapes: [
        ...drawing.lines.map(({ layer, points, closed }) => {
          const pen = PENS[layer as RigLayer];
          return path(`M${points.map((point) => at(point).map(figure).join(" ")).join("L")}${closed ? "Z" : ""}`, {
            stroke: pen.ink,
            width: pen.width,
            ...(pen.dash ? { dash: pen.dash } : {}),
          });
        }),
        ...drawing.texts.map(({ at: foot, heightMm, text: words }) => {
          const [x, y] = at(foot);
          return text(x, y, words, { size: Math.max(2.2, heightMm / scale), anchor: "start" });
        }),
      ],
    },
  };
}
