import { closeDatabase, database, openedDatabase, watchLock } from "./kernel/db/client";
import { ServerError } from "./kernel/errors";
import { logFault } from "./kernel/log";
import { seedDemo } from "./rooms/demo/seedDemo";
import { keepBackups } from "./rooms/keeping/automatic";
import { keepBeforeUpdates } from "./rooms/keeping/store";
import { endRun } from "./rooms/run/desk";

/** Opens the database, or says plainly why not and ends the process with 3: a server that cannot keep anything must not answer. */
export async function startWorkshop(): Promise<void> {
  keepBeforeUpdates();
  try {
    const db = await database();
    const { alone } = await openedDatabase();
    // Two that start at once on an empty database lay the demo in once.
    if (process.env.UPWIND_SEED === "demo") await alone(() => seedDemo(db));
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
          () => process.exit(0),
          (error) => {
            logFault(error);
            process.exit(1);
          },
        );
    });
  }
  watchLock();
  keepBackups();
}
