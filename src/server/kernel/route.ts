import type { z } from "zod";
import { type Endpoint, idSchema, type ResponseBody } from "@/contract/kernel/endpoint";
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

/** Reads the body of a request by the schema of its endpoint. @throws CoreError with the path of the field at fault */
export const readBody = <E extends Endpoint>(request: Request, { request: schema }: E, maxBytes?: number): Promise<z.output<E["request"]>> =>
  readJson(request, schema as E["request"], maxBytes);

/** Reads the query of the address by the schema of its endpoint. @throws CoreError with the path of the field at fault */
export const readQuery = <E extends Endpoint>(request: Request, { request: schema }: E): z.output<E["request"]> =>
  parseOrThrow(schema as E["request"], Object.fromEntries(new URL(request.url).searchParams));

/** The response of an endpoint. Its body is checked by the compiler here and parsed by the client. */
export const jsonResponse = <E extends Endpoint>(_endpoint: E, body: ResponseBody<E>, status = 200): Response => Response.json(body, { status });

/** A file to download. */
export const file = (body: BodyInit, type: string, name: string): Response =>
  new Response(body, { headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"`, "cache-control": "no-store" } });
