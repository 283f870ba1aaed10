import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { CoreError } from "@/core/kernel/errors";
import { openDatabase } from "@/server/kernel/db/client";
import { backupFolder, databasePath, dataFolder, knownPath } from "@/server/kernel/db/dataFolder";
import { holderOf, lockFolder } from "@/server/kernel/db/folderLock";
import { ServerError } from "@/server/kernel/errors";
import { readArchive } from "@/server/rooms/keeping/archive";
import { previewRestore, restoreArchive } from "@/server/rooms/keeping/restore";
import { listBackups, nameFor, writeBackup } from "@/server/rooms/keeping/store";

const say = (text: string) => process.stdout.write(`${text}\n`);

/** The running server's own archive, where one runs on this folder. */
async function fromServer(folder: string): Promise<Uint8Array | null> {
  const url = holderOf(folder)?.url;
  if (!url) return null;
  try {
    const response = await fetch(`${url}/api/backup`);
    return response.ok ? new Uint8Array(await response.arrayBuffer()) : null;
  } catch {
    // It does not answer: the folder's own lock will say whether it lives.
    return null;
  }
}

async function backup(folder: string, file: string | undefined): Promise<void> {
  const running = await fromServer(folder);
  if (running) {
    const to = path.resolve(file ?? nameFor("upwind-rod"));
    writeFileSync(to, running);
    readArchive(running);
    say(`Backup of the running workshop: ${to} (${(running.length / 1048576).toFixed(1)} MB).`);
    return;
  }
  const { db, close } = await openDatabase(folder);
  try {
    const kept = await writeBackup(db, nameFor("by-hand"), folder);
    const from = path.join(backupFolder(folder), kept.name);
    if (file) renameSync(from, path.resolve(file));
    say(`Backup: ${file ? path.resolve(file) : from} (${(kept.bytes / 1048576).toFixed(1)} MB).`);
  } finally {
    await close();
  }
}

/** Puts an archive back with the server stopped; a database that cannot be opened is set aside first, never deleted. */
async function restore(folder: string, file: string | undefined, sure: boolean): Promise<void> {
  if (!file) {
    say("Which backup? npm run restore -- FILE\n");
    for (const each of listBackups(folder)) say(`  ${path.join(backupFolder(folder), each.name)}  ${(each.bytes / 1048576).toFixed(1)} MB`);
    process.exitCode = 2;
    return;
  }
  const archive = readArchive(readFileSync(file));
  let opened: Awaited<ReturnType<typeof openDatabase>> | null = null;
  try {
    opened = await openDatabase(folder);
  } catch (error) {
    if (!(error instanceof ServerError) || !["data-damaged", "data-folder-fault", "newer-schema"].includes(error.code)) throw error;
    say(`${error.message}\n`);
    if (!sure) {
      say(`With --yes what stands in ${folder} is set aside and the backup of ${archive.made} is put in its place.`);
      process.exitCode = 2;
      return;
    }
    // Still nobody else's: what is moved must not be in use.
    const lock = await lockFolder(folder);
    const aside = `${databasePath(folder)}.set-aside-${new Date().toISOString().slice(0, 19).replaceAll(/[T:]/g, "-")}`;
    if (existsSync(databasePath(folder))) renameSync(databasePath(folder), aside);
    rmSync(path.join(folder, "workshop.json"), { force: true });
    rmSync(knownPath(folder), { force: true });
    await lock.release();
    opened = await openDatabase(folder);
  }
  const { db, close } = opened;
  try {
    const counts = await previewRestore(db, archive);
    for (const row of counts)
      say(`  ${row.kind.padEnd(8)} ${row.inArchive} in the backup, ${row.here} here: ${row.same} the same, ${row.differ} differ, ${row.onlyHere} only here`);
    if (!sure) {
      say(`\nNothing was changed. With --yes the workshop becomes what it was at ${archive.made}.`);
      process.exitCode = 2;
      return;
    }
    const undo = await writeBackup(db, nameFor("before-restore"), folder);
    const put = await restoreArchive(db, archive, "replace");
    say(`\nPut back: ${put} rows, as of ${archive.made}. To undo: npm run restore -- "${path.join(backupFolder(folder), undo.name)}" --yes`);
  } finally {
    await close();
  }
}

const [what, ...rest] = process.argv.slice(2);
const file = rest.find((word) => !word.startsWith("--"));
try {
  if (what === "backup") await backup(dataFolder(), file);
  else if (what === "restore") await restore(dataFolder(), file, rest.includes("--yes"));
  else throw new CoreError("unknown-verb", "", "use backup or restore");
  process.exit(process.exitCode ?? 0);
} catch (error) {
  if (!(error instanceof ServerError || error instanceof CoreError) && (error as NodeJS.ErrnoException).code !== "ENOENT") throw error;
  process.stderr.write(`\n${(error as Error).message}\n\n`);
  process.exit(3);
}
