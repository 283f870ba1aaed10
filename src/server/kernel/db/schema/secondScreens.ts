import { integer, jsonb, pgTable, text, timestamp } from "drizzle-orm/pg-core";

/** What is on a second screen for as long as a run lasts. In no archive. */
export const secondScreens = pgTable("second_screens", {
  /** SHA-256 of the ticket: anyone who reads the table cannot join. */
  id: text("id").primaryKey(),
  about: jsonb("about").notNull(),
  state: jsonb("state").notNull(),
  revision: integer("revision").notNull().default(1),
  /** Past this a ticket alone opens nothing. */
  expiresAt: timestamp("expires_at", { withTimezone: true }).notNull(),
  endedAt: timestamp("ended_at", { withTimezone: true }),
});
