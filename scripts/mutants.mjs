// npm run mutants [-- MODULE... [--share 0.1] [--patience 4]]: breaks lines one at a time and sees whether a unit test notices. Modules as in modules.ts, such as core/calibration; incremental, so that a
// second run tries only what changed; with a share, a sample drawn by lot; with patience, by tests of up to so many seconds. Figures by module go to docs/architecture.md by hand. Takes minutes to hours: never a part of npm test.
import { spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { parseArgs } from "node:util";
import { bin, install, root, run } from "./lib/prepare.mjs";

/** Modules whose score is kept. */
const MODULES = [
  ...["kernel", "numerics", "units", "materials", "geometry", "physics/heat", "physics/cut", "physics/mechanics", "physics/power", "physics/string"],
  ...["cutters", "calibration", "drawer", "log", "sheets", "diagnosis", "bench", "devices", "tuner", "start", "workshop", "plans", "pace", "rigs", "motion"],
]
  .map((module) => `core/${module}`)
  .concat("server");
install();
const { values, positionals: asked } = parseArgs({
  allowPositionals: true,
  options: { share: { type: "string", default: "1" }, patience: { type: "string", default: "1" } },
});
const [share, patience] = [Number(values.share), Number(values.patience)];
if (!(share > 0 && share <= 1)) throw new Error("--share must be a number above 0, up to 1");
if (!(patience >= 1 && patience <= 20)) throw new Error("--patience must be a number from 1 to 20");
const kept = path.join(root, "node_modules", ".cache", "upwind", "mutants");
mkdirSync(kept, { recursive: true });
/** Unit tests of the core and of the command-line interface: a module is judged by every one that reaches it, in its own module or above it. */
const coreTests = ["src/core", "src/cli"].flatMap((module) =>
  readdirSync(path.join(root, module), { recursive: true })
    .filter((file) => file.endsWith(".test.ts"))
    .map((file) => path.join(module, file)),
);
/** The server's own, on both engines. Left to npm test: what damages folders, minutes long. */
const serverTests = readdirSync(path.join(root, "src/server"), { recursive: true })
  .filter((file) => file.endsWith(".test.ts") && !file.endsWith("dataFolder.test.ts"))
  .map((file) => path.join("src/server", file));
/** Lines of a stretch that is drawn or not. */
const STRETCH = 15;
/** Files of a module that are mutated; with a share, so many of their stretches of fifteen lines, by lot. */
function mutated(module) {
  const files = readdirSync(path.join(root, "src", module), { recursive: true })
    .filter((file) => file.endsWith(".ts") && !/\.(test|worker)\.ts$/.test(file))
    .map((file) => path.join("src", module, file));
  if (share === 1) return files;
  return files.flatMap((file) => {
    const lines = readFileSync(path.join(root, file), "utf8").split("\n").length;
    const stretches = Array.from({ length: Math.ceil(lines / STRETCH) }, (_, i) => `${file}:${i * STRETCH + 1}-${(i + 1) * STRETCH}`);
    return stretches.filter(() => Math.random() < share);
  });
}
/** What no test noticed last time is tried again: tests may have come since, which the tool's own comparison does not see of a runner of ours. What one noticed stands. */
function forgetUnnoticed(file) {
  if (!existsSync(file)) return;
  const last = JSON.parse(readFileSync(file, "utf8"));
  for (const each of Object.values(last.files)) each.mutants = each.mutants.filter(({ status }) => !["Survived", "NoCoverage"].includes(status));
  writeFileSync(file, JSON.stringify(last));
}
/** One database server for the server's tests in all processes. @returns its port, as a variable, and what takes it away */
async function withPostgres() {
  const child = spawn(bin("tsx"), [path.join(root, "scripts/mutants/postgres.ts")], { cwd: root, stdio: ["pipe", "pipe", "inherit"] });
  const [port] = await once(child.stdout, "data");
  return {
    env: { UPWIND_TEST_POSTGRES: String(port).trim() },
    end: async () => {
      child.stdin.end();
      await once(child, "exit");
    },
  };
}
const rows = [];
for (const module of asked.length > 0 ? asked : MODULES) {
  const name = `${module.replaceAll("/", "-")}${share < 1 ? "-sample" : ""}`;
  const report = path.join(kept, `${name}.json`);
  const incrementalFile = path.join(kept, `${name}.incremental.json`);
  if (share === 1) forgetUnnoticed(incrementalFile);
  const config = {
    testRunner: "in-process",
    plugins: [path.join(root, "scripts/mutants/inProcess.mjs")],
    inProcess: {
      module: `src/${module}/`,
      tests: module.startsWith("server") ? serverTests : coreTests,
      patience,
      times: path.join(kept, "times.json"),
      corrupt: path.join(kept, `${name}.spoilt`),
    },
    mutate: mutated(module),
    ignorePatterns: [".next", ".data", "docs", "public", "coverage"],
    // Words are for people: a changed one is no fault of the numbers.
    mutator: { excludedMutations: ["StringLiteral"] },
    reporters: ["json", "clear-text", "progress-append-only"],
    clearTextReporter: { allowColor: false, reportTests: false, logTests: false, reportMutants: asked.length > 0 },
    jsonReporter: { fileName: report },
    // This TypeScript has no interface for tools: the sandbox needs no rewritten tsconfig, since it is inside the project.
    tsconfigFile: "none.json",
    incremental: share === 1,
    incrementalFile,
    tempDirName: ".stryker",
    concurrency: Number(process.env.UPWIND_MUTANTS_AT_ONCE ?? 2),
    timeoutMS: 3_000 * patience,
    // A mutant of the core is tried by a choice of the tests that reach it, not by all of them.
    timeoutFactor: 0.1,
    // The first time the slowest tests are tried too, to learn which they are.
    dryRunTimeoutMinutes: 20,
    ignoreStatic: true,
    allowEmpty: true,
    // Test files that are read again stay in a process's memory until it ends.
    maxTestRunnerReuse: 120,
  };
  const file = path.join(kept, `${name}.config.json`);
  writeFileSync(file, JSON.stringify(config, null, 2));
  // A run that fails has no figure: the last one's must not replace it.
  rmSync(report, { force: true });
  const database = module.startsWith("server") ? await withPostgres() : null;
  const { ok } = run(bin("stryker"), ["run", file], { env: database?.env ?? {} });
  await database?.end();
  if (!ok || !existsSync(report)) {
    process.exitCode = 1;
    rows.push(`| ${module} | failed | | |`);
    continue;
  }
  const all = Object.values(JSON.parse(readFileSync(report, "utf8")).files).flatMap((each) => each.mutants);
  const of = (...states) => all.filter((mutant) => states.includes(mutant.status)).length;
  const tried = of("Killed", "Timeout", "Survived", "NoCoverage");
  rows.push(
    `| ${module}${share < 1 ? `, a sample of ${share}` : ""} | ${tried} | ${of("Killed", "Timeout")} | ${((100 * of("Killed", "Timeout")) / tried).toFixed(1)} % |`,
  );
}
process.stdout.write(`\n| module | mutants | noticed | share |\n| --- | --- | --- | --- |\n${rows.join("\n")}\n`);
