// npm run language: counts private words in names, comments, labels and documents, by word and by file. docs: shared house style.
// A word is private where it has a plain word in its place; the count may only fall. `-- --files` lists the files with most.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";

/** Words that are private everywhere, each with the plain word to write instead. */
const PRIVATE: Readonly<Record<string, string>> = {
  "reckon(s|ed|ing)?": "compute, estimate",
  "besides? (it|them|this|the)": "next to",
  anew: "again",
  "by itself": "automatically",
  "put away": "archive",
  "bring back": "restore",
  "take along": "download",
  "strikes? out": "remove",
  "deeds?": "action, command, audit entry",
  "told|tells": "report, notify, state, view",
  house: "app, test server",
  "(the|a|each|every|one|other) room(s)? of": "module, feature",
  "keepers?": "administrator",
  "whoever|whatever": "be specific",
  "mend(s|ed)?": "fix",
  stood: "was",
  "greets?|teases?": "handshake, injectFault",
  "wayOut|frameOut|StandIn": "retractPath, retractProgram, SimulatedController",
};
/** The most that there may be. Lower it with every change that removes some; at 0 the rule is final. */
const MOST = 2895;

const files = execFileSync("git", ["ls-files", "src", "tests", "scripts", "modules.ts", "README.md", "CONTRIBUTING.md", "docs"], { encoding: "utf8" })
  .split("\n")
  .filter((name) => /\.(ts|tsx|mjs|css|md)$/.test(name) && name !== "scripts/language.ts" && !/docs\/(sources|headless)\.md$/.test(name));

const byWord = new Map<string, number>();
const byFile = new Map<string, number>();
for (const file of files) {
  // Names in camel case are words too.
  const text = readFileSync(file, "utf8").replace(/([a-z])([A-Z])/g, "$1 $2");
  for (const word of Object.keys(PRIVATE)) {
    const found = text.match(new RegExp(`\\b(${word})\\b`, "gi"))?.length ?? 0;
    if (found === 0) continue;
    byWord.set(word, (byWord.get(word) ?? 0) + found);
    byFile.set(file, (byFile.get(file) ?? 0) + found);
  }
}
const total = [...byWord.values()].reduce((sum, each) => sum + each, 0);
for (const [word, count] of [...byWord].sort(([, a], [, b]) => b - a)) console.log(`${String(count).padStart(6)}  ${word}: write ${PRIVATE[word]}`);
if (process.argv.includes("--files"))
  for (const [file, count] of [...byFile].sort(([, a], [, b]) => b - a).slice(0, 40)) console.log(`${String(count).padStart(6)}  ${file}`);
console.log(`${total} private words in ${byFile.size} of ${files.length} files`);
if (total > MOST) {
  console.error(`There may be ${MOST} at most.`);
  process.exitCode = 1;
}
