import { RIGS } from "@/contract/rigs/contract";
import { askedInAddress, idQuery } from "../../kernel/door";
import { rigFile } from "./output";

/** Routes of rigs beyond those that every document has. */
export const rigsDoor = {
  drawing: idQuery(async (db, id, request) => rigFile(db, id, askedInAddress(request, RIGS.drawing))),
};
