import { createWriteStream, existsSync, renameSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { CoreError } from "@/core/kernel/errors";
import { backupBeforeUpdates, backupName, listBackups, writeBackup } from "@/server/features/backups/archiveFiles";
import { readArchive } from "@/server/features/backups/archiveReader";
import { moveWorkshop } from "@/server/features/backups/move";
import { compareStaged, dropStaged, restoreStaged, stageArchive } from "@/server/features/backups/staging";
import { isShared, openDatabase, openWorkshop, openWorkshopAt } from "@/server/kernel/db/client";
import { backupFolder, databasePath, dataFolder, knownPath } from "@/server/kernel/db/dataFolder";
import { holderOf, lockFolder } from "@/server/kernel/db/folderLock";
import { ServerError } from "@/server/kernel/errors";

const say = (text: string) => process.stdout.write(`${text}\n`);

/** Reads an archive to its end. @returns when it was made. @throws CoreError where it is damaged */
async function checkArchive(file: string): Promise<string> {
  let made = "";
  for await (const item of readArchive(file)) if (item.kind === "manifest") made = item.made;
  return made;
}

/** The running server's own archive, written to a file, where one runs on this folder. */
async function fromServer(folder: string, file: string): Promise<boolean> {
  const holder = holderOf(folder);
  const url = holder?.url;
  if (!url) return false;
  try {
    // Anyone who can read the folder may have all that is in it: its token is accepted where a phrase is required.
    const response = await fetch(`${url}/api/backup`, { headers: { authorization: `Bearer ${holder.token}` } });
    if (!response.ok || !response.body) return false;
    await pipeline(response.body, createWriteStream(file));
    return true;
  } catch {
    // It does not answer: the folder's own lock will say whether it lives.
    rmSync(file, { force: true });
    return false;
  }
}

async function backup(folder: string, file: string | undefined): Promise<void> {
  const to = path.resolve(file ?? backupName("upwind-rod"));
  if (!isShared() && (await fromServer(folder, to))) {
    await checkArchive(to);
    say(`Backup of the running workshop: ${to} (${(statSync(to).size / 1048576).toFixed(1)} MB).`);
    return;
  }
  const { db, close } = await openWorkshop(folder);
  try {
    const saved = await writeBackup(db, backupName("by-hand"), folder);
    const from = path.join(backupFolder(folder), saved.name);
    if (file) renameSync(from, path.resolve(file));
    say(`Backup: ${file ? path.resolve(file) : from} (${(saved.bytes / 1048576).toFixed(1)} MB).`);
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
  const made = await checkArchive(file);
  let opened: Awaited<ReturnType<typeof openDatabase>> | null = null;
  try {
    opened = await openWorkshop(folder);
  } catch (error) {
    if (isShared() || !(error instanceof ServerError) || !["data-damaged", "data-folder-fault", "newer-schema"].includes(error.code)) throw error;
    say(`${error.message}\n`);
    if (!sure) {
      say(`With --yes what is in ${folder} is set aside and the backup of ${made} is put in its place.`);
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
    const staged = await stageArchive(db, readArchive(file), sure);
    try {
      for (const row of await compareStaged(db, staged))
        say(`  ${row.kind.padEnd(8)} ${row.inArchive} in the backup, ${row.here} here: ${row.same} the same, ${row.differ} differ, ${row.onlyHere} only here`);
      if (!sure) {
        say(`\nNothing was changed. With --yes the workshop becomes what it was at ${made}.`);
        process.exitCode = 2;
        return;
      }
      const undo = await writeBackup(db, backupName("before-restore"), folder);
      const restored = await restoreStaged(db, staged, "replace");
      say(`\nRestored: ${restored} rows, as of ${made}. To undo: npm run restore -- "${path.join(backupFolder(folder), undo.name)}" --yes`);
    } finally {
      await dropStaged(db, staged.id);
    }
  } finally {
    await close();
  }
}

/** What one side of a move is: a folder, or a database server's address. */
const sideOf = (text: string) => (/^postgres(ql)?:\/\//.test(text) ? { url: text } : { folder: path.resolve(text) });

/** Copies a whole workshop from one place into an empty other, either engine to either, and proves that both are equal. */
async function move(from: string | undefined, to: string | undefined): Promise<void> {
  if (!from || !to) {
    say(
      "From where, and where to? npm run move -- FROM TO\nEach is a data folder, or an address such as postgres://user@127.0.0.1:5432/shed. Stop what runs on either first.",
    );
    process.exitCode = 2;
    return;
  }
  const source = await openWorkshopAt(sideOf(from));
  try {
    const target = await openWorkshopAt(sideOf(to));
    try {
      const counts = await moveWorkshop(source, target);
      for (const { kind, rows, sum } of counts) say(`  ${kind.padEnd(8)} ${String(rows).padStart(6)} rows, ${sum.slice(0, 16)} on both sides`);
      say("\nMoved: every row is there, and equal. What it was moved from stands as it was.");
    } finally {
      await target.close();
    }
  } finally {
    await source.close();
  }
}

backupBeforeUpdates();
const [what, ...rest] = process.argv.slice(2);
const file = rest.find((word) => !word.startsWith("--"));
try {
  if (what === "backup") await backup(dataFolder(), file);
  else if (what === "restore") await restore(dataFolder(), file, rest.includes("--yes"));
  else if (what === "move") await move(rest[0], rest[1]);
  else throw new CoreError("unknown-verb", "", "use backup, restore or move");
  process.exit(process.exitCode ?? 0);
} catch (error) {
  if (!(error instanceof ServerError || error instanceof CoreError) && (error as NodeJS.ErrnoException).code !== "ENOENT") throw error;
  process.stderr.write(`\n${(error as Error).message}\n\n`);
  process.exit(3);
}
