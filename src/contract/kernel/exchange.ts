import { z } from "zod";

/** What one route is asked and what it answers, written once: the server parses the question, the page parses the answer. */
export interface Exchange<Q extends z.ZodType = z.ZodType, A extends z.ZodType = z.ZodType> {
  question: Q;
  answer: A;
}

/** An exchange; one without a question has no body. */
export const exchange = <Q extends z.ZodType, A extends z.ZodType>(question: Q, answer: A): Exchange<Q, A> => ({ question, answer });

/** As the server writes it. */
export type Told<E extends Exchange> = z.input<E["answer"]>;
/** As the page reads it. */
export type Answered<E extends Exchange> = z.output<E["answer"]>;

/** As the page asks it. */
export type Asked<E extends Exchange> = z.input<E["question"]>;

export const nothing = z.undefined();

/** A revision as a client names it: whole, and no larger than the database can count to. */
export const revisionSchema = z
  .int({ error: "must be a whole number" })
  .min(1, { error: "must be at least 1" })
  .max(2_000_000_000, { error: "must be at most 2000000000" });

export const idSchema = z.uuid({ error: "must be an id" });

/** A row this program cannot read, such as one a newer program wrote: told by name, touched by nothing. */
export const unreadableRow = z.object({ id: z.string(), name: z.string(), why: z.string() });
export type UnreadableRow = z.output<typeof unreadableRow>;

/** What crosses the door of any kept document, beside the document itself. */
export const keptFields = {
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
