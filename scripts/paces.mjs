// npm run paces [-- N [bent]]: N (200) random ways and tapers, or such that bend or turn between straighter stretches: every pace keeps its tolerance when it is cut again and is no slower than the best of one feed and one wait. A short version is in npm test.
import { bin, install, run } from "./lib/prepare.mjs";

install();
process.env.UPWIND_PACES = process.argv[2] ?? "200";
if (process.argv[3] === "bent") process.env.UPWIND_PACES_BENT = "yes";
process.exit(
  run(bin("vitest"), ["run", "--project", "core", "src/core/pace/pace.test.ts", "-t", "the fastest pace (keeps its tolerance|gains most)"]).ok ? 0 : 1,
);
