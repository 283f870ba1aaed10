import { index, integer, jsonb, pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** A saved cutter: its design as one versioned document, and a revision that every save must name. */
export const cutters = pgTable(
  "cutters",
  {
    id: uuid("id").primaryKey().defaultRandom(),
    name: text("name").notNull(),
    formatVersion: integer("format_version").notNull(),
    design: jsonb("design").notNull(),
    revision: integer("revision").notNull().default(1),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
    updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
    /** Set while deleted and still restorable. */
    deletedAt: timestamp("deleted_at", { withTimezone: true }),
  },
  (table) => [index("cutters_updated_at").on(table.updatedAt)],
);
