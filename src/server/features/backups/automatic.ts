import { rmSync } from "node:fs";
import path from "node:path";
import { automaticName, outlived } from "@/core/workshop/retention";
import { database } from "../../kernel/db/client";
import { backupFolder, backupNames, dataFolder } from "../../kernel/db/dataFolder";
import { logFault } from "../../kernel/log";
import { cutterRepository } from "../cutters/repository";
import { countDrawer } from "../drawer/repository";
import { removeTemporary, writeBackup } from "./archiveFiles";
import { packInThread } from "./archives";
import { sweepStaged } from "./staging";

const FIRST_AFTER_MS = 20_000;
const EVERY_MS = 3600_000;

/** Today's archive, once a day, where there is anything to keep; those that have served their time go. */
export async function backupToday(folder = dataFolder(), today = new Date().toISOString().slice(0, 10)): Promise<boolean> {
  const name = automaticName(today);
  if (backupNames(folder).includes(name)) return false;
  const db = await database();
  if ((await cutterRepository.count(db)) + (await countDrawer(db)) === 0) return false;
  await writeBackup(db, name, folder, packInThread);
  for (const old of outlived(backupNames(folder))) rmSync(path.join(backupFolder(folder), old), { force: true });
  return true;
}

/** Makes the day's archive a little after the start and then looks every hour. A failure is logged and does not stop the work. */
export function retainBackups(): void {
  removeTemporary();
  const sweep = () => void database().then(sweepStaged).catch(logFault);
  setTimeout(sweep, FIRST_AFTER_MS).unref();
  setInterval(sweep, EVERY_MS).unref();
  if (process.env.UPWIND_AUTO_BACKUP === "off") return;
  const look = () => void backupToday().catch(logFault);
  setTimeout(look, FIRST_AFTER_MS).unref();
  setInterval(look, EVERY_MS).unref();
}
