import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import type { TensionDesk } from "@/core/cutters/solve/tensionDesk";
import { WHIP } from "@/core/physics/mechanics/springs";
import { WIRE_ENDS } from "@/core/physics/mechanics/wireEnds";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** What to cut off the spool, how to bend and hold its ends, and what a breaking wire lets go. */
export function EndsTab({ design, evaluation, desk }: { design: Design; evaluation: DesignEvaluation; desk: TensionDesk }) {
  const { system, show } = useUnits();
  const { tension } = evaluation;
  return (
    <section style={{ maxWidth: 700 }} aria-label="Ends of the wire">
      <dl className="part-figures" style={{ maxWidth: 420 }}>
        <dt>Cut off the spool</dt>
        <dd className="num">{show("length", desk.ends.cutM * 1000)}</dd>
        <dd>
          <Why
            of="cut length"
            relation={WIRE_ENDS}
            inputs={`${show("length", design.wire.length_mm)} between posts, ${show("length", desk.ends.endM * 1000)} at each end.`}
          />
        </dd>
        <dt>Bend no tighter than</dt>
        <dd className="num">{show("kerf", desk.ends.bendRadiusM * 1000, system === "metric" ? 1 : 2)} inside</dd>
        <dd />
        <dt>Held in spring and wire</dt>
        <dd className="num" data-figure="energy">
          {(desk.energy.deviceJ + desk.energy.wireJ).toFixed(2)} J
        </dd>
        <dd>
          <Why
            of="energy"
            relation={WHIP}
            inputs={`${show("force", tension.coldN, 1)} cold: ${desk.energy.deviceJ.toFixed(2)} J in the device, ${desk.energy.wireJ.toFixed(2)} J in the wire.`}
          />
        </dd>
      </dl>
      <p data-caution="whip" style={{ borderLeft: "5px solid var(--straw)", paddingLeft: 10 }}>
        <strong>Caution. </strong>A breaking wire lashes with these {(desk.energy.deviceJ + desk.energy.wireJ).toFixed(1)} joules
        {desk.energy.deviceJ + desk.energy.wireJ > 0.5 ? ", enough to cut a face" : ""}: glasses, long sleeves, a glove on the pulling hand, and stay out of its
        line. Slacken it before you put it away.
      </p>
      <ul>
        {desk.ends.advice.map((advice) => (
          <li key={advice}>{advice}</li>
        ))}
      </ul>
    </section>
  );
}
