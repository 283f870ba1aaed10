import { idQuery } from "@/app/api/idRoute";
import { getPhoto } from "@/server/rooms/log/repository";

export const GET = idQuery(async (db, id) => {
  const { type, bytes } = await getPhoto(db, id);
  return new Response(new Uint8Array(bytes), {
    headers: { "content-type": type, "x-content-type-options": "nosniff", "cache-control": "private, max-age=31536000, immutable" },
  });
});
