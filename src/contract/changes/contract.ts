import { z } from "zod";

/** Something that any page or process changed, as it is told to open pages. What says nothing of itself means: look again at everything. */
export const changeSchema = z.object({
  table: z.enum(["cutters", "plans", "rigs", "drawer_items", "log_entries", "access"]).optional(),
  id: z.string().optional(),
  revision: z.number().nullish(),
  cutter: z.string().nullish(),
  gone: z.boolean().optional(),
  /** who did it, where somebody was signed in */
  by: z.string().nullish(),
});
export type Change = z.output<typeof changeSchema>;
