import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from "drizzle-orm/pg-core";

/** Something in the maker's drawer: a document checked by the core's item schema, under a name its kind has once. */
export const drawerItems = pgTable(
  "drawer_items",
  {
    id: uuid("id").primaryKey().defaultRandom(),
    kind: text("kind").notNull(),
    name: text("name").notNull(),
    /** Kind and name as they are compared. */
    nameKey: text("name_key").notNull(),
    item: jsonb("item").notNull(),
    /** Version of the format its document was written in. */
    formatVersion: integer("format_version").notNull().default(1),
    revision: integer("revision").notNull().default(1),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
    updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
    /** Who wrote it, by name; null where nobody was signed in. */
    changedBy: text("changed_by"),
    /** Set while deleted and still restorable. */
    deletedAt: timestamp("deleted_at", { withTimezone: true }),
  },
  (table) => [uniqueIndex("drawer_items_name").on(table.nameKey).where(sql`deleted_at is null`), index("drawer_items_kind").on(table.kind)],
);
