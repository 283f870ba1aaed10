import { integer, jsonb, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** Columns of every table of documents: the document, a revision that every save must name, and whether it is deleted. */
export const documentColumns = () => ({
  id: uuid("id").primaryKey().defaultRandom(),
  name: text("name").notNull(),
  formatVersion: integer("format_version").notNull(),
  revision: integer("revision").notNull().default(1),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
  /** Who saved it last, by name; null where nobody was signed in. */
  changedBy: text("changed_by"),
  /** Set while deleted and still restorable. */
  deletedAt: timestamp("deleted_at", { withTimezone: true }),
  document: jsonb("document").notNull(),
});
