import { rm } from "node:fs/promises";
import type { z } from "zod";
import { BACKUPS, restoreMode } from "@/contract/backups/contract";
import { parseOrThrow } from "@/core/kernel/parse";
import type { Database } from "../../kernel/db/client";
import { readJson } from "../../kernel/http";
import { runTask, streamTask } from "../../kernel/threadPool";
import { receiveFile } from "../../kernel/upload";
import { backupPath, type Pack, temporaryPath } from "./archiveFiles";
import { ARCHIVE_LIMITS } from "./archiveFormat";
import type { ArchiveItem } from "./archiveReader";
import { dropStaged, type Staged, stageArchive } from "./staging";

/** Packs a snapshot in the archives' thread. */
export const packInThread: Pack = (job) => runTask("archives", "pack", job);

/** Reads an archive in the archives' thread. */
const readInThread = (file: string, signal?: AbortSignal): AsyncGenerator<ArchiveItem> => streamTask<ArchiveItem>("archives", "read", { file }, signal);

/**
 * Does something with the archive that a request means: the body's own bytes, or a backup stored here, by name. It is read and staged first, and forgotten afterwards.
 * @param photos whether the photographs' bytes are wanted too
 */
export async function withStaged<T>(
  request: Request,
  db: Database,
  photos: boolean,
  work: (staged: Staged, mode: z.output<typeof restoreMode>) => Promise<T>,
): Promise<T> {
  let received: string | null = null;
  try {
    let file: string;
    let mode: z.output<typeof restoreMode>;
    if (request.headers.get("content-type")?.startsWith("application/json")) {
      const source = await readJson(request, BACKUPS.restore.request);
      file = backupPath(source.name);
      mode = source.mode;
    } else {
      mode = parseOrThrow(restoreMode, new URL(request.url).searchParams.get("mode") ?? "replace", "mode");
      received = temporaryPath();
      file = received;
      await receiveFile(request, file, ARCHIVE_LIMITS.fileBytes);
    }
    const staged = await stageArchive(db, readInThread(file, request.signal), photos);
    try {
      return await work(staged, mode);
    } finally {
      await dropStaged(db, staged.id);
    }
  } finally {
    if (received) await rm(received, { force: true });
  }
}
