// npm run long -- NAME [ARGUMENTS]: measurements that take minutes to an hour; their results are in docs/measurements.md. Without a name it lists them.
import { bin, build, giveUp, install, run, testTools } from "./lib/prepare.mjs";

/**
 * Each measurement: the test file it runs (all where it names none) and which of its tests, what it needs, and the variables that make it long.
 * An argument is [name, variable, value when none is given].
 */
const MEASUREMENTS = {
  attacks: {
    words: "the attacks of tests/e2e/attacks.test.ts in full, with their figures",
    project: "e2e",
    file: "tests/e2e/attacks.test.ts",
    env: { UPWIND_ATTACKS: "full" },
    flags: ["--disableConsoleIntercept"],
  },
  broken: {
    words: "broken requests to every route, and requests from other sites and by other names, with and without a session",
    project: "e2e",
    file: "tests/e2e/broken.test.ts",
    args: [
      ["COUNT", "UPWIND_BROKEN", "5000"],
      ["CROSS-SITE", "UPWIND_CROSS", "1000"],
    ],
  },
  corrupted: {
    words: "corrupted drawings, and a twentieth as many corrupted fonts: a result or a typed refusal each, within a second",
    project: "core",
    file: "src/core/plans/imports/imports.test.ts",
    only: "corrupted files",
    args: [["COUNT", "UPWIND_CORRUPTED", "5000"]],
  },
  damage: {
    words: "every file of a database damaged in turn: all is there, or the start says what to do (about an hour)",
    project: "unit",
    file: "src/server/kernel/db/dataFolder.test.ts",
    only: "damaged in any one file",
    env: { UPWIND_DAMAGE_ALL: "yes" },
  },
  faults: {
    words: "kills of a process and restarts of PostgreSQL under a crowd whose connection loses requests and responses",
    project: "e2e",
    file: "tests/e2e/faults.test.ts",
    postgres: true,
    args: [
      ["KILLS", "UPWIND_FAULT_KILLS", "50"],
      ["RESTARTS", "UPWIND_FAULT_RESTARTS", "20"],
    ],
  },
  kills: {
    words: "the server's whole process group killed while it writes: every acknowledged row is there afterwards",
    project: "e2e",
    file: "tests/e2e/nothingLost.test.ts",
    only: "killed, group and all|paused first process",
    args: [["COUNT", "UPWIND_KILLS", "50"]],
  },
  load: {
    words: "ten members on the embedded engine, fifty on PostgreSQL with two processes (run it alone on a quiet machine)",
    project: "e2e",
    file: "tests/e2e/load.test.ts",
    postgres: true,
    args: [["SECONDS", "UPWIND_LOAD_S", "600"]],
  },
  paces: {
    words: "random paths and tapers (or bent ones): each pace keeps its tolerance, and is no slower than the best of one feed and one wait",
    project: "core",
    file: "src/core/pace/pace.test.ts",
    only: "the fastest pace (keeps its tolerance|gains most)",
    args: [
      ["COUNT", "UPWIND_PACES", "200"],
      ["bent", "UPWIND_PACES_BENT", ""],
    ],
  },
  properties: {
    words: "every property of the core by random cases, so many times as often as the whole of it (npm test tries a quarter)",
    project: "core",
    args: [["TIMES", "UPWIND_TIMES", "1"]],
  },
  pulleys: {
    words: "random jobs for the swing arm: no random place of the pulley betters the one that is found",
    project: "core",
    file: "src/core/rigs/kinds.test.ts",
    only: "no random place",
    env: { UPWIND_PULLEYS: "50 10000" },
  },
  runs: {
    words: "kills of page, server and controller during a run, and a long program streamed through a page",
    project: "e2e",
    file: "tests/e2e/run.test.ts",
    only: "very many lines|page closed",
    args: [
      ["KILLS", "UPWIND_RUN_KILLS", "50"],
      ["LINES", "UPWIND_RUN_LINES", "200000"],
    ],
  },
};

const usage = (name) => {
  const { words, args = [] } = MEASUREMENTS[name];
  return `  npm run long -- ${[name, ...args.map(([arg, , value]) => `[${arg}${value ? `=${value}` : ""}]`)].join(" ")}\n      ${words}`;
};

const [name, ...given] = process.argv.slice(2);
if (name === undefined || name === "--help") {
  process.stdout.write(`${Object.keys(MEASUREMENTS).map(usage).join("\n")}\n`);
  process.exit(0);
}
const measurement = MEASUREMENTS[name];
if (!measurement) giveUp(`There is no measurement "${name}". The names are: ${Object.keys(MEASUREMENTS).join(", ")}.`);
if (given.includes("--help")) {
  process.stdout.write(`${usage(name)}\n`);
  process.exit(0);
}
const { project, file, only, postgres, env = {}, args = [], flags = [] } = measurement;
if (given.length > args.length) giveUp(`${name} takes ${args.length} arguments at most:\n${usage(name)}`);
install();
if (postgres) testTools();
if (project === "e2e") build();
args.forEach(([, variable, value], i) => {
  if (given[i] ?? value) env[variable] = given[i] ?? value;
});
process.exit(run(bin("vitest"), ["run", "--project", project, ...(file ? [file] : []), ...(only ? ["-t", only] : []), ...flags], { env }).ok ? 0 : 1);
