import { index, pgTable } from "drizzle-orm/pg-core";
import { documentColumns } from "./documentColumns";

/** A saved rig as one versioned document. The cutter and the plan it belongs to are named in it: a rig outlives both. */
export const rigs = pgTable("rigs", documentColumns(), (table) => [index("rigs_updated_at").on(table.updatedAt)]);
