import path from "node:path";
import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** Files that take longest, longest first: begun first, two workers end at about the same time. The rest follow as they come. */
const SLOW = [
  "kernel/db/dataFolder",
  "run/run",
  "backups/postgres",
  ...["smallScreens", "run", "nothingLost", "access", "log", "pace", "backups", "second", "maker", "together", "addresses", "rigs", "plans", "drawer"].map(
    (name) => `e2e/${name}`,
  ),
];
class SlowFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = SLOW.findIndex((name) => moduleId.endsWith(`${name}.test.ts`));
      return at < 0 ? SLOW.length : at;
    };
    return [...files].sort((a, b) => place(a) - place(b));
  }
}

const alias = { "@": path.resolve(import.meta.dirname, "src") };

const CORE = ["src/core/**/*.test.ts", "src/cli/**/*.test.ts"];

export default defineConfig({
  test: {
    sequence: { sequencer: SlowFirst },
    projects: [
      {
        resolve: { alias },
        test: {
          name: "core",
          environment: "node",
          include: CORE,
          // The core keeps nothing between calls: its files share what they import instead of each loading it again, which took a third of their time.
          isolate: false,
          testTimeout: 90_000,
          hookTimeout: 90_000,
          maxWorkers: 2,
        },
      },
      {
        resolve: { alias },
        test: {
          name: "unit",
          environment: "node",
          include: ["src/**/*.test.ts"],
          exclude: CORE,
          // As the core: what a file leaves behind in a module it takes away itself.
          isolate: false,
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
          // What they share takes three seconds to load.
          isolate: false,
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
