import { afterAll } from "vitest";
import { openDatabase } from "@/server/kernel/db/client";
import type { Opened } from "@/server/kernel/db/opened";
import { openPostgres } from "@/server/kernel/db/postgres";
import { startPostgres } from "./postgres";

/** Both engines a workshop may be in, each with what opens an empty one: the same tests are run on both. Without a PostgreSQL server only the embedded one, said loudly. */
export async function engines(): Promise<[name: string, open: () => Promise<Opened>][]> {
  const server = await startPostgres();
  afterAll(() => server?.remove());
  return [
    ["the embedded engine", () => openDatabase(undefined)],
    ...(server ? ([["PostgreSQL", () => openPostgres(server.database())]] as [string, () => Promise<Opened>][]) : []),
  ];
}
