// npm run pulleys: fifty random jobs for the swing arm; no pulley's place of ten thousand random ones betters the one that is found. A short version is in npm test.
import { bin, install, run } from "./lib/prepare.mjs";

install();
process.env.UPWIND_PULLEYS = "50 10000";
process.exit(run(bin("vitest"), ["run", "--project", "core", "src/core/rigs/kinds.test.ts", "-t", "no random place"]).ok ? 0 : 1);
