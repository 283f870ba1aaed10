// npm run -s instruments: the virtual bench's devices on loopback sockets, one line of text a message.
import { spawnSync } from "node:child_process";
import path from "node:path";
import { install, root } from "./lib/prepare.mjs";

install();
const result = spawnSync(process.execPath, ["--import", "tsx", path.join(root, "src", "cli", "instruments.ts"), ...process.argv.slice(2)], {
  cwd: root,
  stdio: "inherit",
});
process.exit(result.status ?? 1);
