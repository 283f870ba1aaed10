import path from "node:path";
import { defineConfig } from "vitest/config";

const alias = { "@": path.resolve(import.meta.dirname, "src") };

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: "unit",
          environment: "node",
          include: ["src/**/*.test.ts"],
          // Thousands of random cases take seconds; on a machine that is busy elsewhere, many. No test is about time.
          testTimeout: 90_000,
          hookTimeout: 90_000,
          // The runner would leave one of two cores idle.
          maxWorkers: 2,
        },
      },
      {
        resolve: { alias },
        test: {
          name: "e2e",
          environment: "node",
          include: ["tests/e2e/**/*.test.ts"],
          // Each file has a server and a browser of its own, and much of its time is waiting for them: two at once.
          maxWorkers: 2,
          testTimeout: 180_000,
          hookTimeout: 90_000,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
