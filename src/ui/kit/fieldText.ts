import type { Field } from "@/core/units/field";

/** Kinds of field that are typed as text. */
export type TextKind = { as: "word" } | { as: "numbers" } | { as: "rows" } | { as: "text" };
type TextField = Extract<Field, TextKind>;
/** What was typed means a value, or is at fault in these words. */
export type Typed = { value: unknown } | { fault: string };

/** A value as it is typed. */
export function writtenAs(field: TextField, value: unknown): string {
  if (field.as === "numbers") return (value as readonly number[]).join(", ");
  if (Array.isArray(value)) return (value as readonly (readonly number[])[]).map((row) => row.join(" ")).join("\n");
  return String(value ?? "");
}

export const readWord = ({ least, most }: { least: number; most: number }, text: string): Typed =>
  text.trim().length < least || text.length > most ? { fault: `must be ${least} to ${most} characters` } : { value: text };

const split = (text: string) =>
  text
    .split(/[\s,;x×]+/)
    .filter(Boolean)
    .map(Number);

/** Numbers of one line, each inside its column; a line that is longer goes on in the last column. */
function readNumbers(text: string, columns: readonly { label: string; min: number; max: number }[]): Typed & { value?: number[] } {
  const found = split(text);
  for (const [i, each] of found.entries()) {
    const { label, min, max } = columns[Math.min(i, columns.length - 1)] as (typeof columns)[number];
    if (!(each >= min && each <= max)) return { fault: `${label}: a number from ${min} to ${max}` };
  }
  return { value: found };
}

/** A list of numbers, rows of numbers, or text that a schema of its own reads. */
export function readList(field: Exclude<TextField, { as: "word" }>, text: string): Typed {
  if (field.as === "numbers") {
    const found = readNumbers(text, [{ ...field, label: field.label.toLowerCase() }]);
    return found.value && found.value.length > field.most ? { fault: `at most ${field.most}` } : found;
  }
  if (field.as === "text") {
    const read = field.schema.safeParse(field.lines === "pairs" ? text.trim().split(/\n+/).map(split) : text);
    return read.success ? { value: read.data } : { fault: `${field.label.toLowerCase()}: ${read.error.issues[0]?.message ?? "cannot be read"}` };
  }
  const rows: number[][] = [];
  for (const [i, line] of text.split("\n").entries()) {
    if (line.trim() === "") continue;
    const found = readNumbers(line, field.columns);
    if ("fault" in found) return { fault: `line ${i + 1}: ${found.fault}` };
    if (found.value?.length !== field.columns.length) return { fault: `line ${i + 1}: ${field.columns.map(({ label }) => label).join(", ")}` };
    rows.push(found.value);
  }
  return rows.length > field.most ? { fault: `at most ${field.most} lines` } : { value: rows };
}
