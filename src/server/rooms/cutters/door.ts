import { CUTTERS } from "@/contract/cutters/contract";
import { exportDesign, importDesign } from "@/core/cutters/design/fileFormat";
import { MAX_FILE_CHARACTERS } from "@/core/cutters/design/vocabulary";
import { requireHonestReady } from "@/core/cutters/solve/readiness";
import { fileStem } from "@/core/kernel/fileStem";
import { database } from "../../kernel/db/client";
import { asked, askedInAddress, file, idMutation, idQuery, told } from "../../kernel/door";
import { mutation, query } from "../../kernel/http";
import { createCutter, deleteCutter, duplicateCutter, getCutter, listCutters, restoreCutter, saveCutter } from "./repository";

/** What the routes about cutters do. */
export const cuttersDoor = {
  list: query(async (request: Request) => {
    const db = await database();
    const page = askedInAddress(request, CUTTERS.list);
    const { cutters, unreadable } = await listCutters(db, page);
    const { cutters: deleted } = await listCutters(db, { ...page, deleted: true });
    return told(CUTTERS.list, { cutters, deleted, unreadable });
  }),

  create: mutation(async (request: Request) => {
    const { design } = await asked(request, CUTTERS.create);
    requireHonestReady(design);
    return told(CUTTERS.create, { cutter: await createCutter(await database(), design) }, 201);
  }),

  get: idQuery(async (db, id) => told(CUTTERS.get, { cutter: await getCutter(db, id) })),

  save: idMutation(async (db, id, request) => {
    const { revision, design } = await asked(request, CUTTERS.save);
    requireHonestReady(design);
    return told(CUTTERS.save, { cutter: await saveCutter(db, id, revision, design) });
  }),

  remove: idMutation(async (db, id) => told(CUTTERS.remove, { cutter: await deleteCutter(db, id) }), "keep"),
  restore: idMutation(async (db, id) => told(CUTTERS.restore, { cutter: await restoreCutter(db, id) }), "keep"),
  duplicate: idMutation(async (db, id) => told(CUTTERS.duplicate, { cutter: await duplicateCutter(db, id) }, 201)),

  exportFile: idQuery(async (db, id) => {
    const { design } = await getCutter(db, id);
    return file(exportDesign(design), "application/json; charset=utf-8", `${fileStem(design.name)}.upwind.json`);
  }),

  /** Takes the text of a design file; JSON escapes may double its size on the way. */
  importFile: mutation(async (request: Request) => {
    const { text } = await asked(request, CUTTERS.importFile, 4 * MAX_FILE_CHARACTERS);
    const design = importDesign(text);
    requireHonestReady(design);
    return told(CUTTERS.importFile, { cutter: await createCutter(await database(), design) }, 201);
  }),
};
