import { RIGS } from "@/contract/rigs/contract";
import { idQuery, readQuery } from "../../kernel/route";
import { rigFile } from "./output";

/** Routes of rigs beyond those that every document has. */
export const rigsRoutes = {
  drawing: idQuery(async (db, id, request) => rigFile(db, id, readQuery(request, RIGS.drawing))),
};
