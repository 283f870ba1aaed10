import { statfsSync } from "node:fs";
import path from "node:path";
import { sql } from "drizzle-orm";
import type { HEALTH } from "@/contract/health/contract";
import type { ResponseBody } from "@/contract/kernel/endpoint";
import { WRITTEN_BY } from "@/core/kernel/version";
import { database, isShared } from "../../kernel/db/client";
import { backupFolder, dataFolder } from "../../kernel/db/dataFolder";
import { logFault } from "../../kernel/log";
import { listBackups } from "../backups/archiveFiles";

/** A database that does not answer within this is said not to, ms. */
const PATIENCE_MS = 3000;

const freeIn = (folder: string): number | null => {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    // Not made yet, or of a kind that does not say.
    return null;
  }
};

async function answersMs(): Promise<number | null> {
  const from = performance.now();
  let timer: NodeJS.Timeout | undefined;
  try {
    const late = new Promise<null>((resolve) => {
      timer = setTimeout(() => resolve(null), PATIENCE_MS);
    });
    const requested = database().then(async (db) => {
      await db.execute(sql`select 1`);
      return Math.round(10 * (performance.now() - from)) / 10;
    });
    return await Promise.race([requested, late]);
  } catch (error) {
    logFault(error, { withPlace: false });
    return null;
  } finally {
    clearTimeout(timer);
  }
}

/** How the app is doing: for anyone who keeps it, and for what looks after it. */
export async function healthNow(): Promise<ResponseBody<typeof HEALTH.read>> {
  const ms = await answersMs();
  const [newest] = listBackups();
  return {
    ok: ms !== null,
    version: WRITTEN_BY,
    upSeconds: Math.round(process.uptime()),
    database: { engine: isShared() ? "server" : "embedded", answersMs: ms },
    freeBytes: { data: isShared() ? null : freeIn(path.dirname(dataFolder())), backups: freeIn(path.dirname(backupFolder(dataFolder()))) },
    backupHours: newest ? Math.round((Date.now() - Date.parse(newest.at)) / 360_000) / 10 : null,
  };
}
