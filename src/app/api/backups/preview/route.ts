import { archiveOf } from "@/server/backup/requests";
import { previewRestore } from "@/server/backup/restore";
import { database } from "@/server/db/client";
import { mutation } from "@/server/http";

/** What putting an archive back would change. Nothing is changed. */
export const POST = mutation(async (request) => {
  const { archive } = await archiveOf(request);
  return Response.json({ made: archive.made, counts: await previewRestore(await database(), archive) });
});
