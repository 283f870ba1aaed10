// npm run check: what to run before each commit: lint, modules, language, types, and the unit tests of core and interface. npm test does everything.
import { bin, giveUp, install, run } from "./lib/prepare.mjs";

const STEPS = [
  ["lint", "biome", ["check", "--error-on-warnings", "."]],
  ["modules", "tsx", ["scripts/modules.ts"]],
  ["language", "tsx", ["scripts/language.ts"]],
  ["types", "tsc", ["--noEmit"]],
  ["unit tests", "vitest", ["run", "--reporter=dot", "src/core", "src/cli", "src/ui", "src/workers"]],
];

install();
for (const [name, command, args] of STEPS) {
  const started = Date.now();
  process.stdout.write(`\n== ${name}\n`);
  if (!run(bin(command), args).ok) giveUp(`${name} failed.`);
  process.stdout.write(`${name}: ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
}
