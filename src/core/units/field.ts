import type { z } from "zod";
import { LIMITS, type LimitName } from "./limits";
import type { Quantity } from "./units";

/** How a form asks for a figure. */
export interface Asked {
  key: string;
  label: string;
  /** Fields of one heading are together. */
  group: string;
  hint?: string;
  /** Asked only where another field says so. */
  only?: { key: string; is: unknown };
}
/** A number; with a quantity it is stored in that quantity's canonical unit. */
export interface AllowedNumber {
  as: "number";
  quantity?: Quantity;
  unit?: string;
  min: number;
  max: number;
  whole?: boolean;
  /** may be left empty: null in a rig, left out of a supply, a control, a shape */
  optional?: boolean;
  /** more than the most is lethal, and why it is refused */
  kills?: string;
  decimals?: number;
}
export interface AllowedWord {
  as: "word";
  least: number;
  most: number;
}
export interface AllowedChoice {
  as: "choice";
  options: readonly Option[];
  optional?: boolean;
}
/** A few numbers, or a few numbers a line. */
export type AllowedList =
  | { as: "numbers"; quantity: Quantity; min: number; max: number; most: number }
  | { as: "rows"; columns: readonly Column[]; most: number };
/** What a document may hold under a key. */
export type Allowed =
  | AllowedNumber
  | AllowedWord
  | AllowedList
  | AllowedChoice
  | { as: "switch"; optional?: boolean }
  /** read by a schema of its own: text, over several lines, or as pairs of numbers a line; a font's file, and where its name is stored */
  | { as: "text"; lines?: "text" | "pairs"; schema: z.ZodType }
  | { as: "font"; nameKey: string; schema: z.ZodType };
/** One thing that a form asks for and a document holds: of a rig, a shape, a supply, a control. */
export type Field = Allowed & Asked;

type Option = readonly [value: string, words: string];
interface Column {
  label: string;
  min: number;
  max: number;
}

/** A number inside one of the {@link LIMITS}. */
export const limited = (limit: LimitName, more: Pick<AllowedNumber, "whole" | "optional" | "kills"> = {}): AllowedNumber => ({
  as: "number",
  ...LIMITS[limit],
  ...more,
});
/** One of some words. */
export const oneOf = (words: readonly string[], more: Pick<AllowedChoice, "optional"> = {}): AllowedChoice => ({
  as: "choice",
  options: words.map((word) => [word, word]),
  ...more,
});

/** A field with the value it begins with. */
export type Begun<K extends string, V> = Field & { key: K; start: V };
/** What a document of these fields holds. */
export type ValuesOf<F extends readonly Begun<string, unknown>[]> = { [P in F[number] as undefined extends P["start"] ? never : P["key"]]: P["start"] } & {
  [P in F[number] as undefined extends P["start"] ? P["key"] : never]?: P["start"];
};

/** A document of some kind as it begins. */
export const startOf = <K extends string, F extends readonly Begun<string, unknown>[]>(kind: K, fields: F) =>
  ({ kind, ...Object.fromEntries(fields.flatMap(({ key, start }) => (start === undefined ? [] : [[key, start]]))) }) as { kind: K } & ValuesOf<F>;

type Figure<S> = S extends number ? number : number | S;
interface More {
  hint?: string;
  decimals?: number;
  whole?: boolean;
}

/** How a number is measured: a quantity, or a unit of its own. One that begins with nothing may be left empty. */
const numberIn =
  <U>(unitOf: (unit: U) => Pick<AllowedNumber, "quantity" | "unit">) =>
  <K extends string, S extends number | null | undefined>(
    group: string,
    key: K,
    label: string,
    unit: U,
    [min, max]: readonly [number, number],
    start: S,
    more: More = {},
  ): Begun<K, Figure<S>> => ({
    as: "number",
    group,
    key,
    label,
    ...unitOf(unit),
    min,
    max,
    start: start as Figure<S>,
    optional: start === null || start === undefined,
    ...more,
  });
/** A number of a quantity. */
export const number = numberIn((quantity: Quantity) => ({ quantity }));
/** A number in a unit of its own. */
export const plain = numberIn((unit: string) => ({ unit }));

export const choice = <K extends string, const O extends readonly Option[]>(
  group: string,
  key: K,
  label: string,
  options: O,
  start: O[number][0],
): Begun<K, O[number][0]> => ({ as: "choice", group, key, label, options, start });

export const toggle = <K extends string>(group: string, key: K, label: string, start = false): Begun<K, boolean> => ({
  as: "switch",
  group,
  key,
  label,
  start,
});

export const word = <K extends string>(
  group: string,
  key: K,
  label: string,
  [least, most]: readonly [number, number],
  start: string,
  hint = "",
): Begun<K, string> => ({ as: "word", group, key, label, least, most, start, hint });

export const numberList = <K extends string>(
  group: string,
  key: K,
  label: string,
  quantity: Quantity,
  [min, max]: readonly [number, number],
  most: number,
  start: number[] = [],
): Begun<K, number[]> => ({ as: "numbers", group, key, label, quantity, min, max, most, start });

/** A few numbers a line. */
export const rows = <K extends string, const C extends readonly Column[]>(
  group: string,
  key: K,
  label: string,
  columns: C,
  most: number,
  start: { -readonly [I in keyof C]: number }[] = [],
): Begun<K, { -readonly [I in keyof C]: number }[]> => ({ as: "rows", group, key, label, columns, most, start });

/** Text that a schema of its own reads. */
export const typedText = <K extends string, S extends z.ZodType>(
  key: K,
  label: string,
  schema: S,
  start: z.output<S>,
  more: { hint: string; lines?: "text" | "pairs" },
): Begun<K, z.output<S>> => ({ as: "text", group: "", key, label, schema, start, ...more });

/** Fields that are asked only where another says so. */
export const onlyWhere = <const F extends readonly Begun<string, unknown>[]>(key: string, is: unknown, ...fields: F): F[number][] =>
  fields.map((field) => ({ ...field, only: { key, is } }));
