import { index, pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";
import { cutters } from "./documents";
import { photoBytes } from "./photoBytes";

/** A photograph of a cut, stored next to the log: entries name it by id. Its bytes are in {@link photoBytes}. */
export const photos = pgTable(
  "photos",
  {
    id: uuid("id").primaryKey().defaultRandom(),
    cutterId: uuid("cutter_id")
      .notNull()
      .references(() => cutters.id),
    type: text("type").notNull(),
    /** SHA-256 of its bytes, hexadecimal. */
    sum: text("sum")
      .notNull()
      .references(() => photoBytes.sum),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index("photos_cutter").on(table.cutterId), index("photos_sum").on(table.sum)],
);
