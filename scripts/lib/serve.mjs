import { spawn } from "node:child_process";
import net from "node:net";
import path from "node:path";
import { giveUp, root } from "./prepare.mjs";

/** Whether something already listens, or the port may not be used. @returns undefined when free, else the reason */
function portTrouble(host, port) {
  return new Promise((resolve) => {
    const probe = net.createServer();
    probe.once("error", (error) => resolve(error.code));
    probe.listen({ host, port, exclusive: true }, () => probe.close(() => resolve(undefined)));
  });
}

async function answers(url) {
  try {
    const response = await fetch(url, { redirect: "manual" });
    return response.status > 0;
  } catch {
    // Not up yet.
    return false;
  }
}

/** The simulated controller next to the app, ending with this process. @returns its address */
function simulated() {
  const child = spawn(process.execPath, ["--import", "tsx", path.join(root, "src", "cli", "controller.ts"), "--with-parent"], {
    cwd: root,
    stdio: ["pipe", "pipe", "inherit"],
  });
  return new Promise((resolve, reject) => {
    let said = "";
    child.stdout.on("data", (chunk) => {
      said += chunk;
      if (said.includes("\n")) resolve(`127.0.0.1:${JSON.parse(said).port}`);
    });
    child.once("exit", (code) => reject(new Error(`the simulated controller ended with ${code}`)));
  });
}

/**
 * Serves the built app until it receives a signal to stop.
 * @param folder data folder; @param seed "demo" lays the demo in where the folder is empty
 */
export async function serve({ folder, seed, said }) {
  const host = process.env.HOST ?? "127.0.0.1";
  const port = Number(process.env.PORT ?? 3000);
  if (!Number.isInteger(port) || port < 1 || port > 65535) giveUp(`PORT must be a whole number from 1 to 65535 (it is "${process.env.PORT}").`);
  const trouble = await portTrouble(host, port);
  if (trouble === "EADDRINUSE")
    giveUp(
      `Port ${port} on ${host} is taken by another program. Close it, or choose another: PORT=${port + 1} npm run ${process.env.npm_lifecycle_event ?? "start"}`,
    );
  if (trouble) giveUp(`Port ${port} on ${host} cannot be used (${trouble}). Choose another with PORT=...`);
  const shown = host === "0.0.0.0" || host === "::" ? "127.0.0.1" : host;
  const url = `http://${shown.includes(":") ? `[${shown}]` : shown}:${port}`;
  // The demo has a controller to run programs on; a workshop has its own, or none.
  const controller = process.env.UPWIND_CONTROLLER ?? (seed === "demo" ? await simulated() : undefined);
  const next = path.join(root, "node_modules", "next", "dist", "bin", "next");
  const child = spawn(process.execPath, [next, "start", "-H", host, "-p", String(port)], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      UPWIND_DATA: folder,
      UPWIND_URL: url,
      NEXT_MANUAL_SIG_HANDLE: "1",
      ...(seed ? { UPWIND_SEED: seed } : {}),
      ...(controller ? { UPWIND_CONTROLLER: controller } : {}),
    },
    stdio: ["ignore", "ignore", "inherit"],
  });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code) => process.exit(code ?? 0));
  while (!(await answers(url))) await new Promise((resolve) => setTimeout(resolve, 200));
  process.stdout.write(`${said}\n\n  ${url}\n\nStop with Ctrl C.\n`);
}
