import { pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";
import { members } from "./members";

/** Who is signed in, on each device, and as what. */
export const sessions = pgTable("sessions", {
  id: uuid("id").primaryKey().defaultRandom(),
  memberId: uuid("member_id")
    .notNull()
    .references(() => members.id),
  role: text("role").notNull(),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
});
