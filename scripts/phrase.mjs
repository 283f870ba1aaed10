// npm run phrase -- look|work|keep [--none]: the access phrase of a workshop that others can reach.
import { spawnSync } from "node:child_process";
import path from "node:path";
import { install, root } from "./lib/prepare.mjs";

install();
const result = spawnSync(process.execPath, ["--import", "tsx", path.join(root, "src", "cli", "phrase.ts"), ...process.argv.slice(2)], {
  cwd: root,
  stdio: "inherit",
});
process.exit(result.status ?? 1);
