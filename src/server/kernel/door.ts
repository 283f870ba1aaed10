import type { z } from "zod";
import { type Exchange, idSchema, type Told } from "@/contract/kernel/exchange";
import { parseOrThrow } from "@/core/kernel/parse";
import type { Role } from "@/core/workshop/roles";
import { type Database, database } from "./db/client";
import { mutation, query, readJson } from "./http";

interface IdContext {
  params: Promise<{ id: string }>;
}

type Work = (db: Database, id: string, request: Request) => Promise<Response>;

const withId = (work: Work) => async (request: Request, context: IdContext) => {
  const id = parseOrThrow(idSchema, (await context.params).id, "id");
  return work(await database(), id, request);
};

/** A route about one row that reads, or that changes it. */
export const idQuery = (work: Work, needed?: Role) => query(withId(work), needed);
export const idMutation = (work: Work, needed?: Role) => mutation(withId(work), needed);

/** The body of a request, as its exchange says. */
export const asked = <E extends Exchange>(request: Request, { question }: E, maxBytes?: number): Promise<z.output<E["question"]>> =>
  readJson(request, question as E["question"], maxBytes);

/** What stands after the address's question mark, as its exchange says. */
export const askedInAddress = <E extends Exchange>(request: Request, { question }: E): z.output<E["question"]> =>
  parseOrThrow(question as E["question"], Object.fromEntries(new URL(request.url).searchParams));

/** The answer of an exchange: its words are held to it when this is compiled, and parsed by whoever reads it. */
export const told = <E extends Exchange>(_exchange: E, answer: Told<E>, status = 200): Response => Response.json(answer, { status });

/** A file to keep. */
export const file = (body: BodyInit, type: string, name: string): Response =>
  new Response(body, { headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"`, "cache-control": "no-store" } });
