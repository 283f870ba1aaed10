import { defineConfig } from "drizzle-kit";

export default defineConfig({ dialect: "postgresql", schema: "./src/server/kernel/db/schema/index.ts", out: "./drizzle" });
