// npm run kills: kills the server's whole group fifty times (or as many as are named) while it writes; every acknowledged row must be there after each.
import { bin, build, install, run } from "./lib/prepare.mjs";

install();
build();
process.env.UPWIND_KILLS = process.argv[2] ?? "50";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/nothingLost.test.ts", "-t", "killed, group and all"]).ok ? 0 : 1);
