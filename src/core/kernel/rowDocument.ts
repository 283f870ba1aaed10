import type { z } from "zod";
import { CoreError } from "./errors";
import { toCoreError } from "./parse";

/** A kind of small document that is kept as a row, its format's version next to it: a thing in the drawer, an entry of the log. */
export interface RowKind<T> {
  /** What one is called in words: "log entry". */
  one: string;
  version: number;
  schema: z.ZodType<T>;
  /** What makes of a value of each older version one of the next. */
  upgrades: Readonly<Record<number, (value: unknown) => unknown>>;
}

/**
 * Reads a row's document, whichever version wrote it.
 * @throws CoreError `newer-format` where a later program wrote it, otherwise the first bad field by path
 */
export function readRow<T>(kind: RowKind<T>, value: unknown, version: number): T {
  if (version > kind.version)
    throw new CoreError(
      "newer-format",
      "version",
      `this ${kind.one} was written by a newer Upwind Rod (format ${version}; this one reads up to ${kind.version})`,
    );
  let risen = value;
  for (let from = version; from < kind.version; from++) {
    const upgrade = kind.upgrades[from];
    if (!upgrade) throw new CoreError("wrong-format", "version", `this program no longer reads version ${from} of a ${kind.one}`);
    risen = upgrade(risen);
  }
  const parsed = kind.schema.safeParse(risen);
  if (!parsed.success) throw toCoreError(parsed.error);
  return parsed.data;
}
