import { index, pgTable } from "drizzle-orm/pg-core";
import { documentColumns } from "./documentColumns";

/** A saved cutter: one versioned document. */
export const cutters = pgTable("cutters", documentColumns(), (table) => [index("cutters_updated_at").on(table.updatedAt)]);
