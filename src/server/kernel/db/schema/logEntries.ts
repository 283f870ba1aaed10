import { index, integer, jsonb, pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";
import { cutters } from "./documents";

/** One dated entry of a cutter's log, a document checked by the core's entry schema. */
export const logEntries = pgTable(
  "log_entries",
  {
    id: uuid("id").primaryKey().defaultRandom(),
    cutterId: uuid("cutter_id")
      .notNull()
      .references(() => cutters.id),
    kind: text("kind").notNull(),
    /** When it happened, as the maker says. */
    at: timestamp("at", { withTimezone: true }).notNull(),
    entry: jsonb("entry").notNull(),
    /** Version of the format its document was written in. */
    formatVersion: integer("format_version").notNull().default(1),
    revision: integer("revision").notNull().default(1),
    /** Who wrote it, by name; null where nobody was signed in. */
    changedBy: text("changed_by"),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index("log_entries_cutter_at").on(table.cutterId, table.at)],
);
