import { z } from "zod";
import { idSchema } from "@/contract/kernel/endpoint";
import { LOG } from "@/contract/log/contract";
import { fileStem } from "@/core/kernel/fileStem";
import { parseOrThrow } from "@/core/kernel/parse";
import { MAX_LOG_FILE_CHARACTERS } from "@/core/log/files";
import { MAX_PHOTO_BYTES } from "@/core/log/photo";
import { database } from "../../kernel/db/client";
import { mutation, readBytes } from "../../kernel/http";
import { file, idMutation, idQuery, jsonResponse, readBody, readQuery } from "../../kernel/route";
import { addEntry, addPhoto, exportLog, getPhoto, importLog, LOG_PAGE, listLogWhole, previewLog, removeEntry, saveEntry } from "./repository";

interface EntryContext {
  params: Promise<{ id: string; entry: string }>;
}
const entryPath = z.strictObject({ id: idSchema, entry: idSchema });

/** JSON escapes may double a file's size on the way. */
const FILE_BYTES = 2 * MAX_LOG_FILE_CHARACTERS;

/** What the routes about a cutter's log do. */
export const logRoutes = {
  list: idQuery(async (db, id, request) => {
    const { before, after } = readQuery(request, LOG.list);
    const { rows, unreadable, older } = await listLogWhole(db, id, { limit: LOG_PAGE, before: before && after ? { at: before, id: after } : undefined });
    return jsonResponse(LOG.list, { entries: rows, unreadable, older });
  }),

  add: idMutation(async (db, id, request) => {
    const { entry, id: own } = await readBody(request, LOG.add);
    return jsonResponse(LOG.add, { row: await addEntry(db, id, entry, own) }, 201);
  }),

  save: mutation(async (request: Request, context: EntryContext) => {
    const { id, entry } = parseOrThrow(entryPath, await context.params);
    const { revision, entry: next } = await readBody(request, LOG.save);
    return jsonResponse(LOG.save, { row: await saveEntry(await database(), id, entry, revision, next) });
  }),

  remove: mutation(async (_request: Request, context: EntryContext) => {
    const { id, entry } = parseOrThrow(entryPath, await context.params);
    await removeEntry(await database(), id, entry);
    return jsonResponse(LOG.remove, {});
  }, "keep"),

  preview: idMutation(async (db, id, request) => {
    const { text } = await readBody(request, LOG.preview, FILE_BYTES);
    return jsonResponse(LOG.preview, { rows: await previewLog(db, id, text) });
  }),

  importFile: idMutation(async (db, id, request) => {
    const { text } = await readBody(request, LOG.importFile, FILE_BYTES);
    return jsonResponse(LOG.importFile, { rows: await importLog(db, id, text) });
  }),

  /** The whole log: CSV, or JSON with its pictures. */
  exportFile: idQuery(async (db, id, request) => {
    const { format } = readQuery(request, LOG.file);
    const { name, text } = await exportLog(db, id, format);
    return file(text, format === "csv" ? "text/csv; charset=utf-8" : "application/json", `${fileStem(name)}-log.${format}`);
  }),

  /** Takes a picture's own bytes. */
  addPhoto: idMutation(async (db, id, request) => jsonResponse(LOG.addPhoto, { id: await addPhoto(db, id, await readBytes(request, MAX_PHOTO_BYTES)) }, 201)),

  photo: idQuery(async (db, id) => {
    const { type, bytes } = await getPhoto(db, id);
    return new Response(new Uint8Array(bytes), {
      headers: { "content-type": type, "x-content-type-options": "nosniff", "cache-control": "private, max-age=31536000, immutable" },
    });
  }),
};
