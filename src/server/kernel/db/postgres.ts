import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { ServerError } from "../errors";
import { logFault } from "../log";
import { errorCode } from "./errorCode";
import { beforeMigrating, migrationsFolder } from "./migrations";
import { CHANGES, type Database, type Opened } from "./opened";
import * as schema from "./schema";

/** Connections of one process; several processes share what the server allows. */
const POOL = { most: 10, connectMs: 5000, idleMs: 30_000 };
/** No statement lasts longer, and no transaction rests longer, ms: a stuck one does not hold the others up for ever. */
const STATEMENT_MS = 60_000;
const RESTING_MS = 60_000;
/** Held while the tables are brought up to date, and while something is done by one process only: any two numbers that nobody else uses. */
const LOCKS = { migrate: 1_970_304_101, alone: 1_970_304_102 };
/** After the server went away the listener tries again so often, ms. */
const LISTEN_AGAIN_MS = 1000;

/** Where a database server listens, without what lets one in: fit to be shown. */
export function serverName(url: string): string {
  try {
    const { hostname, port, pathname } = new URL(url);
    return `${hostname || "the local socket"}${port ? `:${port}` : ""}${pathname}`;
  } catch {
    return "the address in DATABASE_URL";
  }
}

const AWAY =
  /ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN|Connection terminated|is not queryable|timeout exceeded when trying to connect|the database system is (starting up|shutting down)/;

/** Whether an error says that the database server is gone or does not answer. */
export function serverAway(error: unknown): boolean {
  for (let at = error, depth = 0; at instanceof Error && depth < 5; at = at.cause, depth++) {
    const { code } = at as { code?: unknown };
    // Class 08 is connections, 57P01 to 57P03 a server that stops or starts.
    if (typeof code === "string" && /^(08...|57P0[123])$/.test(code)) return true;
    if (AWAY.test(`${typeof code === "string" ? code : ""} ${at.message}`)) return true;
    if (at instanceof AggregateError && at.errors.some((each) => serverAway(each))) return true;
  }
  return false;
}

/** Words for a database server that does not answer. */
export const awayFault = (): ServerError =>
  new ServerError(
    "database-away",
    503,
    "The database server does not answer. Nothing was lost: what you typed is kept in this page and saved once it is back.",
  );

/**
 * Opens a PostgreSQL database: tables brought up to date by one process at a time, connections counted, every statement bounded.
 * @throws ServerError in words for a server that is not there, lets nobody in, or holds a newer workshop
 */
export async function openPostgres(url: string): Promise<Opened> {
  const pool = new pg.Pool({
    connectionString: url,
    max: POOL.most,
    connectionTimeoutMillis: POOL.connectMs,
    idleTimeoutMillis: POOL.idleMs,
    keepAlive: true,
    statement_timeout: STATEMENT_MS,
    idle_in_transaction_session_timeout: RESTING_MS,
    application_name: "upwind-rod",
  });
  // A resting connection that breaks is made again when it is wanted: without this the process would end.
  pool.on("error", (error) => logFault(error, { withPlace: false }));
  const within = async <T>(lock: number, work: (client: pg.PoolClient) => Promise<T>): Promise<T> => {
    const client = await pool.connect();
    try {
      await client.query("select pg_advisory_lock($1)", [lock]);
      return await work(client);
    } finally {
      // A connection that broke has let its lock go; one that has not does so now.
      await client.query("select pg_advisory_unlock($1)", [lock]).then(
        () => client.release(),
        (error) => client.release(error as Error),
      );
    }
  };
  try {
    await within(LOCKS.migrate, async (client) => {
      await beforeMigrating(async (statement, values) => (await client.query(statement, values)).rows as Record<string, unknown>[]);
      await migrate(drizzle(client, { schema }), { migrationsFolder: migrationsFolder() });
    });
  } catch (error) {
    await pool.end();
    if (error instanceof ServerError) throw error;
    const code = errorCode(error);
    if (serverAway(error))
      throw new ServerError(
        "database-away",
        503,
        `The database server at ${serverName(url)} does not answer. Start it, or put DATABASE_URL right, and start again.`,
      );
    if (code === "42501")
      throw new ServerError(
        "database-away",
        503,
        `The database server at ${serverName(url)} lets this app in, but its user may not make tables. Grant it CREATE on the database and on its schema public, and start again.`,
      );
    if (/^28|^3D000$/.test(code))
      throw new ServerError(
        "database-away",
        503,
        `The database server at ${serverName(url)} answers, but does not let this app in (${code === "3D000" ? "there is no such database" : "its user or password"}). Put DATABASE_URL right.`,
      );
    throw error;
  }
  return {
    db: drizzle(pool, { schema }) as unknown as Database,
    lock: null,
    alone: (work) => within(LOCKS.alone, work),
    listen: (heard) => listenTo(url, heard),
    close: () => pool.end(),
  };
}

/** A connection of its own that hears of changes, and comes back automatically when the server was away. */
async function listenTo(url: string, heard: (payload: string) => void): Promise<() => Promise<void>> {
  let over = false;
  let client: pg.Client | null = null;
  let again: NodeJS.Timeout | null = null;
  const begin = async (): Promise<boolean> => {
    const mine = new pg.Client({ connectionString: url, keepAlive: true, connectionTimeoutMillis: POOL.connectMs, application_name: "upwind-rod, listening" });
    let lost = false;
    const retry = () => {
      if (lost || over) return;
      lost = true;
      // Notifications may have been lost meanwhile: every listener reads everything again.
      again = setTimeout(() => void begin().then((there) => there && heard("{}")), LISTEN_AGAIN_MS);
    };
    mine.on("error", retry);
    mine.on("end", retry);
    mine.on("notification", ({ payload }) => heard(payload ?? ""));
    try {
      await mine.connect();
      await mine.query(`listen ${CHANGES}`);
      client = mine;
      return true;
    } catch {
      // Away still: retried until it is there.
      retry();
      return false;
    }
  };
  await begin();
  return async () => {
    over = true;
    if (again) clearTimeout(again);
    await client?.end();
  };
}
