import { type ChildProcess, spawn } from "node:child_process";
import { connect } from "node:net";

/** The simulated controller as a process of its own. */
export class ControllerProcess {
  private child: ChildProcess | null = null;
  port = 0;

  /** With a watchdog for machines that are busy with other tests. @param port the one it had before, or any free one */
  async start(port = 0): Promise<void> {
    const child = spawn(process.execPath, ["--import", "tsx", "src/cli/controller.ts", String(port), "6", "--with-parent"], {
      stdio: ["pipe", "pipe", "inherit"],
    });
    this.child = child;
    this.port = await new Promise<number>((resolve, reject) => {
      child.stdout.once("data", (data) => resolve((JSON.parse(String(data)) as { port: number }).port));
      child.once("exit", (code) => reject(new Error(`the controller ended with ${code}`)));
    });
  }

  /** Reports whether it is hot, and its state, over a connection of its own; it must have no other caller. @returns null while another is speaking to it */
  where(): Promise<{ state: string; heat: number } | null> {
    return new Promise((resolve, reject) => {
      const socket = connect(this.port, "127.0.0.1", () => socket.write("where\n"));
      let heard = "";
      socket.on("error", reject);
      socket.on("close", () => resolve(null));
      socket.on("data", (data) => {
        heard += data;
        const found = /state (\w+) heat (\d+)/.exec(heard);
        if (!found) return;
        socket.destroy();
        resolve({ state: found[1] as string, heat: Number(found[2]) });
      });
    });
  }

  async stop(signal: NodeJS.Signals = "SIGKILL"): Promise<void> {
    const child = this.child;
    this.child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await ended;
  }
}
