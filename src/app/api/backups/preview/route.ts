import { database } from "@/server/kernel/db/client";
import { mutation } from "@/server/kernel/http";
import { archiveOf } from "@/server/rooms/keeping/requests";
import { previewRestore } from "@/server/rooms/keeping/restore";

/** What putting an archive back would change. Nothing is changed. */
export const POST = mutation(async (request) => {
  const { archive } = await archiveOf(request);
  return Response.json({ made: archive.made, counts: await previewRestore(await database(), archive) });
});
