import { accessSync, constants, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statfsSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { ServerError } from "../errors";
import { writeFileDurably } from "./durable";

/** Where the workshop's data lie: UPWIND_DATA, or `.data/workshop` next to the app. */
export function dataFolder(): string {
  return path.resolve(/*turbopackIgnore: true*/ process.env.UPWIND_DATA ?? path.join(".data", "workshop"));
}

export const databasePath = (folder: string): string => path.join(folder, "pg");
/** Stands in a folder that holds a workshop, with its name and when it was made. */
const markerPath = (folder: string): string => path.join(folder, "workshop.json");
/** Stands while a database is being made: what is half made may be made again. */
const makingPath = (folder: string): string => path.join(folder, "making");
/** Next to the folder: that it holds a workshop. Without it an emptied folder would look like a new one. */
export const knownPath = (folder: string): string => `${folder}.known.json`;
/** Next to the folder, so that they outlive it: dated archives. */
export const backupFolder = (folder: string): string => path.resolve(/*turbopackIgnore: true*/ process.env.UPWIND_BACKUPS ?? `${folder}.backups`);

/** Archives of a folder by name, newest first. */
export function backupNames(folder: string): string[] {
  const where = backupFolder(folder);
  if (!existsSync(where)) return [];
  const files = readdirSync(where).filter((name) => name.endsWith(".zip"));
  const at = new Map(files.map((name) => [name, statSync(path.join(where, name)).mtimeMs]));
  return files.sort((a, b) => (at.get(b) as number) - (at.get(a) as number));
}

/** The way out that every message about lost or damaged data ends with. */
export function backupHint(folder: string): string {
  const [newest] = backupNames(folder);
  return newest
    ? `Its newest backup is ${path.join(backupFolder(folder), newest)}. Put it back with: npm run restore -- "${path.join(backupFolder(folder), newest)}" (what is here now is set aside, not deleted).`
    : `No backup was found in ${backupFolder(folder)}. If you keep one elsewhere, put it back with: npm run restore -- FILE (what is here now is set aside, not deleted). To begin again, choose another folder with UPWIND_DATA.`;
}

const fault = (message: string) => new ServerError("data-folder-fault", 503, message);

/** Words for a fault of the file system, with a way out; null for one that is not of that kind. */
export function storageFault(error: unknown, folder: string): ServerError | null {
  const code = (error as NodeJS.ErrnoException | null)?.code;
  const text = error instanceof Error ? `${error.message} ${error.cause instanceof Error ? error.cause.message : ""}` : String(error);
  if (code === "ENOSPC" || code === "EDQUOT" || code === "53100" || /no space left|disk quota/i.test(text))
    return new ServerError(
      "disk-full",
      507,
      `The disk that holds ${folder} is full: nothing was changed. Make room (old backups lie in ${backupFolder(folder)}), then try again.`,
    );
  if (code === "EROFS" || code === "EACCES" || code === "EPERM")
    return fault(
      `The data folder ${folder} cannot be written (${code === "EROFS" ? "its disk is read-only" : "this user may not"}). Give this user the right to write there, or set UPWIND_DATA to another folder.`,
    );
  if (code === "ENOTDIR" || code === "EEXIST")
    return fault(`${folder} is a file, or lies under one, where a data folder is wanted. Move it away, or set UPWIND_DATA to another folder.`);
  return null;
}

/** Makes sure that the folder is one and can be written. @throws ServerError in words */
export function readyFolder(folder: string): void {
  try {
    if (existsSync(folder) && !statSync(folder).isDirectory())
      throw fault(`${folder} is a file where a data folder is wanted. Move it away, or set UPWIND_DATA to another folder.`);
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK | constants.R_OK | constants.X_OK);
    // Permissions alone do not reveal a read-only or full disk.
    const probe = path.join(folder, "writable");
    writeFileSync(probe, "x".repeat(4096));
    rmSync(probe, { force: true });
  } catch (error) {
    if (error instanceof ServerError) throw error;
    throw storageFault(error, folder) ?? error;
  }
}

/** Least room left on the disk for a change to be begun: the engine's log grows by 16 MiB at a time, and must never find none. */
export const LEAST_ROOM_BYTES = 40 * 1024 * 1024;

/** Refuses a change while the disk is all but full, before the engine meets it. @throws ServerError `disk-full` */
export function requireFreeSpace(folder: string, least = LEAST_ROOM_BYTES): void {
  // Nothing is kept there yet: the start says what is wrong with such a folder.
  if (!existsSync(folder)) return;
  const { bavail, bsize } = statfsSync(folder);
  if (bavail * bsize < least)
    throw new ServerError(
      "disk-full",
      507,
      `The disk is full but for ${Math.round((bavail * bsize) / 1048576)} MB: nothing was changed. Make room (old backups lie in ${backupFolder(folder)}), then try again.`,
    );
}

/** What is in a folder. */
export type FolderState = "new" | "workshop";

/** Looks whether a folder holds a workshop. @throws ServerError where it held one and its database is gone */
export function lookInto(folder: string): FolderState {
  const base = databasePath(folder);
  if (existsSync(makingPath(folder))) {
    // A database that was never finished holds nobody's data: it is made again.
    rmSync(base, { recursive: true, force: true });
    rmSync(makingPath(folder), { force: true });
    if (!existsSync(markerPath(folder))) return "new";
  }
  const hasBase = existsSync(base) && statSync(base).isDirectory() && readdirSync(base).length > 0;
  if (existsSync(markerPath(folder)) && !hasBase)
    throw fault(`The database of the workshop in ${folder} is gone: its files are not there any more. No new one is put in its place. ${backupHint(folder)}`);
  if (hasBase) {
    if (!existsSync(path.join(base, "PG_VERSION")) || !existsSync(path.join(base, "global", "pg_control")))
      throw fault(`The database of the workshop in ${folder} is damaged: the files it begins with are missing. ${backupHint(folder)}`);
    return "workshop";
  }
  if (existsSync(knownPath(folder)))
    throw fault(
      `${folder} held a workshop and is empty now. No new one is put in its place. ${backupHint(folder)} If it was emptied on purpose, delete ${knownPath(folder)} and start again.`,
    );
  return "new";
}

export const beginMaking = (folder: string): void => writeFileDurably(makingPath(folder), "a database is being made here\n");

/** Says that a folder holds a finished workshop: in it and, where that can be written, next to it. */
export function markWorkshop(folder: string, id: string): void {
  const text = `${JSON.stringify({ format: "upwind-rod/workshop", id, since: new Date().toISOString() })}\n`;
  if (!existsSync(markerPath(folder))) writeFileDurably(markerPath(folder), text);
  rmSync(makingPath(folder), { force: true });
  if (existsSync(knownPath(folder))) return;
  try {
    writeFileDurably(knownPath(folder), text);
  } catch (error) {
    // A folder that is a volume of its own has nothing next to it: then only the marker within speaks.
    if (!["EACCES", "EROFS", "EPERM"].includes((error as NodeJS.ErrnoException).code ?? "")) throw error;
  }
}

/** The workshop's own id, or null. */
export function workshopId(folder: string): string | null {
  try {
    return (JSON.parse(readFileSync(markerPath(folder), "utf8")) as { id?: string }).id ?? null;
  } catch {
    // Not there, or unreadable: a new one is given.
    return null;
  }
}
