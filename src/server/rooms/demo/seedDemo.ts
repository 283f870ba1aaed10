import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import { demoLog } from "@/core/log/demoLog";
import type { Database } from "../../kernel/db/client";
import { countCutters, createCutter } from "../cutters/repository";
import { addItem, countDrawer } from "../drawer/repository";
import { importEntries } from "../log/repository";
import { readFact, writeFact } from "../workshop/facts";

/**
 * Lays the demo's cutters and drawer into a data folder, each once, and only where nothing of its kind stands: never over somebody's data.
 * @returns how many cutters were laid in
 */
export async function seedDemo(db: Database): Promise<number> {
  return db.transaction(async (tx) => {
    let cutters = 0;
    if (!(await readFact(tx, "demo-seeded")) && (await countCutters(tx)) === 0) {
      for (const design of [...DEMO_CUTTERS].reverse()) {
        const { id } = await createCutter(tx, design);
        // The log is of the first cutter's autumn; its wire changes are history, so the drawer keeps what it has.
        if (design === DEMO_CUTTERS[0]) await importEntries(tx, id, demoLog());
      }
      await writeFact(tx, "demo-seeded", String(DEMO_CUTTERS.length));
      cutters = DEMO_CUTTERS.length;
    }
    if (!(await readFact(tx, "demo-drawer-seeded")) && (await countDrawer(tx)) === 0) {
      for (const item of DEMO_DRAWER) await addItem(tx, item);
      await writeFact(tx, "demo-drawer-seeded", String(DEMO_DRAWER.length));
    }
    return cutters;
  });
}
