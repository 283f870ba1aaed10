import { designMerger } from "@/core/cutters/design/merge";
import type { Design } from "@/core/cutters/design/schema";
import { isBlocked } from "@/core/cutters/solve/blocked";
import { keepValid } from "@/core/cutters/solve/evaluate";
import { api, type CutterRow } from "../../kit/api";
import { createDocumentStore, type KeptRow, type StoreKind } from "../../kit/documentStore";

const rowOf = ({ design, ...row }: CutterRow): KeptRow<Design> => ({ ...row, document: design });

/** A cutter's design as a document of the desk. */
const KIND: StoreKind<Design> = {
  ...designMerger,
  key: "draft",
  table: "cutters",
  settle: (wished) => {
    const valid = keepValid(wished);
    // A ready mark does not outlive the safety it was given for.
    return valid.ready === true && isBlocked(valid)
      ? { document: { ...valid, ready: undefined }, notice: "No longer marked ready: this change brings a hazard." }
      : { document: valid };
  },
  renamed: (design) => ({ ...design, name: `${design.name.slice(0, 66)}, my version` }),
  get: (id) => api.get(id).then(rowOf),
  save: (id, revision, design, keepalive) => api.save(id, revision, design, keepalive).then(rowOf),
  create: (design) => api.create(design),
  rowOf: (current) => rowOf(current as CutterRow),
};

export interface DeskStart {
  id: string | null;
  design: Design;
  revision: number;
  updatedAt?: string;
}

/** The open design: edits, undo, autosave with revisions, and the meeting of two tabs. */
export const createDeskStore = ({ design, ...start }: DeskStart) => createDocumentStore(KIND, { ...start, document: design });
export type DeskStore = ReturnType<typeof createDeskStore>;
