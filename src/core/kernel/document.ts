import type { z } from "zod";
import type { DocumentId } from "./documentIds";
import { CoreError } from "./errors";
import type { Merger } from "./merge";
import { parseOrThrow } from "./parse";
import { WRITTEN_BY } from "./version";

/** A kind of document: one JSON value with its format's name and version first, saved, exported and opened again by later programs. */
export interface DocumentKind<T extends { format: string; version: number }> {
  format: T["format"];
  version: T["version"];
  /** What one is called in words: "design". */
  one: string;
  /** Most characters its file may have. */
  maxCharacters: number;
  schema: z.ZodType<T>;
  /** What makes of a value of each older version one of the next: `upgrades[1]` makes version 2. */
  upgrades: Readonly<Record<number, (value: object) => unknown>>;
}

/** A stored document: as the repositories return it, as pages hold it. */
export interface StoredDocument<T> {
  id: string;
  document: T;
  revision: number;
  /** ISO times */
  updatedAt: string;
  deletedAt: string | null;
  /** who saved it last, where somebody was signed in */
  changedBy: string | null;
}

/** What every document says of itself. */
export interface AnyDocument {
  format: string;
  version: number;
  name: string;
}

/** Everything that is derived of one kind of document: routes, table, archive part, checks, browser store. */
export interface DocumentRecord<T extends AnyDocument> {
  id: DocumentId;
  /** Format, schema and upgrades. */
  kind: DocumentKind<T>;
  /** Of its files, before `.json`. */
  fileExtension: string;
  /** First version of archives that has it. */
  archivedSince: number;
  /** The parts that two people can change independently. */
  merger: Merger<T>;
  /** What is made of a document that somebody changed, before it is shown and saved; a notice says what else had to change. */
  normalise?: (document: T) => { document: T; notice?: string };
  /** What a document must satisfy beyond its schema before it is stored. @throws CoreError with the path of the field at fault */
  validate?: (document: T) => void;
}

/** A document without the word of who wrote it, which a file carries and the document does not. */
function unsigned(value: object): unknown {
  const { writtenBy, ...rest } = value as { writtenBy?: unknown };
  return writtenBy === undefined || typeof writtenBy === "string" ? rest : value;
}

/**
 * Reads a document from a parsed JSON value of this or an older version.
 * @throws CoreError `wrong-format` when it is none, `newer-format` when a later program wrote it, otherwise the first bad field by path
 */
export function readDocument<T extends { format: string; version: number }>(kind: DocumentKind<T>, value: unknown): T {
  const { format, version: newest, one } = kind;
  if (value === null || typeof value !== "object" || Array.isArray(value) || !("format" in value) || value.format !== format)
    throw new CoreError("wrong-format", "format", `this is not a ${one}: its "format" should be "${format}"`);
  const version = "version" in value ? value.version : undefined;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1)
    throw new CoreError("wrong-format", "version", `version must be a whole number from 1 to ${newest}`);
  if (version > newest)
    throw new CoreError(
      "newer-format",
      "version",
      `this ${one} was written by a newer Upwind Rod (format ${version}; this one reads up to ${newest}). Nothing was changed: update this copy, then open it again.`,
    );
  let risen: unknown = value;
  for (let from = version; from < newest; from++) {
    const upgrade = kind.upgrades[from];
    if (!upgrade) throw new CoreError("wrong-format", "version", `this program no longer reads version ${from} of a ${one}`);
    risen = upgrade(risen as object);
  }
  return parseOrThrow(kind.schema, unsigned(risen as object));
}

/**
 * Reads a document from the text of a file.
 * @throws CoreError `out-of-range` when it is too long, `bad-json` with the place of the fault, or as {@link readDocument}
 */
export function readDocumentText<T extends { format: string; version: number }>(kind: DocumentKind<T>, text: string): T {
  if (text.length > kind.maxCharacters)
    throw new CoreError("out-of-range", "", `a ${kind.one} file has at most ${kind.maxCharacters} characters; this one has ${text.length}`);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CoreError("bad-json", "", `not valid JSON: ${(error as Error).message}`);
  }
  return readDocument(kind, value);
}

/** The document as the text of a file: format name and version first, then who wrote it; two-space indent. */
export function writeDocument<T extends { format: string; version: number }>(kind: DocumentKind<T>, document: T): string {
  const { format, version, ...rest } = kind.schema.parse(document);
  return `${JSON.stringify({ format, version, writtenBy: WRITTEN_BY, ...rest }, null, 2)}\n`;
}
