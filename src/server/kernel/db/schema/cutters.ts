import { index, jsonb, pgTable } from "drizzle-orm/pg-core";
import { documentColumns } from "./documentColumns";

/** A saved cutter: its design as one versioned document. */
export const cutters = pgTable("cutters", { ...documentColumns(), design: jsonb("design").notNull() }, (table) => [
  index("cutters_updated_at").on(table.updatedAt),
]);
