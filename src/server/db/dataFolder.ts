import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { rm } from "node:fs/promises";
import path from "node:path";
import lockfile from "proper-lockfile";
import { ServerError } from "../errors";

/** Where the workshop's data lie: UPWIND_DATA, or `.data/workshop` beside the app. */
export function dataFolder(): string {
  return path.resolve(/*turbopackIgnore: true*/ process.env.UPWIND_DATA ?? path.join(".data", "workshop"));
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}

function ownerOf(file: string): number | undefined {
  try {
    const pid = Number(readFileSync(file, "utf8"));
    return Number.isInteger(pid) && pid > 0 ? pid : undefined;
  } catch {
    // No owner file: the lock is from a process that died between its two steps, or is older than this file.
    return undefined;
  }
}

/**
 * Takes the folder for this process alone. PGlite itself does not: two processes on one folder silently lose rows.
 * A lock whose process is gone is taken over at once.
 * @returns release function
 * @throws ServerError `data-folder-in-use`
 */
export async function lockDataFolder(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  const lockfilePath = path.join(folder, "in-use.lock");
  const ownerFile = path.join(folder, "in-use.pid");
  const take = () => lockfile.lock(folder, { lockfilePath, stale: 15_000, update: 5_000, realpath: false });
  let release: () => Promise<void>;
  try {
    release = await take();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "ELOCKED") throw error;
    const owner = ownerOf(ownerFile);
    if (owner === undefined || owner === process.pid || isAlive(owner)) {
      throw new ServerError(
        "data-folder-in-use",
        503,
        `The data folder ${folder} is already open in another Upwind Rod${owner ? ` (process ${owner})` : ""}. Close that one, or set UPWIND_DATA to another folder.`,
      );
    }
    await rm(lockfilePath, { recursive: true, force: true });
    release = await take();
  }
  writeFileSync(ownerFile, String(process.pid));
  return async () => {
    await rm(ownerFile, { force: true });
    await release();
  };
}
