import { readFileSync } from "node:fs";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import { DEVICE_FAULTS, DEVICES, type DeviceFault, type DeviceName } from "@/core/devices/instruments";
import { CoreError } from "@/core/kernel/errors";
import { CONTROLLER_FAULTS, type ControllerFault, SIMULATED_FRAME, SimulatedController } from "@/core/motion/controller/simulatedController";
import { serveLines } from "@/server/features/instruments/lineServer";
import { serveSimulatedController } from "@/server/features/run/simulatedControllerServer";

const TICK_MS = 20;
const VARIABLES: Readonly<Record<DeviceName | "controller", string>> = {
  controller: "UPWIND_CONTROLLER",
  supply: "UPWIND_SUPPLY",
  pwm: "UPWIND_PWM",
  thermometer: "UPWIND_THERMOMETER",
  scale: "UPWIND_SCALE",
};

const giveUp = (words: string): never => {
  process.stderr.write(`${words}\n`);
  process.exit(2);
};

/** Arguments: a design file (the demo's first cutter without one), then faults as device=fault. */
function readArguments(): { file: string | undefined; faults: [DeviceName, DeviceFault][]; controllerFaults: ControllerFault[] } {
  const faults: [DeviceName, DeviceFault][] = [];
  const controllerFaults: ControllerFault[] = [];
  let file: string | undefined;
  for (const argument of process.argv.slice(2)) {
    const [device, fault] = argument.split("=");
    if (fault === undefined) file = argument;
    else if (DEVICES.includes(device as DeviceName) && DEVICE_FAULTS.includes(fault as DeviceFault)) faults.push([device as DeviceName, fault as DeviceFault]);
    else if (device === "controller" && CONTROLLER_FAULTS.includes(fault as ControllerFault)) controllerFaults.push(fault as ControllerFault);
    else
      giveUp(
        `"${argument}" is not known: say device=fault with a device of ${DEVICES.join(", ")} and a fault of ${DEVICE_FAULTS.join(", ")}, or controller= with one of ${CONTROLLER_FAULTS.join(", ")}.`,
      );
  }
  return { file, faults, controllerFaults };
}

const { file, faults, controllerFaults } = readArguments();
let world: BenchWorld;
try {
  world = new BenchWorld(migrateDesign(file === undefined ? DEMO_CUTTERS[0] : JSON.parse(readFileSync(file, "utf8"))), BENCH_DEFAULTS);
} catch (error) {
  if (!(error instanceof CoreError || error instanceof SyntaxError || (error as NodeJS.ErrnoException).code === "ENOENT")) throw error;
  giveUp(`The design cannot be put on the bench: ${(error as Error).message}`);
  throw error;
}
for (const [device, fault] of faults) world.devices[device]?.setFault(fault, true);
const ports: Partial<Record<DeviceName | "controller", number>> = {};
for (const name of DEVICES) {
  if (!world.devices[name]) continue;
  const { port } = await serveLines((line) => world.say(name, line) ?? null);
  ports[name] = port;
}
const controller = new SimulatedController(SIMULATED_FRAME);
for (const fault of controllerFaults) controller.setFault(fault, true);
ports.controller = (await serveSimulatedController(controller)).port;
let last = performance.now();
setInterval(() => {
  const now = performance.now();
  world.run(Math.min(0.5, (now - last) / 1000));
  last = now;
}, TICK_MS);
process.stdout.write(`${JSON.stringify({ ports })}\n`);
process.stderr.write(
  `Simulated instruments on 127.0.0.1; one line a message, newline at its end. To let the app read them, start it with:\n${Object.entries(ports)
    .map(([name, port]) => `  ${VARIABLES[name as DeviceName | "controller"]}=127.0.0.1:${port}`)
    .join(" \\\n")}\nStop with Ctrl C.\n`,
);
