// npm run load: ten members on the embedded engine, fifty on PostgreSQL with two processes, ten minutes each (or as many seconds as are named). A short version, in which things break besides, is in npm test (tests/e2e/faults.test.ts).
import { bin, build, install, run, testTools } from "./lib/prepare.mjs";

install();
testTools();
build();
process.env.UPWIND_LOAD_S = process.argv[2] ?? "600";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/load.test.ts"]).ok ? 0 : 1);
