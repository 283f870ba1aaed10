import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";

/**
 * Runs a netlist through Debian's circuit simulator and gives back the columns it wrote: x, then each asked vector.
 * @param deck netlist without its control block and `.end`
 * @param analysis such as "tran 10m 20 uic" or "op"
 * @param vectors such as ["v(th)", "i(v1)"]
 */
export function simulate(deck: string, analysis: string, vectors: readonly string[]): number[][] {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-netlist-"));
  try {
    const file = path.join(folder, "deck.cir");
    const control = [".control", "set wr_singlescale", analysis, `wrdata ${path.join(folder, "out.txt")} ${vectors.join(" ")}`, "quit", ".endc", ".end", ""];
    writeFileSync(file, `${deck.trimEnd()}\n${control.join("\n")}`);
    const result = spawnSync("ngspice", ["-b", file], { encoding: "utf8", cwd: folder });
    if (result.error) throw new Error(`the circuit simulator did not start: ${result.error.message} (apt-get install ngspice)`);
    let text: string;
    try {
      text = readFileSync(path.join(folder, "out.txt"), "utf8");
    } catch {
      throw new Error(`the circuit simulator gave no answer:\n${result.stdout}\n${result.stderr}`);
    }
    return text
      .trim()
      .split("\n")
      .map((line) => line.trim().split(/\s+/).map(Number));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
