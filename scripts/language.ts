// npm run language: finds private words in names, comments, labels and documents, each with the plain word to write instead; any is an error.
// Ambiguous words, plain in some senses and private in others, are only counted as identifiers. `-- --where` lists the places.
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
/** Names in stored data and in the command line's results, which stay as they were: a note's code and a table. */
const FIXED = /stack-tells|"deeds"/g;
/** Plain in some senses: listed as identifiers, to be looked at by a reader. */
const AMBIGUOUS = "ways?|puts?|meets?|lost|kept|reach|asks?|asked|stands?|standing|led|heard";

const files = execFileSync("git", ["ls-files", "src", "tests", "scripts", "modules.ts", "README.md", "CONTRIBUTING.md", "docs"], { encoding: "utf8" })
  .split("\n")
  .filter((name) => /\.(ts|tsx|mjs|css|md)$/.test(name) && name !== "scripts/language.ts" && !/docs\/(sources|headless)\.md$/.test(name));

const places: string[] = [];
const byWord = new Map<string, number>();
const ambiguous = new Map<string, number>();
for (const file of files) {
  const text = readFileSync(file, "utf8").replaceAll(FIXED, "");
  text.split("\n").forEach((line, at) => {
    // Names in camel case are words too.
    const words = line.replaceAll(/([a-z])([A-Z])/g, "$1 $2");
    for (const word of Object.keys(PRIVATE))
      for (const found of words.match(new RegExp(`\\b(${word})\\b`, "gi")) ?? []) {
        byWord.set(word, (byWord.get(word) ?? 0) + 1);
        places.push(`${file}:${at + 1}: "${found}": write ${PRIVATE[word]}`);
      }
  });
  if (!/\.tsx?$/.test(file)) continue;
  const code = text.replaceAll(/\/\*[\s\S]*?\*\/|\/\/.*$|"(?:[^"\\\n]|\\.)*"/gm, "");
  for (const [name] of code.matchAll(new RegExp(`\\b(${AMBIGUOUS})\\b(?=\\??:|\\s=|\\()`, "g"))) ambiguous.set(name, (ambiguous.get(name) ?? 0) + 1);
}
const list = (counts: Map<string, number>) => [...counts].sort(([, a], [, b]) => b - a).map(([word, count]) => `${word} ${count}`);
console.log(`ambiguous words as names: ${list(ambiguous).join(", ")}`);
if (process.argv.includes("--where") || places.length <= 40) for (const place of places) console.log(place);
else console.log(list(byWord).join("\n"));
console.log(`${places.length} private words in ${files.length} files`);
if (places.length > 0) process.exitCode = 1;
