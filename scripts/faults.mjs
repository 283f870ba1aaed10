// npm run faults: fifty kills of a process and twenty restarts of PostgreSQL under a crowd whose way there loses things (or as many as are named). A short version is in npm test.
import { bin, build, install, run, testTools } from "./lib/prepare.mjs";

install();
testTools();
build();
process.env.UPWIND_FAULT_KILLS = process.argv[2] ?? "50";
process.env.UPWIND_FAULT_RESTARTS = process.argv[3] ?? "20";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/faults.test.ts"]).ok ? 0 : 1);
