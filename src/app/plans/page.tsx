import { cutterRepository } from "@/server/features/cutters/repository";
import { planRepository } from "@/server/features/plans/repository";
import { database } from "@/server/kernel/db/client";
import { PlanList } from "@/ui/features/plans/PlanList";

export const dynamic = "force-dynamic";

/** Plans shown at once. */
const MOST_SHOWN = 300;

export default async function PlansPage() {
  const db = await database();
  const { readable: plans, unreadable } = await planRepository.list(db, { limit: MOST_SHOWN });
  const { readable: deleted } = await planRepository.list(db, { deleted: true, limit: 50 });
  const [cutter] = (await cutterRepository.list(db, { limit: 1 })).readable;
  return (
    <PlanList
      plans={plans}
      deleted={deleted}
      unreadable={unreadable}
      cutter={cutter ? { id: cutter.id, name: cutter.document.name, job: cutter.document.job } : null}
    />
  );
}
