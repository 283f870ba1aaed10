// npm run damage: damages every file of a database, one at a time; each time all must be there or words must say what to do. Takes an hour or so.
import { bin, install, run } from "./lib/prepare.mjs";

install();
process.env.UPWIND_DAMAGE_ALL = "yes";
process.exit(run(bin("vitest"), ["run", "--project", "unit", "src/server/kernel/db/dataFolder.test.ts", "-t", "damaged in any one file"]).ok ? 0 : 1);
