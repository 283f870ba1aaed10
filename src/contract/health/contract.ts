import { z } from "zod";
import { endpoint, nothing } from "../kernel/endpoint";

export const HEALTH = {
  /** `ok` is false where the database does not answer: then the status is 503. */
  read: endpoint(
    nothing,
    z.object({
      ok: z.boolean(),
      version: z.string(),
      upSeconds: z.number(),
      database: z.object({ engine: z.enum(["embedded", "server"]), answersMs: z.number().nullable() }),
      /** free bytes where the data and the backups lie; null where that is not known */
      freeBytes: z.object({ data: z.number().nullable(), backups: z.number().nullable() }),
      /** hours since the newest backup; null where there is none */
      backupHours: z.number().nullable(),
    }),
  ),
};
