import { randomUUID } from "node:crypto";
import { readFileSync, readlinkSync, rmSync, statSync } from "node:fs";
import net from "node:net";
import os from "node:os";
import path from "node:path";
import { ServerError } from "../errors";
import { writeFileDurably } from "./durable";

/** Who holds a data folder, written next to its database. Start times tell one process from a later one of the same number. */
interface Holder {
  token: string;
  pid: number;
  /** Start of the process, in the kernel's ticks since the machine came up; empty where the system does not tell. */
  started: string;
  /** The machine's present run, and the process's name space: a container has one of its own. */
  boot: string;
  space: string;
  host: string;
  /** Where it answers, if it serves: a backup asks there. */
  url: string | null;
}

const readText = (file: string): string | null => {
  try {
    return readFileSync(file, "utf8");
  } catch {
    // Not there, or not this system's way: the caller treats it as not known.
    return null;
  }
};
const linkOf = (file: string): string => {
  try {
    return readlinkSync(file);
  } catch {
    // No such link on this system.
    return "";
  }
};

/** Start time of a process, or null where there is none such (or the system has no /proc). */
function startOf(pid: number): string | null {
  const stat = readText(`/proc/${pid}/stat`);
  // The name may hold spaces and brackets: fields are counted from behind its last bracket.
  return stat === null ? null : (stat.slice(stat.lastIndexOf(")") + 2).split(" ")[19] ?? "");
}

function isThere(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}

const self = (url: string | null): Holder => ({
  token: randomUUID(),
  pid: process.pid,
  started: startOf(process.pid) ?? "",
  boot: readText("/proc/sys/kernel/random/boot_id")?.trim() ?? "",
  space: linkOf("/proc/self/ns/pid"),
  host: os.hostname(),
  url,
});

export const holderFile = (folder: string): string => path.join(folder, "in-use.json");

/** The holder a folder names, or null. A file that cannot be read names nobody. */
export function holderOf(folder: string): Holder | null {
  const text = readText(holderFile(folder));
  if (text === null) return null;
  try {
    const value: unknown = JSON.parse(text);
    return value !== null && typeof value === "object" && "pid" in value && "token" in value ? (value as Holder) : null;
  } catch {
    // Half written when a process died: the kernel's own lock says that it is gone.
    return null;
  }
}

/** Whether the holder a folder names still lives, as far as can be seen from here; "unseen" where it is in a container or machine of its own. */
function fateOf(holder: Holder, here: Holder): "lives" | "gone" | "unseen" {
  if (holder.boot !== here.boot) return holder.host === here.host ? "gone" : "unseen";
  // A container that was started again keeps its host's name; two at once have different ones.
  if (holder.space !== here.space) return holder.host === here.host ? "gone" : "unseen";
  if (!isThere(holder.pid)) return "gone";
  return holder.started === "" || startOf(holder.pid) === holder.started ? "lives" : "gone";
}

/** A name that the kernel keeps for the folder while its process lives, stopped or not, and lets go the moment it dies. */
function kernelName(folder: string): string | null {
  const { dev, ino } = statSync(folder, { bigint: true });
  if (process.platform === "linux") return `\0upwind-rod-${dev}-${ino}`;
  if (process.platform === "win32") return `\\\\.\\pipe\\upwind-rod-${dev}-${ino}`;
  return null;
}

/** Takes the folder's name from the kernel. @returns null when another process has it */
function takeName(name: string): Promise<net.Server | null> {
  return new Promise((resolve, reject) => {
    const server = net.createServer((socket) => socket.destroy());
    server.once("error", (error: NodeJS.ErrnoException) => (error.code === "EADDRINUSE" ? resolve(null) : reject(error)));
    server.listen({ path: name }, () => {
      server.unref();
      resolve(server);
    });
  });
}

const inUse = (folder: string, holder: Holder | null) =>
  new ServerError(
    "data-folder-in-use",
    503,
    `The data folder ${folder} is already open in another Upwind Rod${holder ? ` (process ${holder.pid}${holder.url ? `, at ${holder.url}` : ""})` : ""}, working or stopped. Close that one, or set UPWIND_DATA to another folder.`,
  );

/** A folder held by this process alone. */
export interface FolderLock {
  /** Throws where the folder no longer names this process: somebody took it, and nothing more may be written. */
  check: () => void;
  release: () => Promise<void>;
}

/**
 * Takes a folder for this process alone. The engine itself does not: two processes on one folder silently lose rows.
 *
 * The lock is a name the kernel holds, so a stopped or busy process keeps it and a dead one does not. The kernel's names end at a container's wall: the holder's number
 * and start time in the folder speak for those, and what cannot be seen from here is never taken without an explicit setting (UPWIND_TAKE_OVER=yes).
 * @throws ServerError `data-folder-in-use`
 */
export async function lockFolder(folder: string, url: string | null = process.env.UPWIND_URL ?? null): Promise<FolderLock> {
  const here = self(url);
  const name = kernelName(folder);
  const held = name === null ? null : await takeName(name);
  const stored = holderOf(folder);
  if (name !== null && held === null) throw inUse(folder, stored);
  const letGo = () => new Promise<void>((resolve) => (held ? held.close(() => resolve()) : resolve()));
  if (stored) {
    const fate = fateOf(stored, here);
    if (fate === "lives" || (name === null && stored.pid === process.pid && fate !== "gone")) {
      await letGo();
      throw inUse(folder, stored);
    }
    if (fate === "unseen" && process.env.UPWIND_TAKE_OVER !== "yes") {
      await letGo();
      throw new ServerError(
        "data-folder-in-use",
        503,
        `The data folder ${folder} was last opened on "${stored.host}", another machine or container, and was not closed there. Two at once would destroy it. If that one is surely gone, start once with UPWIND_TAKE_OVER=yes.`,
      );
    }
  }
  try {
    writeFileDurably(holderFile(folder), `${JSON.stringify(here)}\n`);
  } catch (error) {
    await letGo();
    throw error;
  }
  let released = false;
  return {
    check: () => {
      if (!released && holderOf(folder)?.token !== here.token) {
        throw new ServerError(
          "lock-lost",
          503,
          `The data folder ${folder} was taken by another Upwind Rod while this one was away. Nothing more is written here.`,
        );
      }
    },
    release: async () => {
      if (released) return;
      released = true;
      if (holderOf(folder)?.token === here.token) rmSync(holderFile(folder), { force: true });
      await letGo();
    },
  };
}
