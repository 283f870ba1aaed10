import type { z } from "zod";
import type { Warning } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";

/** One verb of the command-line interface: a JSON value in, a JSON value out. */
export interface Verb {
  name: string;
  summary: string;
  example: unknown;
  run: (input: unknown, prefix: string) => unknown;
}

/** A verb whose input goes through a schema first. */
export function verb<T extends z.ZodType>(name: string, summary: string, schema: T, example: z.input<T>, run: (input: z.output<T>) => unknown): Verb {
  return { name, summary, example, run: (input, prefix) => run(parseOrThrow(schema, input, prefix)) };
}

/** Adds `warnings` only where there are some. */
export function withWarnings<T extends object>(result: T, warnings: Warning[]): T & { warnings?: Warning[] } {
  return warnings.length > 0 ? { ...result, warnings } : result;
}

/** Refinement: one of these keys, no more and no fewer. */
export const exactlyOne =
  (...keys: string[]) =>
  (input: Record<string, unknown>, ctx: z.core.$RefinementCtx) => {
    if (keys.filter((key) => input[key] !== undefined).length !== 1) {
      ctx.issues.push({ code: "custom", message: `give exactly one of ${keys.join(", ")}`, path: [], params: { code: "conflict" }, input: undefined });
    }
  };

/** Adds a refusal of one key to a refinement. */
export const refuse = (ctx: z.core.$RefinementCtx, path: string, message: string) =>
  ctx.issues.push({ code: "custom", message, path: [path], params: { code: "out-of-range" }, input: undefined });
