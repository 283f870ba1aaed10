import { closeDatabase, database } from "./db/client";
import { ServerError } from "./errors";
import { seedDemo } from "./seedDemo";

/** Opens the database, or says plainly why not and ends the process. */
export async function startWorkshop(): Promise<void> {
  try {
    const db = await database();
    if (process.env.UPWIND_SEED === "demo") await seedDemo(db);
  } catch (error) {
    if (!(error instanceof ServerError)) throw error;
    console.error(`\n${error.message}\n`);
    process.exit(3);
  }
  for (const signal of ["SIGINT", "SIGTERM"] as const) {
    process.once(signal, () => {
      // Exit even if closing fails: the lock names this process and the next start takes it over.
      closeDatabase().then(
        () => process.exit(0),
        (error) => {
          console.error(error);
          process.exit(1);
        },
      );
    });
  }
}
