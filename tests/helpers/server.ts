import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, renameSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { seedDemo } from "@/server/features/demo/seedDemo";
import { openDatabase } from "@/server/kernel/db/client";
import { copyFolder, removeData, removeFolders } from "./folders";
import { freePort } from "./ports";

const CACHE = path.resolve("node_modules/.cache/upwind");

/** A folder as a first start leaves it, empty or with the demo, made once for this build: a test that is not about the first start need not wait for one. */
async function preparedFolder(seed: boolean): Promise<string> {
  const build = readFileSync(path.join(CACHE, "build"), "utf8").slice(0, 20);
  const at = path.join(CACHE, `workshop-${build}-${seed ? "demo" : "empty"}`);
  if (existsSync(at)) return at;
  for (const name of readdirSync(CACHE)) if (name.startsWith("workshop-") && !name.includes(build)) removeFolders(path.join(CACHE, name));
  const making = mkdtempSync(path.join(CACHE, "making-"));
  const { db, close } = await openDatabase(making);
  if (seed) await seedDemo(db);
  await close();
  removeFolders(`${making}.known.json`);
  try {
    renameSync(making, at);
  } catch {
    // Another file's tests were quicker: theirs is as good.
    removeFolders(making);
  }
  return at;
}

/** The built app on a free loopback port, over a data folder of its own that outlives restarts. */
export class TestServer {
  readonly folder = mkdtempSync(path.join(tmpdir(), "upwind-e2e-"));
  private child: ChildProcess | null = null;
  private log = "";
  port = 0;

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(options: { seed?: boolean; folder?: string; host?: string; env?: Record<string, string> } = {}): Promise<void> {
    this.port ||= await freePort();
    if (!options.folder && readdirSync(this.folder).length === 0) copyFolder(await preparedFolder(options.seed === true), this.folder);
    const next = path.resolve("node_modules/next/dist/bin/next");
    this.child = spawn(process.execPath, [next, "start", "-H", options.host ?? "127.0.0.1", "-p", String(this.port)], {
      env: {
        ...process.env,
        NODE_ENV: "production",
        NEXT_MANUAL_SIG_HANDLE: "1",
        UPWIND_URL: this.url,
        NEXT_TELEMETRY_DISABLED: "1",
        UPWIND_DATA: options.folder ?? this.folder,
        UPWIND_SEED: options.seed ? "demo" : "",
        HOST: options.host ?? "127.0.0.1",
        ...options.env,
      },
      stdio: ["ignore", "pipe", "pipe"],
      // A group of its own, so that a test can kill all of it at once as a power cut would.
      detached: true,
    });
    this.child.stdout?.on("data", (chunk) => {
      this.log += chunk;
    });
    this.child.stderr?.on("data", (chunk) => {
      this.log += chunk;
    });
    for (let i = 0; i < 600; i++) {
      if (this.child.exitCode !== null) throw new Error(`the server ended:\n${this.log}`);
      const up = await fetch(`${this.url}/api/cutters`).then(
        // One that asks who comes, or speaks to its proxy alone, is up too.
        (response) => response.ok || response.status === 401 || response.status === 421,
        () => false,
      );
      if (up) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`the server did not answer:\n${this.log}`);
  }

  /** Everything the server printed so far. */
  get output(): string {
    return this.log;
  }

  /** Number of the server's process, and of its group. */
  get pid(): number {
    if (!this.child?.pid) throw new Error("no server is running");
    return this.child.pid;
  }

  /** Pauses or resumes the server, or kills every process of its group. */
  signalGroup(signal: NodeJS.Signals): void {
    process.kill(-this.pid, signal);
  }

  /** @returns the exit code; null where a signal ended it */
  async stop(signal: NodeJS.Signals = "SIGTERM"): Promise<number | null> {
    const child = this.child;
    this.child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return child?.exitCode ?? null;
    const ended = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    return (await ended) as number | null;
  }

  /** Ends it at once: what it would put in order goes with its folder. How it ends in order is tried where that is tested. */
  async remove(): Promise<void> {
    if (this.child?.exitCode === null && this.child.signalCode === null) this.signalGroup("SIGKILL");
    await this.stop("SIGKILL");
    removeData(this.folder);
  }
}
