// npm run screenshots: the README's pictures, from demo data, at 1280 x 800.
import { bin, build, install, run, testTools } from "./lib/prepare.mjs";

install();
process.env.CHROMIUM_PATH = testTools();
build();
process.exit(run(bin("tsx"), ["tests/helpers/screenshots.ts"]).ok ? 0 : 1);
