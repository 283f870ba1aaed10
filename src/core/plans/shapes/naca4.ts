import { z } from "zod";
import { toggle, typedText, type ValuesOf } from "../../units/field";
import { drawNumbered } from "./numbered";
import { shapeOf } from "./record";

/** Four-digit sections. Camber, its place in tenths of the chord, thickness in per cent. */
const sectionFields = [
  typedText(
    "code",
    "Number",
    z
      .string({ error: "must be four digits such as 2412" })
      .regex(/^\d{4}$/, { error: "must be four digits such as 2412" })
      .refine((code) => Number(code.slice(2)) > 0 && Number(code.slice(2)) <= 40, { error: "must end in a thickness from 01 to 40" })
      .refine((code) => (code[0] === "0") === (code[1] === "0"), { error: "must have both camber and its place, or neither" }),
    "2412",
    { hint: "camber, its place in tenths, thickness: 2412" },
  ),
  { ...toggle("", "closed", "Tail closed to a point"), optional: true, start: undefined as boolean | undefined },
];
export type Naca4 = { kind: "naca4" } & ValuesOf<typeof sectionFields>;
export const naca4 = shapeOf<Naca4>({
  kind: "naca4",
  title: "Four-digit section",
  fields: sectionFields,
  words: ({ code }) => code,
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
});
