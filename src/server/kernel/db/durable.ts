import { closeSync, fsyncSync, openSync, readdirSync, renameSync, writeSync } from "node:fs";
import path from "node:path";

/** Brings a file's or folder's contents to the disk. Folders cannot be synced on every system; there it is left. */
export function syncPath(target: string): void {
  let descriptor: number;
  try {
    descriptor = openSync(target, "r");
  } catch (error) {
    if (["EISDIR", "EACCES", "EPERM"].includes((error as NodeJS.ErrnoException).code ?? "")) return;
    throw error;
  }
  try {
    fsyncSync(descriptor);
  } catch (error) {
    if (!["EINVAL", "EPERM", "EISDIR"].includes((error as NodeJS.ErrnoException).code ?? "")) throw error;
  } finally {
    closeSync(descriptor);
  }
}

/** Everything under a folder, files and folders, brought to the disk: once, after a database was made. */
export function syncTree(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) syncTree(full);
    else if (entry.isFile()) syncPath(full);
  }
  syncPath(folder);
}

/** Writes a file so that either the old or the whole new one stands after a power cut: next to it first, synced, then moved over it. */
export function writeFileDurably(file: string, data: string | Uint8Array): void {
  const beside = `${file}.writing`;
  const descriptor = openSync(beside, "w");
  try {
    const bytes = typeof data === "string" ? Buffer.from(data) : data;
    let at = 0;
    while (at < bytes.length) at += writeSync(descriptor, bytes, at);
    fsyncSync(descriptor);
  } finally {
    closeSync(descriptor);
  }
  renameSync(beside, file);
  syncPath(path.dirname(file));
}
