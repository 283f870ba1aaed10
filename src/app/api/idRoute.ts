import { z } from "zod";
import { parseOrThrow } from "@/core/kernel/parse";
import { type Database, database } from "@/server/kernel/db/client";
import { mutation, query } from "@/server/kernel/http";

export interface IdContext {
  params: Promise<{ id: string }>;
}

const idSchema = z.uuid({ error: "must be an id" });

type Work = (db: Database, id: string, request: Request) => Promise<Response>;

const withId = (work: Work) => async (request: Request, context: IdContext) => {
  const id = parseOrThrow(idSchema, (await context.params).id, "id");
  return work(await database(), id, request);
};

/** A route about one row that reads, or that changes it. */
export const idQuery = (work: Work) => query(withId(work));
export const idMutation = (work: Work) => mutation(withId(work));
