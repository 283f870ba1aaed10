import { type FileHandle, open, rm } from "node:fs/promises";
import path from "node:path";
import { requireFreeSpace } from "./db/dataFolder";
import { bodyChunks } from "./http";

/** Room that stays free on the disk beyond what is received, bytes. */
const SPARE_BYTES = 40 * 1024 * 1024;

/**
 * Receives a request's body into a file, a piece at a time: memory holds one piece. The file is deleted where the body does not arrive whole.
 * @param file a path that nothing else uses
 * @throws ServerError `too-large`, `disk-full`
 */
export async function receiveFile(request: Request, file: string, maxBytes: number): Promise<void> {
  const announced = Number(request.headers.get("content-length") ?? 0);
  if (announced > 0 && announced <= maxBytes) requireFreeSpace(path.dirname(file), announced + SPARE_BYTES);
  let handle: FileHandle | null = null;
  try {
    handle = await open(file, "w");
    for await (const chunk of bodyChunks(request, maxBytes)) {
      for (let at = 0; at < chunk.length; ) at += (await handle.write(chunk, at)).bytesWritten;
    }
  } catch (error) {
    await handle?.close();
    handle = null;
    await rm(file, { force: true });
    throw error;
  } finally {
    await handle?.close();
  }
}
