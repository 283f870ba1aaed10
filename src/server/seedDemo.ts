import { DEMO_CUTTERS } from "@/core/design/demoCutters";
import type { Database } from "./db/client";
import { countCutters, createCutter } from "./repositories/cutters";
import { readFact, writeFact } from "./repositories/workshop";

/**
 * Lays the demo's cutters into a data folder, once, and only where no cutter stands: never over somebody's data.
 * @returns how many were laid in
 */
export async function seedDemo(db: Database): Promise<number> {
  return db.transaction(async (tx) => {
    if ((await readFact(tx, "demo-seeded")) || (await countCutters(tx)) > 0) return 0;
    for (const design of [...DEMO_CUTTERS].reverse()) await createCutter(tx, design);
    await writeFact(tx, "demo-seeded", String(DEMO_CUTTERS.length));
    return DEMO_CUTTERS.length;
  });
}
