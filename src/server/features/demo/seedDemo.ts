import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import { demoLog } from "@/core/log/demoLog";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { DEMO_RIGS } from "@/core/rigs/rig";
import type { Database } from "../../kernel/db/client";
import { cutterRepository } from "../cutters/repository";
import { addItem, countDrawer } from "../drawer/repository";
import { importEntries } from "../log/repository";
import { planRepository } from "../plans/repository";
import { rigRepository } from "../rigs/repository";
import { readFact, writeFact } from "../workshop/facts";

/**
 * Lays the demo's cutters, drawer, plans and rigs into a data folder, each once, and only where nothing of its kind stands: never over somebody's data.
 * @returns how many cutters were laid in
 */
export async function seedDemo(db: Database): Promise<number> {
  return db.transaction(async (tx) => {
    let cutters = 0;
    if (!(await readFact(tx, "demo-seeded")) && (await cutterRepository.count(tx)) === 0) {
      for (const design of [...DEMO_CUTTERS].reverse()) {
        const { id } = await cutterRepository.create(tx, design);
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
    if (!(await readFact(tx, "demo-plans-seeded")) && (await planRepository.count(tx)) === 0) {
      // They are meant for the long bow, if it is here under its own name.
      const bow = (await cutterRepository.list(tx, { find: DEMO_CUTTERS[0]?.name ?? "", limit: 1 })).readable[0];
      for (const plan of [...DEMO_PLANS].reverse()) await planRepository.create(tx, { ...plan, cutter: bow ? { id: bow.id, name: bow.document.name } : null });
      await writeFact(tx, "demo-plans-seeded", String(DEMO_PLANS.length));
    }
    if (!(await readFact(tx, "demo-rigs-seeded")) && (await rigRepository.count(tx)) === 0) {
      for (const { document, cutter, plan } of [...DEMO_RIGS].reverse()) {
        const hung = cutter ? (await cutterRepository.list(tx, { find: cutter, limit: 1 })).readable[0] : undefined;
        const cuts = plan ? (await planRepository.list(tx, { find: plan, limit: 1 })).readable[0] : undefined;
        await rigRepository.create(tx, {
          ...document,
          cutter: hung ? { id: hung.id, name: hung.document.name } : null,
          plan: cuts ? { id: cuts.id, name: cuts.document.name } : null,
        });
      }
      await writeFact(tx, "demo-rigs-seeded", String(DEMO_RIGS.length));
    }
    return cutters;
  });
}
