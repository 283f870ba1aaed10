import { SIMULATED_FRAME, SimulatedController } from "@/core/motion/controller/simulatedController";
import { serveSimulatedController } from "@/server/features/run/simulatedControllerServer";

/**
 * The simulated controller as a process of its own. Arguments: the port it is to have (any free one without), its watchdog in seconds, and
 * `--trace`: prints `{"at", "state", "heat"}` (Unix seconds) at the start and at every change;
 * `--with-parent`: ends when standard input does, with anyone who started it.
 */
const flags = new Set(process.argv.slice(2).filter((word) => word.startsWith("--")));
const [port = 0, watchdogS = SIMULATED_FRAME.watchdogS] = process.argv
  .slice(2)
  .filter((word) => !word.startsWith("--"))
  .map(Number);
const controller = new SimulatedController({ ...SIMULATED_FRAME, watchdogS });
const served = await serveSimulatedController(controller, port);
const say = (line: object) => process.stdout.write(`${JSON.stringify(line)}\n`);
if (flags.has("--trace")) {
  let [state, heat] = [controller.state, controller.heat];
  const trace = (more: object = {}) => say({ at: Date.now() / 1000, state, heat, ...more });
  trace({ port: served.port });
  setInterval(() => {
    if (controller.state === state && controller.heat === heat) return;
    [state, heat] = [controller.state, controller.heat];
    trace();
  }, 2);
} else say({ port: served.port });
if (flags.has("--with-parent")) {
  process.stdin.resume();
  process.stdin.on("end", () => process.exit(0));
}
