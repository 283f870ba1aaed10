import { WRITTEN_BY } from "@/core/kernel/version";
import { Access } from "./kernel/access/access";
import { ANYONE, standingOf } from "./kernel/access/standing";
import { holdAccess } from "./kernel/access/who";
import { closeDatabase, database, isShared, openedDatabase, watchLock } from "./kernel/db/client";
import { ServerError } from "./kernel/errors";
import { logEvent, logFault } from "./kernel/log";
import { seedDemo } from "./rooms/demo/seedDemo";
import { keepBackups } from "./rooms/keeping/automatic";
import { keepBeforeUpdates } from "./rooms/keeping/store";
import { endRun } from "./rooms/run/desk";

/**
 * Who may come in. @throws ServerError where others than this computer could and no phrase keeps the door
 */
async function keepTheDoor(): Promise<void> {
  const access = new Access(database);
  holdAccess(access);
  const { door } = standingOf(process.env);
  if (door === "phrase" && !(await access.hasPhrase()))
    throw new ServerError(
      "sign-in",
      503,
      `Others than this computer could reach this workshop, and it has no access phrase: it was not started. Set one first (npm run phrase -- keep), or say that anyone who reaches it may change everything: UPWIND_OPEN=${ANYONE}.`,
    );
  if (door === "anyone") console.error("\nWARNING: anyone who reaches this address may look at and change everything in this workshop (UPWIND_OPEN).\n");
  // Another process may have set a phrase or signed somebody out.
  await (await openedDatabase()).listen((payload) => {
    if (payload.includes('"access"')) access.forget();
  });
}

/** Opens the database, or says plainly why not and ends the process with 3: a server that cannot keep anything must not answer. */
export async function startWorkshop(): Promise<void> {
  keepBeforeUpdates();
  try {
    const db = await database();
    const { alone } = await openedDatabase();
    // Two that start at once on an empty database lay the demo in once.
    if (process.env.UPWIND_SEED === "demo") await alone(() => seedDemo(db));
    await keepTheDoor();
  } catch (error) {
    if (error instanceof ServerError) console.error(`\n${error.message}\n`);
    else {
      logFault(error);
      console.error("\nThe workshop could not be opened, for a reason this program does not know. Nothing was changed.\n");
    }
    process.exit(3);
  }
  for (const signal of ["SIGINT", "SIGTERM"] as const) {
    process.once(signal, () => {
      // Exit even if closing fails: the kernel lets the folder go with the process, and the log brings back what was acknowledged.
      // A wire that is hot goes cold first.
      endRun()
        .then(closeDatabase)
        .then(
          () => {
            logEvent("stopped", { upSeconds: Math.round(process.uptime()) });
            process.exit(0);
          },
          (error) => {
            logFault(error);
            process.exit(1);
          },
        );
    });
  }
  watchLock();
  keepBackups();
  logEvent("started", { version: WRITTEN_BY, node: process.version, database: isShared() ? "server" : "embedded", door: standingOf(process.env).door });
}
