import { z } from "zod";
import { readBytes, readJson } from "../../kernel/http";
import { type Archive, MAX_ARCHIVE_BYTES, readArchive } from "./archive";
import { readBackup } from "./store";

const modeSchema = z.enum(["replace", "add"], { error: "must be replace or add" });
const kept = z.strictObject({ name: z.string({ error: "must be a backup's name" }).max(100), mode: modeSchema.default("replace") });

/** The archive a request means: its own bytes, or one that lies here, by name. */
export async function archiveOf(request: Request): Promise<{ archive: Archive; mode: z.output<typeof modeSchema> }> {
  if (request.headers.get("content-type")?.startsWith("application/json")) {
    const { name, mode } = await readJson(request, kept);
    return { archive: readArchive(readBackup(name)), mode };
  }
  const mode = modeSchema.parse(new URL(request.url).searchParams.get("mode") ?? "replace");
  return { archive: readArchive(await readBytes(request, MAX_ARCHIVE_BYTES)), mode };
}
