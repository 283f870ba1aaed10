import { z } from "zod";

/** The schemas of a route, written once: the server parses the request, the page parses the response. */
export interface Endpoint<Q extends z.ZodType = z.ZodType, A extends z.ZodType = z.ZodType> {
  request: Q;
  response: A;
}

/** @param request of the body or of the query; `nothing` where there is none */
export const endpoint = <Q extends z.ZodType, A extends z.ZodType>(request: Q, response: A): Endpoint<Q, A> => ({ request, response });

/** The response as the server writes it. */
export type ResponseBody<E extends Endpoint> = z.input<E["response"]>;
/** The response as the page reads it. */
export type ParsedResponse<E extends Endpoint> = z.output<E["response"]>;

/** The request as the page writes it. */
export type RequestBody<E extends Endpoint> = z.input<E["request"]>;

export const nothing = z.undefined();

/** A revision as a client names it: whole, and no larger than the database can count to. */
export const revisionSchema = z
  .int({ error: "must be a whole number" })
  .min(1, { error: "must be at least 1" })
  .max(2_000_000_000, { error: "must be at most 2000000000" });

export const idSchema = z.uuid({ error: "must be an id" });

/** A row that this program cannot read, such as one that a newer program wrote. It is listed by name and never changed. */
export const unreadableRow = z.object({ id: z.string(), name: z.string(), why: z.string() });
export type UnreadableRow = z.output<typeof unreadableRow>;

/** Fields of any stored document in a response, next to the document itself. */
export const storedFields = {
  id: idSchema,
  revision: revisionSchema,
  updatedAt: z.iso.datetime(),
  deletedAt: z.iso.datetime().nullable(),
  /** who saved it last, where somebody was signed in */
  changedBy: z.string().nullable().default(null),
};

/** Page of a list, in the address. */
export const pageSchema = z.strictObject({
  limit: z.coerce.number().int().min(1).max(2000).default(200),
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
});

/** The text of a file. */
export const fileText = z.strictObject({ text: z.string() });
