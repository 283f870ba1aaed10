import { database } from "@/server/kernel/db/client";
import { mutation } from "@/server/kernel/http";
import { archiveOf } from "@/server/rooms/keeping/requests";
import { restoreArchive } from "@/server/rooms/keeping/restore";
import { nameFor, writeBackup } from "@/server/rooms/keeping/store";

/** Puts an archive back, after what stands here was put into one of its own: that one undoes it. */
export const POST = mutation(async (request) => {
  const { archive, mode } = await archiveOf(request);
  const db = await database();
  const undo = await writeBackup(db, nameFor("before-restore"));
  return Response.json({ put: await restoreArchive(db, archive, mode), undo: undo.name });
});
