import { z } from "zod";
import { CoreError, type CoreErrorCode } from "./errors";

/** Adds a complaint with a stable code; nothing after it is looked at. */
export const fail = (ctx: z.core.$RefinementCtx, code: CoreErrorCode, message: string, path: (string | number)[] = []) =>
  ctx.issues.push({ code: "custom", message, path, params: { code }, input: undefined, continue: false });

const LONE_HALF = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/** Text the database keeps as it is: no NUL, no half of a character pair. */
export const plainText = (most: number, message: string) =>
  z
    .string({ error: message })
    .max(most, { error: message })
    .refine((text) => !text.includes("\u0000") && !LONE_HALF.test(text), { error: "has a character that cannot be kept" });

/** Runs a schema inside a transform and passes its issues on with their own paths. */
export function parsed<T extends z.ZodType>(schema: T, value: unknown, ctx: z.core.$RefinementCtx): z.output<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  for (const issue of result.error.issues) ctx.issues.push({ ...issue, input: undefined } as never);
  return z.NEVER;
}

const issueCodes: Partial<Record<string, CoreErrorCode>> = {
  too_small: "out-of-range",
  too_big: "out-of-range",
  invalid_value: "not-one-of",
  invalid_union: "not-one-of",
};

/** What each kind of value is called by those who type it. */
const VALUE_WORDS: Partial<Record<string, string>> = {
  object: "an object with named values",
  record: "an object with named values",
  array: "a list",
  tuple: "a list",
  number: "a number",
  int: "a whole number",
  string: "text",
  boolean: "true or false",
};

/** An issue's own words where its schema has some; else the library's, put as this project puts them. */
function wordsOf(issue: z.core.$ZodIssue): string {
  if (!/^(Invalid|Too (small|big)|Unrecognized)/.test(issue.message)) return issue.message;
  switch (issue.code) {
    case "invalid_type":
      return issue.message.includes("received undefined") ? "is required" : `must be ${VALUE_WORDS[issue.expected] ?? "of another kind"}`;
    case "too_small":
      return `must be at least ${issue.minimum}${countedIn(issue.origin)}`;
    case "too_big":
      return `must be at most ${issue.maximum}${countedIn(issue.origin)}`;
    case "invalid_value":
      return `must be one of ${issue.values.map(String).join(", ")}`;
    default:
      return issue.message;
  }
}
const countedIn = (origin: string) => (origin === "array" ? " entries long" : origin === "string" ? " characters long" : "");

/** The first complaint of a schema as the core's own error: stable code, dotted path, words that name the field. */
export function toCoreError(error: z.ZodError, prefix = ""): CoreError {
  const issue = error.issues[0] as z.core.$ZodIssue;
  const steps = [...(prefix ? [prefix] : []), ...issue.path.map(String)];
  if (issue.code === "unrecognized_keys") {
    const path = [...steps, issue.keys[0]].join(".");
    return new CoreError("unknown-key", path, `${path} is not a known key`);
  }
  const path = steps.join(".");
  const requested = issue.code === "custom" ? (issue.params?.code as CoreErrorCode | undefined) : undefined;
  const words = wordsOf(issue);
  const missing = words.startsWith("is required");
  const code = requested ?? (missing ? "missing-key" : (issueCodes[issue.code] ?? (issue.code === "custom" ? "out-of-range" : "wrong-type")));
  return new CoreError(code, path, path ? (words.startsWith(path) ? words : `${path} ${words}`) : /^(must|is) /.test(words) ? `what is given ${words}` : words);
}

/**
 * Parses with a schema or throws the first complaint as a {@link CoreError}.
 * @param prefix put before the path, such as a list index
 */
export function parseOrThrow<T extends z.ZodType>(schema: T, value: unknown, prefix = ""): z.output<T> {
  const result = schema.safeParse(value);
  if (!result.success) throw toCoreError(result.error, prefix);
  return result.data;
}

/** What a union of kinds says of a kind it does not know. */
export const kindsError = (kinds: string) => ({ error: `kind must be one of ${kinds}` });
