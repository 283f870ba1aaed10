import { z } from "zod";
import { parseOrThrow } from "@/core/design/schema";
import { type Database, database } from "@/server/db/client";
import { mutation, query } from "@/server/http";

export interface CutterContext {
  params: Promise<{ id: string }>;
}

const idSchema = z.uuid({ error: "must be a cutter's id" });

type Work = (db: Database, id: string, request: Request) => Promise<Response>;

const forCutter = (work: Work) => async (request: Request, context: CutterContext) => {
  const id = parseOrThrow(idSchema, (await context.params).id, "id");
  return work(await database(), id, request);
};

/** A route about one cutter that reads, or that changes it. */
export const cutterQuery = (work: Work) => query(forCutter(work));
export const cutterMutation = (work: Work) => mutation(forCutter(work));
