import { createServer } from "node:net";

/**
 * A loopback port for one test file. It is below the ports that the kernel assigns, and not in the range of a file that runs at the same time: a server that is stopped for a while finds
 * its port free again.
 */
export async function freePort(): Promise<number> {
  const from = 20_000 + 500 * (Number(process.env.VITEST_POOL_ID ?? 0) % 20);
  for (let tries = 0; tries < 200; tries++) {
    const port = from + Math.floor(Math.random() * 500);
    if (await isFree(port)) return port;
  }
  throw new Error(`no port is free from ${from} on`);
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once("error", () => resolve(false));
    probe.listen(port, "127.0.0.1", () => probe.close(() => resolve(true)));
  });
}
