// npm run paces [-- N]: N (200) random ways and tapers: every pace keeps its tolerance when it is cut again and is no slower than the best of one feed and one wait. A short version is in npm test.
import { bin, install, run } from "./lib/prepare.mjs";

install();
process.env.UPWIND_PACES = process.argv[2] ?? "200";
process.exit(run(bin("vitest"), ["run", "--project", "unit", "src/core/pace/pace.test.ts", "-t", "keeps its tolerance"]).ok ? 0 : 1);
