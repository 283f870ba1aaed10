// npm run broken: 5,000 broken requests, and 1,000 from other sites and by other names, with and without a session (or as many as are named). A short version is in npm test.
import { bin, build, install, run } from "./lib/prepare.mjs";

install();
build();
process.env.UPWIND_BROKEN = process.argv[2] ?? "5000";
process.env.UPWIND_CROSS = process.argv[3] ?? "1000";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/broken.test.ts"]).ok ? 0 : 1);
