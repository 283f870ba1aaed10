import { z } from "zod";
import { typedText, type ValuesOf } from "../../units/field";
import { drawNumbered } from "./numbered";
import { shapeOf } from "./record";

/** m and k1 for camber at 5, 10, 15, 20 and 25 % of the chord, for a design lift of 0.3. */
const MEAN: Readonly<Record<string, readonly [m: number, k1: number]>> = {
  1: [0.058, 361.4],
  2: [0.126, 51.64],
  3: [0.2025, 15.957],
  4: [0.29, 6.643],
  5: [0.391, 3.23],
};

/** Five-digit sections without reflex. */
const sectionFields = [
  typedText(
    "code",
    "Number",
    z
      .string({ error: "must be five digits such as 23012" })
      .regex(/^\d{5}$/, { error: "must be five digits such as 23012" })
      .refine((code) => Number(code[0]) > 0, { error: "must begin with a design lift from 1 to 9" })
      .refine((code) => (code[1] as string) in MEAN, { error: "must have a second digit from 1 to 5: camber at 5 to 25 % of the chord" })
      .refine((code) => code[2] === "0", { error: "must have 0 as its third digit: reflexed mean lines are not drawn" })
      .refine((code) => Number(code.slice(3)) > 0 && Number(code.slice(3)) <= 40, { error: "must end in a thickness from 01 to 40" }),
    "23012",
    { hint: "23012" },
  ),
];
export type Naca5 = { kind: "naca5" } & ValuesOf<typeof sectionFields>;
export const naca5 = shapeOf<Naca5>({
  kind: "naca5",
  title: "Five-digit section",
  fields: sectionFields,
  words: ({ code }) => code,
  needsChord: true,
  law: {
    id: "five-digit",
    title: "Five-digit sections",
    formula: "y = (k1/6)(x^3 - 3 m x^2 + m^2 (3 - m) x) for x < m, (k1 m^3/6)(1 - x) beyond; k1 scaled by design lift over 0.3",
    words: "The four-digit thickness on a mean line that is curved in front and straight behind.",
    range: "no reflex; camber at 5 to 25 % of the chord",
    basis: "published",
    source: "NACA Report 537 (1935); Report 824 (1945)",
  },
  draw: ({ code }, chordMm) => {
    const [m, k] = MEAN[code[1] as string] as readonly [number, number];
    const k1 = (k * Number(code[0]) * 0.15) / 0.3;
    return drawNumbered(
      Number(code.slice(3)) / 100,
      (x) =>
        x < m
          ? { y: (k1 / 6) * (x ** 3 - 3 * m * x * x + m * m * (3 - m) * x), slope: (k1 / 6) * (3 * x * x - 6 * m * x + m * m * (3 - m)) }
          : { y: ((k1 * m ** 3) / 6) * (1 - x), slope: (-k1 * m ** 3) / 6 },
      chordMm as number,
      false,
    );
  },
  examples: [{ kind: "naca5", code: "23012" }],
});
