import { index, pgTable } from "drizzle-orm/pg-core";
import { documentColumns } from "./documentColumns";

/** A saved plan as one versioned document. The cutter it is meant for is named in it: a plan outlives its cutter. */
export const plans = pgTable("plans", documentColumns(), (table) => [index("plans_updated_at").on(table.updatedAt)]);
