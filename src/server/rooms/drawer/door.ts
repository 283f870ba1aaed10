import { DRAWER } from "@/contract/drawer/contract";
import { MAX_CSV_CHARACTERS } from "@/core/drawer/things";
import { database } from "../../kernel/db/client";
import { asked, file, idMutation, told } from "../../kernel/door";
import { mutation, query } from "../../kernel/http";
import { addItem, exportDrawer, importDrawer, listDrawerWhole, previewImport, removeItem, restoreItem, saveItem } from "./repository";

/** Room for the longest file, whatever its letters are written as. */
const FILE_BYTES = 6 * MAX_CSV_CHARACTERS + 1024;

/** What the routes about the drawer do. */
export const drawerDoor = {
  list: query(async () => {
    const { rows, unreadable } = await listDrawerWhole(await database());
    return told(DRAWER.list, { items: rows, unreadable });
  }),

  add: mutation(async (request: Request) => {
    const { item } = await asked(request, DRAWER.add);
    return told(DRAWER.add, { row: await addItem(await database(), item) }, 201);
  }),

  save: idMutation(async (db, id, request) => {
    const { revision, item } = await asked(request, DRAWER.save);
    return told(DRAWER.save, { row: await saveItem(db, id, revision, item) });
  }),

  remove: idMutation(async (db, id) => {
    await removeItem(db, id);
    return told(DRAWER.remove, {});
  }, "keep"),

  restore: idMutation(async (db, id) => told(DRAWER.restore, { row: await restoreItem(db, id) }), "keep"),

  exportFile: query(async () => file(await exportDrawer(await database()), "text/csv; charset=utf-8", "drawer.csv")),

  preview: mutation(async (request: Request) => {
    const { text } = await asked(request, DRAWER.preview, FILE_BYTES);
    return told(DRAWER.preview, { rows: await previewImport(await database(), text) });
  }),

  importFile: mutation(async (request: Request) => {
    const { text } = await asked(request, DRAWER.importFile, FILE_BYTES);
    return told(DRAWER.importFile, { rows: await importDrawer(await database(), text) });
  }),
};
