import { WRITTEN_BY } from "@/core/kernel/version";
import { backupBeforeUpdates } from "./features/backups/archiveFiles";
import { retainBackups } from "./features/backups/automatic";
import { seedDemo } from "./features/demo/seedDemo";
import { endRun } from "./features/run/runHost";
import { Access } from "./kernel/access/access";
import { ANYONE, accessModeOf } from "./kernel/access/accessMode";
import { holdAccess } from "./kernel/access/who";
import { closeDatabase, database, isShared, openedDatabase, watchLock } from "./kernel/db/client";
import { ServerError } from "./kernel/errors";
import { logEvent, logFault } from "./kernel/log";

/**
 * Who may come in. @throws ServerError where others than this computer could and no phrase is set
 */
async function checkAccess(): Promise<void> {
  const access = new Access(database);
  holdAccess(access);
  const { mode: accessMode } = accessModeOf(process.env);
  if (accessMode === "phrase" && !(await access.hasPhrase()))
    throw new ServerError(
      "sign-in",
      503,
      `Others than this computer could reach this workshop, and it has no access phrase: it was not started. Set one first (npm run phrase -- keep), or say that anyone who reaches it may change everything: UPWIND_OPEN=${ANYONE}.`,
    );
  if (accessMode === "anyone") console.error("\nWARNING: anyone who reaches this address may look at and change everything in this workshop (UPWIND_OPEN).\n");
  // Another process may have set a phrase or signed somebody out.
  await (await openedDatabase()).listen((payload) => {
    if (payload.includes('"access"')) access.forget();
  });
}

/** The process ends within so long after SIGTERM, even where something hangs, ms. */
const END_MS = 8000;

/** Ends the process in order: a hot wire goes cold first, then the database is closed. Even if that fails or hangs the process ends: the kernel lets the folder go with it, and the database's log brings back what was acknowledged. */
function end(): void {
  setTimeout(() => {
    logEvent("stopped", { upSeconds: Math.round(process.uptime()), inOrder: false });
    process.exit(1);
  }, END_MS).unref();
  endRun()
    .then(closeDatabase)
    .then(
      () => {
        logEvent("stopped", { upSeconds: Math.round(process.uptime()), inOrder: true });
        process.exit(0);
      },
      (error) => {
        logFault(error);
        process.exit(1);
      },
    );
}

/** Opens the database, or says plainly why not and ends the process with 3: a server that cannot keep anything must not answer. */
export async function startWorkshop(): Promise<void> {
  backupBeforeUpdates();
  try {
    const db = await database();
    const { alone } = await openedDatabase();
    // Two that start at once on an empty database lay the demo in once.
    if (process.env.UPWIND_SEED === "demo") await alone(() => seedDemo(db));
    await checkAccess();
  } catch (error) {
    if (error instanceof ServerError) console.error(`\n${error.message}\n`);
    else {
      logFault(error);
      console.error("\nThe workshop could not be opened, for a reason this program does not know. Nothing was changed.\n");
    }
    process.exit(3);
  }
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, end);
  watchLock();
  retainBackups();
  logEvent("started", {
    version: WRITTEN_BY,
    node: process.version,
    database: isShared() ? "server" : "embedded",
    accessMode: accessModeOf(process.env).mode,
  });
}
