import { closeSync, fsyncSync, openSync } from "node:fs";
import { PGlite } from "@electric-sql/pglite";
import { amcheck } from "@electric-sql/pglite/contrib/amcheck";

/** Inner parts of the engine that are leaned on to reach its file system: named so that a test can see them go. */
interface Inner {
  Module?: { FS?: { lookupPath?: (at: string) => { node?: { mount?: { type?: { stream_ops?: Record<string, unknown> } } } } } };
}

/** How often the kernel was asked to bring something to the disk since the process began. */
export const synced = { calls: 0 };

/**
 * The engine ships with its writes to disk switched off, and its file system answers a sync without making one. Both are put right: what is acknowledged survives a power cut.
 */
const PARAMS = [
  ...PGlite.defaultStartParams.filter((param) => param !== "-F"),
  "-c",
  "fsync=on",
  "-c",
  "wal_sync_method=fsync",
  "-c",
  "synchronous_commit=on",
  "-c",
  "full_page_writes=on",
];

/** @returns false where the engine's inside has changed and the hook has no place: then a power cut may lose what was just saved */
function hookSync(pglite: PGlite, directory: string): boolean {
  const ops = (pglite as unknown as Inner).Module?.FS?.lookupPath?.(directory)?.node?.mount?.type?.stream_ops;
  if (!ops) return false;
  ops.fsync = (stream: { nfd?: number; path?: string }) => {
    if (typeof stream.nfd !== "number") return;
    fsyncSync(stream.nfd);
    synced.calls += 1;
  };
  return true;
}

/** Longest an engine may take to open before it is called stuck on damaged files, ms. */
const STUCK_MS = 90_000;

const late = (ms: number) =>
  new Promise<never>((_, reject) => {
    setTimeout(() => reject(new Error("the database engine did not open in time")), ms).unref();
  });

/** Opens the engine on a folder, or in memory, with its writes brought to the disk. @returns also whether they are */
export async function openEngine(directory: string | undefined): Promise<{ pglite: PGlite; syncs: boolean }> {
  const opening = PGlite.create({
    dataDir: directory,
    extensions: { amcheck },
    initialMemory: 128 * 1024 * 1024,
    ...(directory ? { startParams: PARAMS } : {}),
  });
  // A failure after the time is up has nobody left to hear it.
  opening.catch(() => {});
  const pglite = await Promise.race([opening, late(STUCK_MS)]);
  if (!directory) return { pglite, syncs: false };
  const { rows } = await pglite.query<{ data_directory: string }>("show data_directory");
  return { pglite, syncs: hookSync(pglite, rows[0]?.data_directory ?? "/pglite/data") };
}

/** Whether this disk can be synced at all: asked once at start, so that the first save is not the one to find out. */
export function canSync(file: string): boolean {
  const descriptor = openSync(file, "r");
  try {
    fsyncSync(descriptor);
    return true;
  } catch {
    // Said loudly by the caller.
    return false;
  } finally {
    closeSync(descriptor);
  }
}
