import { PLANS } from "@/contract/plans/contract";
import { PLAN_KIND } from "@/core/plans/plan";
import { documentDoor } from "../../kernel/documentDoor";
import { askedInAddress, idQuery } from "../../kernel/door";
import { query } from "../../kernel/http";
import { letteringBytes } from "./lettering";
import { cutSheetFile, templatesFile } from "./output";
import { planRepository } from "./repository";

/** What the routes about plans do. */
export const plansDoor = {
  ...documentDoor({ exchanges: PLANS, repository: planRepository, kind: PLAN_KIND, one: "plan", many: "plans", ending: "upwind-plan" }),

  /** The app's own lettering, for the page that draws it. */
  lettering: query(
    async () => new Response(await letteringBytes(), { headers: { "content-type": "font/ttf", "cache-control": "public, max-age=31536000, immutable" } }),
  ),

  sheet: idQuery(async (db, id, request) => cutSheetFile(db, id, askedInAddress(request, PLANS.sheet))),

  templates: idQuery(async (db, id, request) => templatesFile(db, id, askedInAddress(request, PLANS.templates))),
};
