import path from "node:path";
import { defineConfig } from "vitest/config";

/** The unit tests alone, as the mutants' runner wants them: one project, no browser, nothing that starts servers or damages folders. */
export default defineConfig({
  resolve: { alias: { "@": path.resolve(import.meta.dirname, "src") } },
  test: {
    environment: "node",
    // A room is judged by the tests that stand in it.
    include: [`src/${process.env.UPWIND_MUTANT_ROOM ?? ""}/**/*.test.ts`],
    exclude: ["src/server/kernel/db/dataFolder.test.ts", "src/core/tuner/tuner.test.ts", "src/rooms.test.ts", "node_modules/**"],
    testTimeout: 90_000,
    hookTimeout: 90_000,
  },
});
