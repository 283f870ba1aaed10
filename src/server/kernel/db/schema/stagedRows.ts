import { index, integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** Rows of an archive that is being previewed or restored. They are read and checked here first, so that the restore itself is one short transaction. */
export const stagedRows = pgTable(
  "staged_rows",
  {
    restore: uuid("restore").notNull(),
    /** Table of the row. */
    part: text("part").notNull(),
    /** Position within the part, from 0. */
    place: integer("place").notNull(),
    key: text("key").notNull(),
    row: jsonb("row").notNull(),
    stagedAt: timestamp("staged_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.restore, table.part, table.place] }), index("staged_rows_key").on(table.restore, table.part, table.key)],
);
