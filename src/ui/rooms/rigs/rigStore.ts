import { type RigDocument, rigMerger } from "@/core/rigs/rig";
import { api, type RigRow } from "../../kit/api";
import { createDocumentStore, type KeptRow, type StoreKind } from "../../kit/documentStore";

const rowOf = ({ rig, ...row }: RigRow): KeptRow<RigDocument> => ({ ...row, document: rig });

/** A rig as an open document. */
const KIND: StoreKind<RigDocument> = {
  ...rigMerger,
  key: "rig",
  table: "rigs",
  settle: (wished) => ({ document: wished }),
  renamed: (rig) => ({ ...rig, name: `${rig.name.slice(0, 66)}, my version` }),
  get: (id) => api.rigs.get(id).then(rowOf),
  save: (id, revision, rig, keepalive) => api.rigs.save(id, revision, rig, keepalive).then(rowOf),
  create: (rig) => api.rigs.create(rig),
  rowOf: (current) => rowOf(current as RigRow),
};

export interface RigStart {
  id: string;
  rig: RigDocument;
  revision: number;
  updatedAt: string;
}

/** The open rig: edits, undo, autosave with revisions, and the meeting of two tabs. */
export const createRigStore = ({ rig, ...start }: RigStart) => createDocumentStore(KIND, { ...start, document: rig });
