// npm run demo: install, build, migrate, seed the float shed into its own folder, serve.
import path from "node:path";
import { build, install, root } from "./lib/prepare.mjs";
import { serve } from "./lib/serve.mjs";

install();
build();
await serve({
  folder: path.resolve(process.env.UPWIND_DATA ?? path.join(root, ".data", "demo")),
  seed: "demo",
  said: "Upwind Rod with the demo: the Saltmarsh Lantern Parade float shed.",
});
