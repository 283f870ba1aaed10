import { PLANS } from "@/contract/plans/contract";
import { readDocumentText, writeDocument } from "@/core/kernel/document";
import { fileStem } from "@/core/kernel/fileStem";
import { MAX_PLAN_CHARACTERS, PLAN_KIND } from "@/core/plans/plan";
import { database } from "../../kernel/db/client";
import { asked, askedInAddress, file, idMutation, idQuery, told } from "../../kernel/door";
import { mutation, query } from "../../kernel/http";
import { cutSheetFile } from "./cutSheet";
import { letteringBytes, templatesFile } from "./output";
import { createPlan, deletePlan, duplicatePlan, getPlan, listPlans, restorePlan, savePlan } from "./repository";

/** JSON escapes may double a plan's size on the way. */
const BODY_BYTES = 2 * MAX_PLAN_CHARACTERS;

/** What the routes about plans do. */
export const plansDoor = {
  list: query(async (request: Request) => {
    const db = await database();
    const page = askedInAddress(request, PLANS.list);
    const { plans, unreadable } = await listPlans(db, page);
    const { plans: deleted } = await listPlans(db, { ...page, deleted: true });
    return told(PLANS.list, { plans, deleted, unreadable });
  }),

  create: mutation(async (request: Request) => {
    const { plan } = await asked(request, PLANS.create, BODY_BYTES);
    return told(PLANS.create, { plan: await createPlan(await database(), plan) }, 201);
  }),

  get: idQuery(async (db, id) => told(PLANS.get, { plan: await getPlan(db, id) })),

  save: idMutation(async (db, id, request) => {
    const { revision, plan } = await asked(request, PLANS.save, BODY_BYTES);
    return told(PLANS.save, { plan: await savePlan(db, id, revision, plan) });
  }),

  remove: idMutation(async (db, id) => told(PLANS.remove, { plan: await deletePlan(db, id) })),
  restore: idMutation(async (db, id) => told(PLANS.restore, { plan: await restorePlan(db, id) })),
  duplicate: idMutation(async (db, id) => told(PLANS.duplicate, { plan: await duplicatePlan(db, id) }, 201)),

  exportFile: idQuery(async (db, id) => {
    const { plan } = await getPlan(db, id);
    return file(writeDocument(PLAN_KIND, plan), "application/json; charset=utf-8", `${fileStem(plan.name)}.upwind-plan.json`);
  }),

  importFile: mutation(async (request: Request) => {
    const { text } = await asked(request, PLANS.importFile, 2 * BODY_BYTES);
    return told(PLANS.importFile, { plan: await createPlan(await database(), readDocumentText(PLAN_KIND, text)) }, 201);
  }),

  /** The app's own lettering, for the page that draws it. */
  lettering: query(
    async () => new Response(await letteringBytes(), { headers: { "content-type": "font/ttf", "cache-control": "public, max-age=31536000, immutable" } }),
  ),

  sheet: idQuery(async (db, id, request) => cutSheetFile(db, id, askedInAddress(request, PLANS.sheet))),

  templates: idQuery(async (db, id, request) => templatesFile(db, id, askedInAddress(request, PLANS.templates))),
};
