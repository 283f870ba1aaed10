// npm test: install, Chromium if missing, lint, types, unused code, build, unit, end to end; then one line of counts.
import { existsSync, readFileSync, rmSync } from "node:fs";
import path from "node:path";
import { bin, build, giveUp, install, root, run, testTools } from "./lib/prepare.mjs";

const report = path.join(root, "node_modules", ".cache", "upwind", "vitest.json");

function step(name, command, args) {
  process.stdout.write(`\n== ${name}\n`);
  if (!run(command, args).ok) giveUp(`${name} failed.`);
}

install();
process.env.CHROMIUM_PATH = testTools();
step("lint", bin("biome"), ["check", "--error-on-warnings", "."]);
step("modules and arrows", bin("tsx"), ["scripts/modules.ts"]);
// Types that the framework wrote for routes of an older build speak of files that may be gone; the build writes them again.
rmSync(path.join(root, ".next", "types"), { recursive: true, force: true });
step("language", bin("tsx"), ["scripts/language.ts"]);
step("types", bin("tsc"), ["--noEmit"]);
step("unused code", bin("knip"), []);
step("docs are current", bin("tsx"), ["scripts/writeDocs.ts", "--check"]);
build();
process.stdout.write("\n== unit and end to end\n");
rmSync(report, { force: true });
const tests = run(bin("vitest"), ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`]);
if (!existsSync(report)) giveUp("The test runner left no report.");
const counts = JSON.parse(readFileSync(report, "utf8"));
const failed = counts.numFailedTests + (counts.numFailedTestSuites > 0 && counts.numFailedTests === 0 ? counts.numFailedTestSuites : 0);
process.stdout.write(`\n${counts.numPassedTests} passed, ${failed} failed\n`);
process.exit(tests.ok && failed === 0 ? 0 : 1);
