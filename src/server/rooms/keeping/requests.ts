import type { z } from "zod";
import { KEEPING, restoreMode } from "@/contract/keeping/contract";
import { readBytes, readJson } from "../../kernel/http";
import { type Archive, MAX_ARCHIVE_BYTES, readArchive } from "./archive";
import { readBackup } from "./store";

/** The archive a request means: its own bytes, or one that lies here, by name. */
export async function archiveOf(request: Request): Promise<{ archive: Archive; mode: z.output<typeof restoreMode> }> {
  if (request.headers.get("content-type")?.startsWith("application/json")) {
    const { name, mode } = await readJson(request, KEEPING.restore.question);
    return { archive: readArchive(readBackup(name)), mode };
  }
  const mode = restoreMode.parse(new URL(request.url).searchParams.get("mode") ?? "replace");
  return { archive: readArchive(await readBytes(request, MAX_ARCHIVE_BYTES)), mode };
}
