import { RIG_DOCUMENT, type RigDocument } from "@/core/rigs/rig";
import { rigs } from "../../kernel/db/schema";
import { documentRepository } from "../../kernel/documents";

/** Rigs: listed, kept, copied and put away like every document. */
export const rigRepository = documentRepository<RigDocument>(RIG_DOCUMENT, "rig", rigs, "rig");
