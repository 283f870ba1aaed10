import path from "node:path";
import { defineConfig } from "vitest/config";

/** A room's unit tests alone, as the mutants' slower runner wants them: one project, no browser. */
export default defineConfig({
  resolve: { alias: { "@": path.resolve(import.meta.dirname, "src") } },
  test: {
    environment: "node",
    // A room is judged by the tests that stand in it.
    include: [`src/${process.env.UPWIND_MUTANT_MODULE ?? ""}/**/*.test.ts`],
    testTimeout: 90_000,
    hookTimeout: 90_000,
  },
});
