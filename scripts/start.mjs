// npm start: install, build, migrate, serve your own workshop.
import path from "node:path";
import { build, install, root } from "./lib/prepare.mjs";
import { serve } from "./lib/serve.mjs";

install();
build();
const folder = path.resolve(process.env.UPWIND_DATA ?? path.join(root, ".data", "workshop"));
await serve({ folder, said: `Upwind Rod, your workshop (data in ${path.relative(process.cwd(), folder) || "."}).` });
