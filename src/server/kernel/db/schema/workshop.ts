import { pgTable, text, timestamp } from "drizzle-orm/pg-core";

/** Facts about this data folder itself, such as whether the demo was laid in. */
export const workshop = pgTable("workshop", {
  key: text("key").primaryKey(),
  value: text("value").notNull(),
  at: timestamp("at", { withTimezone: true }).notNull().defaultNow(),
});
