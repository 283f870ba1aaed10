import { timingSafeEqual } from "node:crypto";
import { KEEPING } from "@/contract/keeping/contract";
import { parseOrThrow } from "@/core/kernel/parse";
import { admit } from "../../kernel/access/who";
import { database, isShared } from "../../kernel/db/client";
import { dataFolder } from "../../kernel/db/dataFolder";
import { holderOf } from "../../kernel/db/folderLock";
import { file, told } from "../../kernel/door";
import { mutation, query } from "../../kernel/http";
import { logFault } from "../../kernel/log";
import { packWorkshop } from "./archive";
import { archiveOf } from "./requests";
import { previewRestore, restoreArchive } from "./restore";
import { listBackups, nameFor, readBackup, writeBackup } from "./store";

interface NameContext {
  params: Promise<{ name: string }>;
}

/** Whether this is asked by who can read the data folder itself, such as npm run backup beside the running app: it shows the mark that the folder's holder bears. */
function isOwnTool(request: Request): boolean {
  const shown = Buffer.from(request.headers.get("authorization")?.replace(/^Bearer /, "") ?? "");
  const held = Buffer.from(isShared() ? "" : (holderOf(dataFolder())?.token ?? ""));
  return held.length > 0 && shown.length === held.length && timingSafeEqual(shown, held);
}

/** What the routes about backups do. */
export const keepingDoor = {
  list: query(async () => told(KEEPING.list, { backups: listBackups() }), "keep"),

  make: mutation(async () => told(KEEPING.make, { backup: await writeBackup(await database(), nameFor("by-hand")) }, 201), "keep"),

  get: query(async (_request: Request, context: NameContext) => {
    const { name } = parseOrThrow(KEEPING.get.question, await context.params);
    return file(Buffer.from(readBackup(name)), "application/zip", name);
  }, "keep"),

  /** What putting an archive back would change. Nothing is changed. */
  preview: mutation(async (request: Request) => {
    const { archive } = await archiveOf(request);
    return told(KEEPING.preview, { made: archive.made, counts: await previewRestore(await database(), archive) });
  }, "keep"),

  /** Puts an archive back, after what stands here was put into one of its own: that one undoes it. */
  restore: mutation(async (request: Request) => {
    const { archive, mode } = await archiveOf(request);
    const db = await database();
    const undo = await writeBackup(db, nameFor("before-restore"));
    return told(KEEPING.restore, { put: await restoreArchive(db, archive, mode), undo: undo.name });
  }, "keep"),

  /** Everything in one archive, sent as it is packed. */
  whole: query(async (request: Request) => {
    if (!isOwnTool(request)) await admit(request, "keep");
    const db = await database();
    const chunks = new TransformStream<Uint8Array, Uint8Array>();
    const writer = chunks.writable.getWriter();
    void db
      .transaction(
        async (tx) => {
          for await (const chunk of packWorkshop(tx, new Date().toISOString())) await writer.write(chunk);
        },
        { isolationLevel: "repeatable read", accessMode: "read only" },
      )
      .then(
        () => writer.close(),
        (error) => {
          logFault(error);
          // The reader sees a cut-off file, and an archive that is cut off is refused when it is put back.
          return writer.abort(new Error("the archive could not be finished"));
        },
      )
      .catch(() => {
        // The reader went away before the end.
      });
    return file(chunks.readable, "application/zip", nameFor("upwind-rod"));
  }, null),
};
