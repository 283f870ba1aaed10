// npm run attacks: the attacks of tests/e2e/attacks.test.ts in full, with their figures. A short version is in npm test.
import { bin, build, install, run } from "./lib/prepare.mjs";

install();
build();
process.env.UPWIND_ATTACKS = "full";
process.exit(run(bin("vitest"), ["run", "--project", "e2e", "tests/e2e/attacks.test.ts", "--disableConsoleIntercept"]).ok ? 0 : 1);
