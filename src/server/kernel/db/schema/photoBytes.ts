import { customType, pgTable, text, timestamp, uuid } from "drizzle-orm/pg-core";

/** One engine's driver gives plain bytes, the other's a kind of its own: both are read as plain ones. */
const bytea = customType<{ data: Uint8Array; driverData: Uint8Array }>({ dataType: () => "bytea", fromDriver: (bytes) => new Uint8Array(bytes) });

/**
 * The bytes of photographs by their SHA-256. They never change, so a backup can read them one at a time after its transaction has ended, and a restore can add them before its transaction begins.
 * Bytes that no photograph names are deleted later, when no {@link photoHolds} row is current.
 */
export const photoBytes = pgTable("photo_bytes", {
  sum: text("sum").primaryKey(),
  bytes: bytea("bytes").notNull(),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
});

/** A backup or a restore that is under way: until then no bytes of photographs are deleted. */
export const photoHolds = pgTable("photo_holds", {
  id: uuid("id").primaryKey().defaultRandom(),
  until: timestamp("until", { withTimezone: true }).notNull(),
});
