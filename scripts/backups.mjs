// npm run backup [-- FILE], npm run restore -- FILE [--yes]: one archive of everything, and back.
import { spawnSync } from "node:child_process";
import path from "node:path";
import { install, root } from "./lib/prepare.mjs";

install();
const result = spawnSync(process.execPath, ["--import", "tsx", path.join(root, "src", "cli", "keeping.ts"), ...process.argv.slice(2)], {
  cwd: root,
  stdio: "inherit",
});
process.exit(result.status ?? 1);
