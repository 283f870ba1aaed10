import { createServer, type Server, type Socket } from "node:net";
import { LONGEST_LINE } from "@/core/devices/scpi";

/** Most bytes kept of a line that does not end: more is no command, and the caller is put out. */
const MOST_PENDING = 4 * LONGEST_LINE;

/**
 * One device on a loopback socket: a line in, a line out where something was asked. Lines end with a newline; several callers may be on it at once.
 * @param handle answers a line, or null
 * @param port 0 takes any free one
 * @returns the server and the port it listens on
 */
export function serveLines(handle: (line: string) => string | null, port = 0): Promise<{ server: Server; port: number }> {
  const server = createServer((socket: Socket) => {
    let pending = "";
    socket.setEncoding("utf8");
    socket.on("data", (chunk: string) => {
      pending += chunk;
      const lines = pending.split(/\r?\n/);
      pending = lines.pop() ?? "";
      if (pending.length > MOST_PENDING) {
        socket.destroy();
        return;
      }
      for (const line of lines) {
        const response = handle(line);
        if (response !== null) socket.write(`${response}\n`);
      }
    });
    // A caller that went away is no fault of the device.
    socket.on("error", () => socket.destroy());
  });
  return new Promise((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", () => {
      const address = server.address();
      if (address === null || typeof address === "string") reject(new Error("the device has no port"));
      else resolve({ server, port: address.port });
    });
  });
}
