import type { FrameRig } from "@/core/rigs/frame/fields";
import type { Database } from "../../kernel/db/client";
import { rigRepository } from "./repository";

/** Motorised frames among the newest rigs that cut a plan: the plan warns where it leaves their travel. */
export async function framesOf(db: Database, planId: string): Promise<{ id: string; name: string; rig: FrameRig }[]> {
  const { readable } = await rigRepository.list(db, { limit: 100 });
  return readable.flatMap(({ id, document: { name, rig, plan } }) => (rig.kind === "frame" && plan?.id === planId ? [{ id, name, rig }] : []));
}
