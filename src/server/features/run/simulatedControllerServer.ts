import { createServer, type Server, type Socket } from "node:net";
import { LONGEST_SAID, type SimulatedController } from "@/core/motion/controller/simulatedController";

const TICK_MS = 10;
/** Begins the first line of a request of the web. */
const HTTP = /^(GET|HEAD|POST|PUT|PATCH|DELETE|OPTIONS|CONNECT|TRACE) |\bHTTP\/\d/;
/** After a pause of this process no more time passes at once than so much: a paused controller does not leap. */
const LONGEST_TICK_S = 0.5;

/**
 * The simulated controller on a loopback socket, in its own time: one caller, greeted when it comes; when it goes the heat goes off.
 * @param port 0 takes any free one
 */
export function serveSimulatedController(controller: SimulatedController, port = 0): Promise<{ server: Server; port: number; close: () => void }> {
  let caller: Socket | null = null;
  const flush = () => {
    const lines = controller.heard();
    if (lines.length > 0 && caller) caller.write(`${lines.join("\n")}\n`);
  };
  const server = createServer((socket) => {
    if (caller) {
      socket.end("refused: another is speaking to it\n");
      return;
    }
    caller = socket;
    socket.setNoDelay(true);
    socket.setEncoding("utf8");
    socket.write(`${controller.greeting}\n`);
    let pending = "";
    socket.on("data", (chunk: string) => {
      const lines = (pending + chunk).split(/\r?\n/);
      pending = lines.pop() ?? "";
      if (pending.length > LONGEST_SAID) {
        socket.destroy();
        return;
      }
      for (const line of lines) {
        // A browser that was led here by another site's page: nothing it sends is a command.
        if (HTTP.test(line)) {
          socket.destroy();
          return;
        }
        controller.hear(line);
      }
      flush();
    });
    // A caller that breaks off is met by what follows: closed is closed.
    socket.on("error", () => socket.destroy());
    socket.on("close", () => {
      if (caller !== socket) return;
      caller = null;
      controller.linkDown();
      controller.heard();
    });
  });
  let last = performance.now();
  const timer = setInterval(() => {
    const now = performance.now();
    controller.tick(Math.min(LONGEST_TICK_S, (now - last) / 1000));
    last = now;
    flush();
    if (controller.hangUp) {
      controller.hangUp = false;
      caller?.destroy();
    }
  }, TICK_MS);
  server.on("close", () => clearInterval(timer));
  return new Promise((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", () => {
      const address = server.address();
      if (address === null || typeof address === "string") reject(new Error("the controller has no port"));
      else
        resolve({
          server,
          port: address.port,
          close: () => {
            clearInterval(timer);
            caller?.destroy();
            server.close();
          },
        });
    });
  });
}
