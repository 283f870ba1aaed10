import { box, path, type Shape, text } from "../../../kernel/drawing";
import type { SignAt } from "./record";

/** What is known of a supply's being apart from the mains, beneath its box. */
export const isolationWords = ({ bottom, isolated }: SignAt): Shape =>
  text(43, bottom + 13, isolated ? "isolated, factory-made" : "isolation not known", { size: 3.6, anchor: "start", ink: isolated ? "soft" : "ember" });

/** A box that makes direct current of the mains, with two lines of its plate and what it is called. */
export function boxSign(plate: readonly [string, string], called: string, at: SignAt): Shape[] {
  const { x, top, bottom } = at;
  const middle = (top + bottom) / 2;
  return [
    path(`M40 62H${x - 16}M40 98H${x - 16}`, { stroke: "soft" }),
    box(x - 16, middle - 27, 32, 54),
    path(`M${x - 16} ${middle + 27}l32 -54`, { stroke: "line" }),
    text(x - 7, middle - 12, "~", { size: 7 }),
    text(x + 8, middle + 18, "=", { size: 7 }),
    box(x - 13, middle - 6.5, 26, 12.5, { stroke: "none" }),
    text(x, middle - 2, plate[0], { mono: true, bold: true }),
    text(x, middle + 4, plate[1], { mono: true }),
    text(43, bottom + 8, called, { size: 4, anchor: "start" }),
    isolationWords(at),
    path(`M${x} ${top}V${middle - 27}M${x} ${middle + 27}V${bottom}`),
    text(x - 2, top + 2.6, "+", { anchor: "end", bold: true }),
  ];
}
