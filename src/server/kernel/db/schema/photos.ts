import { customType, index, pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";
import { cutters } from "./cutters";

/** One engine's driver gives plain bytes, the other's a kind of its own: both are read as plain ones. */
const bytea = customType<{ data: Uint8Array; driverData: Uint8Array }>({ dataType: () => "bytea", fromDriver: (bytes) => new Uint8Array(bytes) });

/** A picture of a cut, kept beside the log: entries name it by id. */
export const photos = pgTable(
  "photos",
  {
    id: uuid("id").primaryKey().defaultRandom(),
    cutterId: uuid("cutter_id")
      .notNull()
      .references(() => cutters.id),
    type: text("type").notNull(),
    bytes: bytea("bytes").notNull(),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index("photos_cutter").on(table.cutterId)],
);
