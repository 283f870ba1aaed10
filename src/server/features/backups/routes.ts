import { timingSafeEqual } from "node:crypto";
import { BACKUPS } from "@/contract/backups/contract";
import { parseOrThrow } from "@/core/kernel/parse";
import { admit } from "../../kernel/access/who";
import { database, isShared } from "../../kernel/db/client";
import { dataFolder } from "../../kernel/db/dataFolder";
import { holderOf } from "../../kernel/db/folderLock";
import { fileResponse } from "../../kernel/fileResponse";
import { mutation, query } from "../../kernel/http";
import { jsonResponse } from "../../kernel/route";
import { backupName, backupPath, listBackups, writeBackup, writeTemporary } from "./archiveFiles";
import { packInThread, withStaged } from "./archives";
import { compareStaged, restoreStaged } from "./staging";

interface NameContext {
  params: Promise<{ name: string }>;
}

/** Whether this is asked by who can read the data folder itself, such as npm run backup next to the running app: it shows the mark that the folder's holder bears. */
function isOwnTool(request: Request): boolean {
  const shown = Buffer.from(request.headers.get("authorization")?.replace(/^Bearer /, "") ?? "");
  const held = Buffer.from(isShared() ? "" : (holderOf(dataFolder())?.token ?? ""));
  return held.length > 0 && shown.length === held.length && timingSafeEqual(shown, held);
}

/** What the routes about backups do. */
export const backupRoutes = {
  list: query(async () => jsonResponse(BACKUPS.list, { backups: listBackups() }), "keep"),

  make: mutation(
    async () => jsonResponse(BACKUPS.make, { backup: await writeBackup(await database(), backupName("by-hand"), undefined, packInThread) }, 201),
    "keep",
  ),

  get: query(async (request: Request, context: NameContext) => {
    const { name } = parseOrThrow(BACKUPS.get.request, await context.params);
    return fileResponse(backupPath(name), { type: "application/zip", name, signal: request.signal });
  }, "keep"),

  /** What restoring an archive would change. Nothing is changed. */
  preview: mutation(async (request: Request) => {
    const db = await database();
    return withStaged(request, db, false, async (staged) => jsonResponse(BACKUPS.preview, { made: staged.made, counts: await compareStaged(db, staged) }));
  }, "keep"),

  /** Restores an archive, after everything here was put into a backup of its own: restoring that one undoes it. */
  restore: mutation(async (request: Request) => {
    const db = await database();
    return withStaged(request, db, true, async (staged, mode) => {
      const undo = await writeBackup(db, backupName("before-restore"), undefined, packInThread);
      return jsonResponse(BACKUPS.restore, { put: await restoreStaged(db, staged, mode), undo: undo.name });
    });
  }, "keep"),

  /** Everything in one archive: written to a file first, so that no transaction is open while a client reads. */
  whole: query(async (request: Request) => {
    if (!isOwnTool(request)) await admit(request, "keep");
    const file = await writeTemporary(await database(), packInThread, undefined, request.signal);
    return fileResponse(file, { type: "application/zip", name: backupName("upwind-rod"), signal: request.signal, temporary: true });
  }, null),
};
