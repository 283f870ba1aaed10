// npm run bench: speeds and sizes here, printed; nothing is asserted but agreement with the reference.
import { bin, build, chromium, install, run } from "./lib/prepare.mjs";

install();
process.env.CHROMIUM_PATH = chromium();
build();
process.exit(run(bin("tsx"), ["tests/bench/bench.ts"]).ok ? 0 : 1);
