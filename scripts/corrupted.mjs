// npm run corrupted [-- N]: reads N (5,000) corrupted drawings and a twentieth as many corrupted fonts; every one gives a result or a typed refusal within a second. A short version is in npm test.
import { bin, install, run } from "./lib/prepare.mjs";

install();
process.env.UPWIND_CORRUPTED = process.argv[2] ?? "5000";
process.exit(run(bin("vitest"), ["run", "--project", "core", "src/core/plans/imports/imports.test.ts", "-t", "corrupted files"]).ok ? 0 : 1);
