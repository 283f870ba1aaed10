import { z } from "zod";
import { DOCUMENT_IDS } from "@/core/kernel/documentIds";

/** A change made by any page or process, as open pages receive it. Without details it means: read everything again. */
export const changeSchema = z.object({
  table: z.enum([...DOCUMENT_IDS, "drawer_items", "log_entries", "access", "second_screens", "presence"]).optional(),
  id: z.string().optional(),
  revision: z.number().nullish(),
  cutter: z.string().nullish(),
  gone: z.boolean().optional(),
  /** of presence: which document somebody has open, and on which page of theirs */
  at: z.string().optional(),
  page: z.string().optional(),
  /** who did it, where somebody was signed in */
  by: z.string().nullish(),
});
/** What a page says of itself as it begins to listen: the document it has open, and a number of its own. */
export const listenerSchema = z.strictObject({
  at: z
    .string()
    .regex(/^(cutters|plans|rigs)\/[0-9a-f-]{36}$/, { error: "must be a document's address" })
    .optional(),
  page: z
    .string()
    .regex(/^[0-9a-f]{16}$/, { error: "must be sixteen hex digits" })
    .optional(),
});
export type Change = z.output<typeof changeSchema>;
