import { PLANS } from "@/contract/plans/contract";
import { query } from "../../kernel/http";
import { idQuery, readQuery } from "../../kernel/route";
import { letteringBytes } from "./lettering";
import { cutSheetFile, templatesFile } from "./output";

/** Routes of plans beyond those that every document has. */
export const plansRoutes = {
  /** The app's own lettering, for the page that draws it. */
  lettering: query(
    async () => new Response(await letteringBytes(), { headers: { "content-type": "font/ttf", "cache-control": "public, max-age=31536000, immutable" } }),
  ),

  sheet: idQuery(async (db, id, request) => cutSheetFile(db, id, readQuery(request, PLANS.sheet))),

  templates: idQuery(async (db, id, request) => templatesFile(db, id, readQuery(request, PLANS.templates))),
};
