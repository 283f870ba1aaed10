// npm run runs: a program of 200,000 lines streamed to the simulated controller through a page, and fifty kills of page, server and controller in mid run (or as many as are named). Short versions are in npm test.
import { bin, build, install, run } from "./lib/prepare.mjs";

install();
build();
process.env.UPWIND_RUN_LINES = process.argv[3] ?? "200000";
process.env.UPWIND_RUN_KILLS = process.argv[2] ?? "50";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/run.test.ts", "-t", "very many lines|page closed"]).ok ? 0 : 1);
