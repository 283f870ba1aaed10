// npm run bench: speeds and sizes here, printed; nothing is asserted but agreement with the reference.
import { bin, build, install, run, testTools } from "./lib/prepare.mjs";

install();
process.env.CHROMIUM_PATH = testTools();
build();
process.exit(run(bin("tsx"), ["tests/bench/bench.ts"]).ok ? 0 : 1);
