// npm run same-answers -- REF: every example of the command line's help, answered by the version REF and by this one, compared: numbers, codes, ids and keys must be equal; sentences (texts with a blank) may differ and are counted.
import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { giveUp, install, root } from "./lib/prepare.mjs";

const ref = process.argv[2];
if (!ref) giveUp("Name the version to hold this one against: npm run same-answers -- HEAD~1");
install();

/** One verb's printed answer, and how it ended; without the installing wrapper, since both share these packages. */
function ask(folder, verb, input) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ["--import", "tsx", "src/cli/main.ts", verb], { cwd: folder, stdio: ["pipe", "pipe", "inherit"] });
    const parts = [];
    child.stdout.on("data", (part) => parts.push(part));
    child.on("error", reject);
    child.on("close", (status) => resolve({ status, said: Buffer.concat(parts).toString("utf8") }));
    child.stdin.end(JSON.stringify(input));
  });
}

let sentences = 0;
const isSentence = (value) => typeof value === "string" && value.trim().includes(" ");

/** Path of the first place where two results differ. */
function difference(before, after, at = "") {
  if (isSentence(before) && isSentence(after)) {
    if (before !== after) sentences += 1;
    return null;
  }
  if (typeof before !== "object" || typeof after !== "object" || before === null || after === null)
    return Object.is(before, after) ? null : `${at || "."}: ${JSON.stringify(before)} became ${JSON.stringify(after)}`.slice(0, 300);
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if (!(key in before)) return `${at}.${key} is new`;
    if (!(key in after)) return `${at}.${key} is gone`;
    const found = difference(before[key], after[key], `${at}.${key}`);
    if (found) return found;
  }
  return null;
}

const other = mkdtempSync(path.join(tmpdir(), "upwind-same-"));
const git = (...args) => spawnSync("git", args, { cwd: root, encoding: "utf8" });
try {
  const made = git("worktree", "add", "--detach", "--force", other, ref);
  if (made.status !== 0) giveUp(made.stderr);
  symlinkSync(path.join(root, "node_modules"), path.join(other, "node_modules"));
  const helpBefore = JSON.parse((await ask(other, "help", null)).said).verbs;
  const helpAfter = JSON.parse((await ask(root, "help", null)).said).verbs;
  let differ = 0;
  for (const { verb, example } of helpBefore.filter((row) => row.verb !== "help")) {
    const [before, after] = await Promise.all([ask(other, verb, example), ask(root, verb, example)]);
    if (before.status === after.status && before.said === after.said) continue;
    const where =
      before.status === after.status ? difference(JSON.parse(before.said), JSON.parse(after.said)) : `ended with ${before.status}, now ${after.status}`;
    if (where === null) continue;
    differ += 1;
    console.log(`${verb}: ${where}`);
  }
  const added = helpAfter.filter((row) => !helpBefore.some((old) => old.verb === row.verb)).map((row) => row.verb);
  console.log(
    `${helpBefore.length - 1} examples of ${ref}: ${helpBefore.length - 1 - differ} equal to the last digit, ${differ} differ; ${sentences} sentences were rewritten.${added.length > 0 ? ` New verbs: ${added.join(", ")}.` : ""}`,
  );
  process.exitCode = differ > 0 ? 1 : 0;
} finally {
  git("worktree", "remove", "--force", other);
  rmSync(other, { recursive: true, force: true });
}
