import { STAND_IN, StandIn } from "@/core/motion/standIn";
import { serveStandIn } from "@/server/rooms/run/standInServer";

/** The stand-in controller as a process of its own: its port as JSON on standard output; it ends with whoever started it. The first argument is the port it is to have, the second its watchdog in seconds. */
const { port } = await serveStandIn(new StandIn({ ...STAND_IN, watchdogS: Number(process.argv[3] ?? STAND_IN.watchdogS) }), Number(process.argv[2] ?? 0));
process.stdout.write(`${JSON.stringify({ port })}\n`);
process.stdin.resume();
process.stdin.on("end", () => process.exit(0));
