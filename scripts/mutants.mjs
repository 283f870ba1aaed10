// npm run mutants [-- ROOM...]: breaks lines one at a time and sees whether a unit test notices. Rooms as in rooms.ts, such as core/calibration; incremental, so that a second run
// tries only what changed. Figures by room go to docs/architecture.md by hand. Takes minutes to hours: never a part of npm test.
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { bin, install, root, run } from "./lib/prepare.mjs";

/** Rooms whose score is kept. */
const ROOMS = [
  "core/kernel",
  "core/numerics",
  "core/physics/heat",
  "core/physics/cut",
  "core/physics/mechanics",
  "core/physics/power",
  "core/cutters",
  "core/calibration",
  "core/drawer",
  "core/log",
  "core/sheets",
  "core/diagnosis",
  "core/bench",
  "core/devices",
  "core/tuner",
  "core/start",
  "core/units",
  "core/materials",
  "core/workshop",
  "server",
  "workers",
];
install();
const asked = process.argv.slice(2);
const kept = path.join(root, "node_modules", ".cache", "upwind", "mutants");
mkdirSync(kept, { recursive: true });
const rows = [];
for (const room of asked.length > 0 ? asked : ROOMS) {
  const name = room.replaceAll("/", "-");
  const report = path.join(kept, `${name}.json`);
  const config = {
    testRunner: "vitest",
    plugins: ["@stryker-mutator/vitest-runner"],
    vitest: { configFile: "vitest.mutants.config.ts" },
    mutate: [`src/${room}/**/*.ts`, "!src/**/*.test.ts", "!src/**/*.worker.ts"],
    ignorePatterns: [".next", ".data", "docs", "public", "coverage"],
    // Words are for people: a changed one is no fault of the numbers.
    mutator: { excludedMutations: ["StringLiteral"] },
    reporters: ["json", "clear-text"],
    clearTextReporter: { allowColor: false, reportTests: false, logTests: false, reportMutants: asked.length > 0 },
    jsonReporter: { fileName: report },
    // This TypeScript has no interface for tools: the sandbox needs no rewritten tsconfig, since it stands inside the project.
    tsconfigFile: "none.json",
    incremental: true,
    incrementalFile: path.join(kept, `${name}.incremental.json`),
    tempDirName: ".stryker",
    concurrency: Number(process.env.UPWIND_MUTANTS_AT_ONCE ?? 2),
    timeoutMS: 20_000,
    ignoreStatic: true,
    allowEmpty: true,
  };
  const file = path.join(kept, `${name}.config.json`);
  writeFileSync(file, JSON.stringify(config, null, 2));
  if (!run(bin("stryker"), ["run", file], { env: { UPWIND_MUTANT_ROOM: room } }).ok) process.exitCode = 1;
  const all = Object.values(JSON.parse(readFileSync(report, "utf8")).files).flatMap((each) => each.mutants);
  const of = (...states) => all.filter((mutant) => states.includes(mutant.status)).length;
  const tried = of("Killed", "Timeout", "Survived", "NoCoverage");
  rows.push(`| ${room} | ${tried} | ${of("Killed", "Timeout")} | ${((100 * of("Killed", "Timeout")) / tried).toFixed(1)} % |`);
}
process.stdout.write(`\n| room | mutants | noticed | share |\n| --- | --- | --- | --- |\n${rows.join("\n")}\n`);
