import { bigint, pgTable, text } from "drizzle-orm/pg-core";

/** How many rows each kept table should have: triggers count in the same transactions, and the start holds the tables against it. */
export const rowCounts = pgTable("row_counts", {
  name: text("name").primaryKey(),
  rows: bigint("rows", { mode: "number" }).notNull(),
});
