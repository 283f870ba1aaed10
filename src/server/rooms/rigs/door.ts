import { RIGS } from "@/contract/rigs/contract";
import { RIG_DOCUMENT } from "@/core/rigs/rig";
import { documentDoor } from "../../kernel/documentDoor";
import { askedInAddress, idQuery } from "../../kernel/door";
import { rigFile } from "./output";
import { rigRepository } from "./repository";

/** What the routes about rigs do. */
export const rigsDoor = {
  ...documentDoor({ exchanges: RIGS, repository: rigRepository, kind: RIG_DOCUMENT, one: "rig", many: "rigs", ending: "upwind-rig" }),
  drawing: idQuery(async (db, id, request) => rigFile(db, id, askedInAddress(request, RIGS.drawing))),
};
