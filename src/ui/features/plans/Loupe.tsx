"use client";
import type { PlanEndEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { useUnits } from "../../kit/useUnits";

const SIZE = 148;

/** Wire, kerf and template edge at one end, much enlarged: where the allowance is. Side by side they share one scale, given in `pxPerMm`. */
export function Loupe({ end, name, plan, wireMm, pxPerMm }: { end: PlanEndEvaluation; name: string; plan: Plan; wireMm: number; pxPerMm: number }) {
  const { show } = useUnits();
  const centre = SIZE / 2;
  const radius = (wireMm / 2) * pxPerMm;
  const half = (end.kerfMm / 2) * pxPerMm;
  // The finished surface is the kerf's lower side, drawn in by the skin that comes on it.
  const part = centre + half;
  const skin = plan.part.skin_mm * pxPerMm;
  const edge = plan.cut.guidance === "edge" ? centre + radius : centre;
  const words = `Loupe at the ${name}: kerf ${show("kerf", end.kerfMm)}, wire ${show("diameter", wireMm)}, guide ${show("kerf", Math.abs(end.guideMm))} ${end.guideMm < 0 ? "inside" : "outside"} the part`;
  return (
    <figure className="loupe">
      <svg width={SIZE} height={SIZE} role="img" aria-label={words}>
        <title>{words}</title>
        <defs>
          <clipPath id={`loupe-${name}`}>
            <circle cx={centre} cy={centre} r={centre - 2} />
          </clipPath>
        </defs>
        <g clipPath={`url(#loupe-${name})`}>
          <rect width={SIZE} height={SIZE} fill="var(--paper-bright)" />
          <rect y={0} width={SIZE} height={Math.max(0, centre - half)} fill="var(--line)" opacity={0.7} />
          <rect y={part} width={SIZE} height={SIZE} fill="var(--line)" opacity={0.7} />
          {skin > 0 && <rect y={part - skin} width={SIZE} height={skin} fill="var(--straw)" opacity={0.6} />}
          <path d={`M0 ${part - skin}H${SIZE}`} stroke="var(--graphite)" strokeWidth={1.4} />
          <path d={`M0 ${edge}H${SIZE}`} stroke="var(--cool)" strokeWidth={2.2} />
          <circle cx={centre} cy={centre} r={radius} fill="var(--ember)" />
          <path d={`M${SIZE * 0.78} ${edge}V${part - skin}`} stroke="var(--graphite)" strokeWidth={1.2} markerEnd="none" />
        </g>
        <circle cx={centre} cy={centre} r={centre - 2} fill="none" stroke="var(--graphite)" strokeWidth={1.6} />
      </svg>
      <figcaption>
        {name}: <span className="num">{show("kerf", Math.abs(end.guideMm))}</span> {end.guideMm < 0 ? "inside" : "outside"}
      </figcaption>
    </figure>
  );
}
