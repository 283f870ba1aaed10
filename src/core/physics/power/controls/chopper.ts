import { box, path, type Shape, text } from "../../../kernel/drawing";

/** A box with an input and an output on both rails: its sign, then its words. */
export const chopper = (x: number, top: number, bottom: number, sign: Shape, words: readonly Shape[]): Shape[] => [
  path(`M${x - 2} ${top}h4M${x + 32} ${top}h6M${x - 2} ${bottom}h4M${x + 32} ${bottom}h6`),
  box(x + 2, top - 8, 30, bottom - top + 16),
  sign,
  ...words,
  text(x + 4, top + 2, "in", { size: 3.2, anchor: "start" }),
  text(x + 30, top + 2, "out", { size: 3.2, anchor: "end" }),
];
