"use client";
import { useMemo } from "react";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { ENDS, type PlanEvaluation } from "@/core/plans/evaluate";
import { scaleOf, usePicture, useSame, WindowPicture, windowFrameOf } from "../../cutter/WindowPicture";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

/** Both ends in the cutting window: one heat, two feeds, so two points joined by a bar. */
export function PlanWindow({ plan, cutter, oneEnd }: { plan: PlanEvaluation; cutter: DesignEvaluation /** both ends are the same */; oneEnd: boolean }) {
  const { show } = useUnits();
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 380, height: 250 });
  const pair = useSame(cutter.pair);
  const doubts = useSame(cutter.doubts);
  const fastest = Math.max(plan.root.feedMmS, plan.tip.feedMmS);
  const { heatTop, feedTop } = useMemo(() => windowFrameOf(pair, fastest), [pair, fastest]);
  const frame = useMemo(() => ({ heatTop, feedTop }), [heatTop, feedTop]);
  const { picture, fault } = usePicture(pair, frame, cutter.acceptedKerfM, doubts);
  const { px, py } = scaleOf({ frame, width, height });
  const heat = plan.cutter?.heatWPerM ?? 0;
  const y = py(Math.min(heat, frame.heatTop));
  const words = ENDS.map((end) => `${end}: ${show("feed", plan[end].feedMmS)}, kerf ${show("kerf", plan[end].kerfMm)}`).join("; ");
  return (
    <div ref={ref} className="plan-window">
      <WindowPicture
        frame={frame}
        width={width}
        height={height}
        picture={picture}
        pair={pair}
        acceptedKerfM={cutter.acceptedKerfM}
        labelBelow={frame.heatTop}
      />
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Both ends in the cutting window. ${words}`}
        style={{ display: "block", position: "absolute" }}
        data-testid="plan-window"
      >
        <title>{words}</title>
        <path d={`M${px(plan.tip.feedMmS)} ${y}H${px(plan.root.feedMmS)}`} stroke="var(--graphite)" strokeWidth={4} />
        {(oneEnd ? (["root"] as const) : ENDS).map((end) => {
          const x = px(Math.min(plan[end].feedMmS, frame.feedTop));
          return (
            <g key={end} data-point={end}>
              <circle cx={x} cy={y} r={7} fill="var(--paper-bright)" stroke="var(--graphite)" strokeWidth={2.6} />
              <circle cx={x} cy={y} r={2.8} fill="var(--ember)" />
              <text
                x={x}
                y={y - 13}
                textAnchor="middle"
                fontSize={13}
                fontStyle="italic"
                fill="var(--graphite)"
                stroke="var(--paper)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                {oneEnd ? "both ends" : end}
              </text>
            </g>
          );
        })}
      </svg>
      {fault && <p role="alert">The window could not be drawn: {fault}</p>}
    </div>
  );
}
