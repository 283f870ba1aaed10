import { pgTable, text } from "drizzle-orm/pg-core";

/** Access settings: phrases as they are hashed, the key that seals sessions. In no archive: those are given out. */
export const access = pgTable("access", { key: text("key").primaryKey(), value: text("value").notNull() });
