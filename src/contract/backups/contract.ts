import { z } from "zod";
import { DOCUMENT_IDS } from "@/core/kernel/documentIds";
import { endpoint, nothing } from "../kernel/endpoint";

/** An archive that lies on the server. */
export const storedBackup = z.object({ name: z.string(), /** ISO time it was written */ at: z.iso.datetime(), bytes: z.int().min(0) });
export type StoredBackup = z.output<typeof storedBackup>;

export const restoreMode = z.enum(["replace", "add"], { error: "must be replace or add" });
const count = z.int().min(0);
const restoreCount = z.object({
  kind: z.enum([...DOCUMENT_IDS, "drawer", "log", "photos"]),
  inArchive: count,
  here: count,
  same: count,
  differ: count,
  onlyArchive: count,
  onlyHere: count,
});
/** An archive that lies here, by its name; one of the person's own goes as its bytes, with the mode in the address. */
const source = z.strictObject({ name: z.string({ error: "must be a backup's name" }).max(100), mode: restoreMode.default("replace") });

export const BACKUPS = {
  list: endpoint(nothing, z.object({ backups: z.array(storedBackup) })),
  make: endpoint(nothing, z.object({ backup: storedBackup })),
  get: endpoint(z.strictObject({ name: z.string().max(100) }), z.unknown()),
  preview: endpoint(source, z.object({ made: z.string(), counts: z.array(restoreCount) })),
  restore: endpoint(source, z.object({ put: count, undo: z.string() })),
};
