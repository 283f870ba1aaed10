import { database } from "@/server/kernel/db/client";
import { query } from "@/server/kernel/http";
import { logFault } from "@/server/kernel/log";
import { packWorkshop } from "@/server/rooms/keeping/archive";
import { nameFor } from "@/server/rooms/keeping/store";

/** Everything in one archive, sent as it is packed. */
export const GET = query(async () => {
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
  return new Response(chunks.readable, {
    headers: { "content-type": "application/zip", "content-disposition": `attachment; filename="${nameFor("upwind-rod")}"`, "cache-control": "no-store" },
  });
});
