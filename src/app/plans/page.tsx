import { database } from "@/server/kernel/db/client";
import { listCutters } from "@/server/rooms/cutters/repository";
import { listPlans } from "@/server/rooms/plans/repository";
import { PlanList } from "@/ui/rooms/plans/PlanList";

export const dynamic = "force-dynamic";

/** Plans shown at once. */
const MOST_SHOWN = 300;

export default async function PlansPage() {
  const db = await database();
  const { plans, unreadable } = await listPlans(db, { limit: MOST_SHOWN });
  const { plans: deleted } = await listPlans(db, { deleted: true, limit: 50 });
  const [cutter] = (await listCutters(db, { limit: 1 })).cutters;
  return (
    <PlanList
      plans={plans}
      deleted={deleted}
      unreadable={unreadable}
      cutter={cutter?.design ? { id: cutter.id, name: cutter.design.name, job: cutter.design.job } : null}
    />
  );
}
