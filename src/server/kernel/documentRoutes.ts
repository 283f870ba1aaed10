import { documentEndpoints } from "@/contract/documents/contract";
import type { Endpoint, ResponseBody } from "@/contract/kernel/endpoint";
import { DOCUMENTS, type DocumentTypes } from "@/core/documents/documents";
import { type DocumentRecord, readDocumentText, type StoredDocument, writeDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import { fileStem } from "@/core/kernel/fileStem";
import { database } from "./db/client";
import { type DocumentPage, documentRepository } from "./documents";
import { mutation, query } from "./http";
import { file, idMutation, idQuery, jsonResponse, readBody, readQuery } from "./route";

type Action = "list" | "get" | "create" | "save" | "remove" | "restore" | "duplicate" | "importFile";

/**
 * The handlers of one kind of document: list, create, read, save, archive, restore, copy, export and import. The payload is called `document` everywhere but here, where
 * it gets its own key in responses and requests.
 */
export function documentRoutes<Id extends DocumentId>(id: Id) {
  type T = DocumentTypes[Id];
  // One kind's type represents all: what follows reads only what every document has.
  const { kind, fileExtension, validate } = DOCUMENTS[id] as unknown as DocumentRecord<T>;
  const { one, payload } = DOCUMENT_NAMES[id];
  const endpoints: Readonly<Record<Action, Endpoint>> = documentEndpoints(id, kind.schema);
  const repository = documentRepository(id);
  // JSON escapes may double a document's size on the way.
  const bodyBytes = 2 * kind.maxCharacters;
  const rowOf = ({ document, ...row }: StoredDocument<T>) => ({ ...row, [payload]: document });
  const respond = <E extends Endpoint>(endpoint: E, stored: StoredDocument<T>, status = 200) =>
    jsonResponse(endpoint, { [one]: rowOf(stored) } as ResponseBody<E>, status);
  const read = async (request: Request, endpoint: Endpoint, most = bodyBytes) => (await readBody(request, endpoint, most)) as Record<string, unknown>;
  const validated = (document: T): T => {
    validate?.(document);
    return document;
  };
  return {
    list: query(async (request: Request) => {
      const db = await database();
      const page = readQuery(request, endpoints.list) as DocumentPage;
      const { readable, unreadable } = await repository.list(db, page);
      const { readable: deleted } = await repository.list(db, { ...page, deleted: true });
      return jsonResponse(endpoints.list, { [id]: readable.map(rowOf), deleted: deleted.map(rowOf), unreadable });
    }),
    create: mutation(async (request: Request) => {
      const { [payload]: document } = await read(request, endpoints.create);
      return respond(endpoints.create, await repository.create(await database(), validated(document as T)), 201);
    }),
    get: idQuery(async (db, row) => respond(endpoints.get, await repository.get(db, row))),
    save: idMutation(async (db, row, request) => {
      const { revision, [payload]: document } = await read(request, endpoints.save);
      return respond(endpoints.save, await repository.save(db, row, revision as number, validated(document as T), rowOf));
    }),
    remove: idMutation(async (db, row) => respond(endpoints.remove, await repository.setDeleted(db, row, true)), "keep"),
    restore: idMutation(async (db, row) => respond(endpoints.restore, await repository.setDeleted(db, row, false)), "keep"),
    duplicate: idMutation(async (db, row) => respond(endpoints.duplicate, await repository.duplicate(db, row), 201)),
    exportFile: idQuery(async (db, row) => {
      const { document } = await repository.get(db, row);
      return file(writeDocument(kind, document), "application/json; charset=utf-8", `${fileStem(document.name)}.${fileExtension}.json`);
    }),
    importFile: mutation(async (request: Request) => {
      const { text } = await read(request, endpoints.importFile, 2 * bodyBytes);
      return respond(endpoints.importFile, await repository.create(await database(), validated(readDocumentText(kind, text as string))), 201);
    }),
  };
}
