import { index, integer, pgTable, serial, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** Who changed what: by name, as it is after the member is gone too. */
export const auditEntries = pgTable(
  "deeds",
  {
    id: serial("id").primaryKey(),
    at: timestamp("at", { withTimezone: true }).notNull().defaultNow(),
    who: text("who").notNull(),
    did: text("did").notNull(),
    /** What it was done to. */
    on: uuid("on_id"),
    /** Done again within a while it is counted in the same entry. */
    times: integer("times").notNull().default(1),
  },
  (table) => [index("deeds_at").on(table.at)],
);
