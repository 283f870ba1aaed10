import type { Exchange, Told } from "@/contract/kernel/exchange";
import { type DocumentKind, readDocumentText, writeDocument } from "@/core/kernel/document";
import { fileStem } from "@/core/kernel/fileStem";
import { type Database, database } from "./db/client";
import type { DocumentPage, Kept, Unreadable } from "./documents";
import { asked, askedInAddress, file, idMutation, idQuery, told } from "./door";
import { mutation, query } from "./http";

/** Repository of one kind of document, as {@link documentDoor} needs it. */
interface Repository<T> {
  list: (db: Database, page?: DocumentPage) => Promise<{ readable: Kept<T>[]; unreadable: Unreadable[] }>;
  get: (db: Database, id: string) => Promise<Kept<T>>;
  create: (db: Database, document: T) => Promise<Kept<T>>;
  save: (db: Database, id: string, revision: number, document: T, current: (standing: Kept<T>) => unknown) => Promise<Kept<T>>;
  setDeleted: (db: Database, id: string, deleted: boolean) => Promise<Kept<T>>;
  duplicate: (db: Database, id: string) => Promise<Kept<T>>;
}

interface DocumentExchanges {
  list: Exchange;
  get: Exchange;
  create: Exchange;
  save: Exchange;
  remove: Exchange;
  restore: Exchange;
  duplicate: Exchange;
  importFile: Exchange;
}

/**
 * What the routes about one kind of document do: list, make, read, save, put away, bring back, copy, give out and take in.
 * @param one the word by which the contract's answers carry a document, and `many` by which they carry a list
 * @param ending of its files
 */
export function documentDoor<T extends { format: string; version: number; name: string }>({
  exchanges,
  repository,
  kind,
  one,
  many,
  ending,
}: {
  exchanges: DocumentExchanges;
  repository: Repository<T>;
  kind: DocumentKind<T>;
  one: string;
  many: string;
  ending: string;
}) {
  // JSON escapes may double a document's size on the way.
  const bodyBytes = 2 * kind.maxCharacters;
  const rowOf = ({ document, ...row }: Kept<T>) => ({ ...row, [one]: document });
  const answer = <E extends Exchange>(exchange: E, kept: Kept<T>, status = 200) => told(exchange, { [one]: rowOf(kept) } as Told<E>, status);
  const read = async (request: Request, exchange: Exchange, most = bodyBytes) => (await asked(request, exchange, most)) as Record<string, unknown>;
  return {
    list: query(async (request: Request) => {
      const db = await database();
      const page = askedInAddress(request, exchanges.list) as DocumentPage;
      const { readable, unreadable } = await repository.list(db, page);
      const { readable: deleted } = await repository.list(db, { ...page, deleted: true });
      return told(exchanges.list, { [many]: readable.map(rowOf), deleted: deleted.map(rowOf), unreadable });
    }),
    create: mutation(async (request: Request) => {
      const question = await read(request, exchanges.create);
      return answer(exchanges.create, await repository.create(await database(), question[one] as T), 201);
    }),
    get: idQuery(async (db, id) => answer(exchanges.get, await repository.get(db, id))),
    save: idMutation(async (db, id, request) => {
      const question = await read(request, exchanges.save);
      return answer(exchanges.save, await repository.save(db, id, question.revision as number, question[one] as T, rowOf));
    }),
    remove: idMutation(async (db, id) => answer(exchanges.remove, await repository.setDeleted(db, id, true)), "keep"),
    restore: idMutation(async (db, id) => answer(exchanges.restore, await repository.setDeleted(db, id, false)), "keep"),
    duplicate: idMutation(async (db, id) => answer(exchanges.duplicate, await repository.duplicate(db, id), 201)),
    exportFile: idQuery(async (db, id) => {
      const { document } = await repository.get(db, id);
      return file(writeDocument(kind, document), "application/json; charset=utf-8", `${fileStem(document.name)}.${ending}.json`);
    }),
    importFile: mutation(async (request: Request) => {
      const { text } = await read(request, exchanges.importFile, 2 * bodyBytes);
      return answer(exchanges.importFile, await repository.create(await database(), readDocumentText(kind, text as string)), 201);
    }),
  };
}
