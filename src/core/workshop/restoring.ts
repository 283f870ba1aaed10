import type { DocumentId } from "../kernel/documentIds";

/** What an archive would do to one kind of thing. */
export interface RestoreCount {
  kind: DocumentId | "drawer" | "log" | "photos";
  inArchive: number;
  here: number;
  /** In both and equal; in both and not; only on one side. */
  same: number;
  differ: number;
  onlyArchive: number;
  onlyHere: number;
}

/** Everything as the archive has it, and nothing else; or only what is not here yet. */
export type RestoreMode = "replace" | "add";
