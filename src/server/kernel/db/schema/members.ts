import { pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** Names that the workshop wrote in. */
export const members = pgTable("members", {
  id: uuid("id").primaryKey().defaultRandom(),
  name: text("name").notNull(),
  /** The name as it is compared. */
  nameKey: text("name_key").notNull().unique(),
  /** The member's own passphrase, salted and stretched; null where the shared phrase is enough for this name. */
  passphrase: text("passphrase"),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
});
