import { eq } from "drizzle-orm";
import type { Executor } from "../../kernel/db/client";
import { workshop } from "../../kernel/db/schema";

export async function readFact(db: Executor, key: string): Promise<string | undefined> {
  const [row] = await db.select().from(workshop).where(eq(workshop.key, key));
  return row?.value;
}

export async function writeFact(db: Executor, key: string, value: string): Promise<void> {
  await db.insert(workshop).values({ key, value }).onConflictDoUpdate({ target: workshop.key, set: { value } });
}
