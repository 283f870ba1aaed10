import { and, count, desc, eq, ilike, isNotNull, isNull, like, sql } from "drizzle-orm";
import type { PgColumn, PgTable } from "drizzle-orm/pg-core";
import { DOCUMENTS, type DocumentTypes } from "@/core/documents/documents";
import { type DocumentRecord, readDocument, type StoredDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import { CoreError } from "@/core/kernel/errors";
import { whoName } from "./access/who";
import type { Executor } from "./db/client";
import { type cutters, DOCUMENT_TABLES } from "./db/schema";
import { ServerError } from "./errors";

/** A row this program cannot read, such as one a newer program wrote: shown as it is, touched by nothing. */
export interface Unreadable {
  id: string;
  name: string;
  why: string;
}

/** Which documents a list is of. */
export interface DocumentPage {
  /** Those archived and still restorable, in place of those in use. */
  deleted?: boolean;
  /** Part of the name, in any case. */
  find?: string;
  limit?: number;
  offset?: number;
}

/** Columns of every table of documents. */
type DocumentTable = PgTable &
  Record<"id" | "name" | "formatVersion" | "revision" | "createdAt" | "updatedAt" | "changedBy" | "deletedAt" | "document", PgColumn>;
type Row = typeof cutters.$inferSelect;

const SPECIAL = /[\\%_]/g;
const literally = (text: string) => text.replaceAll(SPECIAL, (sign) => `\\${sign}`);

/** Separates rows that can be read from those that cannot: one bad row does not hide the others. */
export function readEach<R extends { id: string }, T>(
  rows: readonly R[],
  read: (row: R) => T,
  nameOf: (row: R) => string,
): { readable: T[]; unreadable: Unreadable[] } {
  const readable: T[] = [];
  const unreadable: Unreadable[] = [];
  for (const row of rows) {
    try {
      readable.push(read(row));
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      unreadable.push({ id: row.id, name: nameOf(row), why: error.message });
    }
  }
  return { readable, unreadable };
}

/**
 * Lists, stores, copies and archives documents of one kind, each with a revision that every save must name.
 */
export function documentRepository<Id extends DocumentId>(id: Id) {
  const table: DocumentTable = DOCUMENT_TABLES[id];
  type T = DocumentTypes[Id];
  // One kind's type represents all: what follows reads only what every document has.
  const { kind } = DOCUMENTS[id] as unknown as DocumentRecord<T>;
  const { one } = DOCUMENT_NAMES[id];
  const notFound = () => new ServerError("not-found", 404, `This ${one} is not here: it may have been deleted for good.`);
  const toStored = (row: Row): StoredDocument<T> => ({
    id: row.id,
    document: readDocument(kind, row.document),
    revision: row.revision,
    updatedAt: row.updatedAt.toISOString(),
    deletedAt: row.deletedAt?.toISOString() ?? null,
    changedBy: row.changedBy,
  });
  const columnsOf = (document: T) => ({ name: document.name, formatVersion: kind.version, changedBy: whoName(), document });
  const chosen = ({ deleted, find }: DocumentPage) =>
    and(deleted ? isNotNull(table.deletedAt) : isNull(table.deletedAt), find ? ilike(own.name, `%${literally(find)}%`) : undefined);
  // One table's type represents all of the shape: drizzle's own types go by the table's name.
  const own = table as unknown as typeof cutters;

  const repository = {
    /** Last changed first; or those archived that can still be brought back. */
    async list(db: Executor, page: DocumentPage = {}): Promise<{ readable: StoredDocument<T>[]; unreadable: Unreadable[] }> {
      const sorted = db
        .select()
        .from(own)
        .where(chosen(page))
        .orderBy(desc(page.deleted ? table.deletedAt : table.updatedAt), table.name, table.id)
        .offset(page.offset ?? 0);
      const rows = await (page.limit === undefined ? sorted : sorted.limit(page.limit));
      return readEach(rows, toStored, (row) => row.name);
    },

    /** How many there are; of a list, or all and those archived too. */
    async count(db: Executor, page?: DocumentPage): Promise<number> {
      const [row] = await db
        .select({ rows: count() })
        .from(own)
        .where(page && chosen(page));
      return row?.rows ?? 0;
    },

    /** Names of those in use, last changed first: for lists to choose from. As one text: the engine's row protocol takes five times as long. */
    async names(db: Executor): Promise<{ id: string; name: string }[]> {
      const [row] = await db
        .select({
          all: sql<string>`coalesce(json_agg(json_build_object('id', ${table.id}, 'name', ${table.name}) order by ${table.updatedAt} desc, ${table.name}, ${table.id}), '[]')::text`,
        })
        .from(own)
        .where(isNull(table.deletedAt));
      return JSON.parse(row?.all ?? "[]") as { id: string; name: string }[];
    },

    /** @throws ServerError `not-found`, also for one that is archived */
    async get(db: Executor, id: string): Promise<StoredDocument<T>> {
      const [row] = await db
        .select()
        .from(own)
        .where(and(eq(table.id, id), isNull(table.deletedAt)));
      if (!row) throw notFound();
      return toStored(row);
    },

    async create(db: Executor, document: T): Promise<StoredDocument<T>> {
      const [row] = await db.insert(own).values(columnsOf(document)).returning();
      return toStored(row as Row);
    },

    /**
     * Saves over a known revision.
     * @param current what the refusal of a stale save carries, made of what is there
     * @throws ServerError `stale-revision` when somebody saved in between
     */
    async save(
      db: Executor,
      id: string,
      revision: number,
      document: T,
      current: (stored: StoredDocument<T>) => unknown = (stored) => stored,
    ): Promise<StoredDocument<T>> {
      const [row] = await db
        .update(own)
        .set({ ...columnsOf(document), revision: revision + 1, updatedAt: sql`now()` })
        .where(and(eq(table.id, id), eq(table.revision, revision), isNull(table.deletedAt)))
        .returning();
      if (row) return toStored(row);
      const stored = await repository.get(db, id);
      throw new ServerError("stale-revision", 409, `This ${one} was changed elsewhere since you opened it.`, { current: current(stored) });
    },

    /** Puts one aside, or brings it back. */
    async setDeleted(db: Executor, id: string, deleted: boolean): Promise<StoredDocument<T>> {
      const [row] = await db
        .update(own)
        .set({ deletedAt: deleted ? sql`now()` : null, changedBy: whoName() })
        .where(and(eq(table.id, id), deleted ? isNull(table.deletedAt) : isNotNull(table.deletedAt)))
        .returning();
      if (!row) throw notFound();
      return toStored(row);
    },

    /** A copy under a name that is not taken: "Long Tom, copy", "Long Tom, copy 2". */
    async duplicate(db: Executor, id: string): Promise<StoredDocument<T>> {
      const { document } = await repository.get(db, id);
      const stem = document.name.replace(/, copy( \d+)?$/, "").slice(0, 68);
      const taken = await db
        .select({ name: own.name })
        .from(own)
        .where(and(isNull(table.deletedAt), like(own.name, `${literally(stem)}, copy%`)));
      const names = new Set(taken.map((row) => row.name));
      let name = `${stem}, copy`;
      for (let i = 2; names.has(name); i++) name = `${stem}, copy ${i}`;
      return repository.create(db, { ...document, name });
    },
  };
  return repository;
}
