import { DRAWER } from "@/contract/drawer/contract";
import { MAX_CSV_CHARACTERS } from "@/core/drawer/things";
import { database } from "../../kernel/db/client";
import { mutation, query } from "../../kernel/http";
import { file, idMutation, jsonResponse, readBody } from "../../kernel/route";
import { addItem, exportDrawer, importDrawer, listDrawerWhole, previewImport, removeItem, restoreItem, saveItem } from "./repository";

/** Room for the longest file in any encoding of its letters. */
const FILE_BYTES = 6 * MAX_CSV_CHARACTERS + 1024;

/** What the routes about the drawer do. */
export const drawerRoutes = {
  list: query(async () => {
    const { rows, unreadable } = await listDrawerWhole(await database());
    return jsonResponse(DRAWER.list, { items: rows, unreadable });
  }),

  add: mutation(async (request: Request) => {
    const { item } = await readBody(request, DRAWER.add);
    return jsonResponse(DRAWER.add, { row: await addItem(await database(), item) }, 201);
  }),

  save: idMutation(async (db, id, request) => {
    const { revision, item } = await readBody(request, DRAWER.save);
    return jsonResponse(DRAWER.save, { row: await saveItem(db, id, revision, item) });
  }),

  remove: idMutation(async (db, id) => {
    await removeItem(db, id);
    return jsonResponse(DRAWER.remove, {});
  }, "keep"),

  restore: idMutation(async (db, id) => jsonResponse(DRAWER.restore, { row: await restoreItem(db, id) }), "keep"),

  exportFile: query(async () => file(await exportDrawer(await database()), "text/csv; charset=utf-8", "drawer.csv")),

  preview: mutation(async (request: Request) => {
    const { text } = await readBody(request, DRAWER.preview, FILE_BYTES);
    return jsonResponse(DRAWER.preview, { rows: await previewImport(await database(), text) });
  }),

  importFile: mutation(async (request: Request) => {
    const { text } = await readBody(request, DRAWER.importFile, FILE_BYTES);
    return jsonResponse(DRAWER.importFile, { rows: await importDrawer(await database(), text) });
  }),
};
