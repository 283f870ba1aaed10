import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { around } from "@/core/rigs/around";
import { rigRecord } from "@/core/rigs/kinds";
import type { Show } from "@/core/rigs/record";
import { DEMO_RIGS } from "@/core/rigs/rig";
import { formatQuantity } from "@/core/units/units";
import { medianOf, say, timed } from "./say";

const show: Show = (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals);

/** What one movement of a slider costs: a rig solved and drawn again. A frame is 16.7 ms. */
export function rigsBench(): void {
  for (const { document, cutter, plan } of DEMO_RIGS) {
    const record = rigRecord(document.rig.kind);
    const beside = around(DEMO_CUTTERS.find(({ name }) => name === cutter) ?? null, DEMO_PLANS.find(({ name }) => name === plan) ?? null);
    const move = () => {
      const rig = { ...document.rig };
      record.solve(rig, beside, show);
      record.draw(rig, beside, show);
    };
    for (let i = 0; i < 20; i++) move();
    const times = timed(60, move).sort((a, b) => a - b);
    say(`  a slider of ${record.title.toLowerCase()}`, `${medianOf(times).toFixed(1)} ms, 95th percentile ${(times[57] ?? 0).toFixed(1)} (16.7 asked)`);
  }
}
