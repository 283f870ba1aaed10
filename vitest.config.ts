import path from "node:path";
import { defineConfig } from "vitest/config";

const alias = { "@": path.resolve(import.meta.dirname, "src") };

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: { name: "unit", environment: "node", include: ["src/**/*.test.ts", "tests/reference/**/*.test.ts", "tests/server/**/*.test.ts"] },
      },
      {
        resolve: { alias },
        test: {
          name: "e2e",
          environment: "node",
          include: ["tests/e2e/**/*.test.ts"],
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 60_000,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
