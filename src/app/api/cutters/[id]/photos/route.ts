import { idMutation } from "@/app/api/idRoute";
import { MAX_PHOTO_BYTES } from "@/core/log/photo";
import { readBytes } from "@/server/kernel/http";
import { addPhoto } from "@/server/rooms/log/repository";

/** Takes a picture's own bytes. */
export const POST = idMutation(async (db, id, request) =>
  Response.json({ id: await addPhoto(db, id, await readBytes(request, MAX_PHOTO_BYTES)) }, { status: 201 }),
);
