import { z } from "zod";
import { drawNumbered } from "./numbered";
import type { ShapeRecord } from "./record";

export interface Naca4 {
  kind: "naca4";
  code: string;
  closed?: boolean | undefined;
}

/** Four-digit sections. Camber, its place in tenths of the chord, thickness in per cent. */
export const naca4: ShapeRecord<Naca4> = {
  kind: "naca4",
  title: "Four-digit section",
  words: ({ code }) => code,
  schema: z.strictObject({
    kind: z.literal("naca4"),
    code: z
      .string({ error: "must be four digits such as 2412" })
      .regex(/^\d{4}$/, { error: "must be four digits such as 2412" })
      .refine((code) => Number(code.slice(2)) > 0 && Number(code.slice(2)) <= 40, { error: "must end in a thickness from 01 to 40" })
      .refine((code) => (code[0] === "0") === (code[1] === "0"), { error: "must have both camber and its place, or neither" }),
    closed: z.boolean({ error: "must be true or false" }).optional(),
  }),
  fields: [
    { key: "code", as: "text", label: "Number", hint: "camber, its place in tenths, thickness: 2412" },
    { key: "closed", as: "switch", label: "Tail closed to a point" },
  ],
  start: () => ({ kind: "naca4", code: "2412" }),
  needsChord: true,
  law: {
    id: "four-digit",
    title: "Four-digit sections",
    formula: "y_t = 5 t (0.2969 sqrt x - 0.1260 x - 0.3516 x^2 + 0.2843 x^3 - 0.1015 x^4), square to the mean line",
    words: "Thickness by one formula for all, laid off square to a mean line of two parabolas. The tail is open unless it is asked to be closed.",
    range: "camber to 9 %, thickness to 40 %",
    basis: "published",
    source: "NACA Report 460 (1933); ordinates tabulated in Report 824 (1945)",
  },
  draw: ({ code, closed }, chordMm) => {
    const [m, p, t] = [Number(code[0]) / 100, Number(code[1]) / 10, Number(code.slice(2)) / 100];
    return drawNumbered(
      t,
      (x) => {
        if (m === 0) return { y: 0, slope: 0 };
        const k = x < p ? m / p ** 2 : m / (1 - p) ** 2;
        return { y: x < p ? k * (2 * p * x - x * x) : k * (1 - 2 * p + 2 * p * x - x * x), slope: 2 * k * (p - x) };
      },
      chordMm as number,
      closed ?? false,
    );
  },
  examples: [
    { kind: "naca4", code: "2412" },
    { kind: "naca4", code: "0012", closed: true },
  ],
};
