import { z } from "zod";
import { kindsError } from "../../kernel/parse";
import type { FrameRig } from "../frame/fields";
import { type RigRecord, schemaOf } from "../record";
import { type AnchorRig, anchorRig } from "./anchor";
import { type BowRig, bowRig } from "./bow";
import { type DropRig, dropRig } from "./drop";
import { frameRig } from "./frame";
import { type LoopRig, loopRig } from "./loop";
import { type PullRig, pullRig } from "./pull";
import { type SheetRig, sheetRig } from "./sheet";
import { type SlabRig, slabRig } from "./slab";
import { type SwingRig, swingRig } from "./swing";
import { type TableRig, tableRig } from "./table";

/** Every kind of rig. A new one: its file, and its line here. */
export type Rig = SwingRig | PullRig | AnchorRig | DropRig | SheetRig | TableRig | LoopRig | SlabRig | BowRig | FrameRig;
export type RigKind = Rig["kind"];
type Records = { [K in RigKind]: RigRecord<Extract<Rig, { kind: K }>> };
const RECORDS: Records = {
  swing: swingRig,
  pull: pullRig,
  anchor: anchorRig,
  drop: dropRig,
  sheet: sheetRig,
  table: tableRig,
  loop: loopRig,
  slab: slabRig,
  bow: bowRig,
  frame: frameRig,
};

export const RIG_KINDS = Object.keys(RECORDS) as [RigKind, ...RigKind[]];
/** A kind's record. The caller's rig is of that kind. */
export const rigRecord = (kind: RigKind): RigRecord<Rig> => RECORDS[kind] as unknown as RigRecord<Rig>;

/** Every rig there is. */
export const rigSchema: z.ZodType<Rig> = z.discriminatedUnion(
  "kind",
  Object.values(RECORDS).map((record) => schemaOf(record as unknown as RigRecord<Rig>)) as unknown as [
    z.core.$ZodTypeDiscriminable,
    ...z.core.$ZodTypeDiscriminable[],
  ],
  kindsError(RIG_KINDS.join(", ")),
) as unknown as z.ZodType<Rig>;
