import { z } from "zod";
import type { DocumentKind } from "../kernel/document";
import { mergerOf, type PartsOf } from "../kernel/merge";
import { plainText } from "../kernel/parse";
import { RIG_KINDS, type Rig, type RigKind, rigRecord, rigSchema } from "./kinds";
import type { RigJob } from "./record";

export const RIG_FORMAT = "upwind-rod/rig";
export const RIG_VERSION = 1;
export const MAX_RIG_CHARACTERS = 200_000;

/** Another document by its id, and its name as it was. */
const named = z
  .strictObject({ id: z.uuid({ error: "must be an id" }), name: plainText(80, "must be at most 80 characters") })
  .nullable()
  .default(null);

/** A rig as it is kept: what it is, the cutter that hangs in it, the plan it cuts. It outlives both. */
export const rigDocumentSchema = z.strictObject({
  format: z.literal(RIG_FORMAT),
  version: z.literal(RIG_VERSION),
  name: plainText(80, "must be 1 to 80 characters").trim().min(1, { error: "must be 1 to 80 characters" }),
  notes: plainText(2000, "must be at most 2000 characters").default(""),
  cutter: named,
  plan: named,
  rig: rigSchema,
});
export type RigDocument = z.output<typeof rigDocumentSchema>;

export const RIG_KIND: DocumentKind<RigDocument> = {
  format: RIG_FORMAT,
  version: RIG_VERSION,
  one: "rig",
  maxCharacters: MAX_RIG_CHARACTERS,
  schema: rigDocumentSchema as z.ZodType<RigDocument>,
  upgrades: {},
};

const PARTS: PartsOf<RigDocument> = { format: null, version: null, name: "name", notes: "notes", cutter: "cutter", plan: "plan", rig: "the rig's figures" };
export const rigMerger = mergerOf(PARTS);

/**
 * A rig of a kind as a person begins it.
 * @param job the block of the cutter that hangs in it: the rig opens with its sizes
 */
export function newRig(
  kind: RigKind,
  name = rigRecord(kind).title,
  cutter: RigDocument["cutter"] = null,
  plan: RigDocument["plan"] = null,
  job?: RigJob,
): RigDocument {
  const { start, sized } = rigRecord(kind);
  const rig = job && sized ? (sized(start, job) as Rig) : start;
  // One that is begun for a plan takes what the plan says.
  return { format: RIG_FORMAT, version: RIG_VERSION, name, notes: "", cutter, plan, rig: plan && "fromPlan" in rig ? { ...rig, fromPlan: true } : rig };
}

/** The demo's rigs, one of each kind, and the names of the cutter and the plan each belongs to. Invented. */
export const DEMO_RIGS: readonly { document: RigDocument; cutter: string | null; plan: string | null }[] = RIG_KINDS.map((kind) => {
  const { example } = rigRecord(kind);
  return { document: { ...newRig(kind, example.name), notes: example.notes, rig: example.rig as Rig }, cutter: example.cutter, plan: example.plan ?? null };
});
