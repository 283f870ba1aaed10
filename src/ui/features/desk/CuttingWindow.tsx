"use client";
import { type KeyboardEvent, memo, type PointerEvent, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { noCut, VERDICT_WORD } from "@/core/cutters/solve/describe";
import { type DesignEvaluation, knobOf, settable, settingForHeat, withSetting } from "@/core/cutters/solve/evaluate";
import { LIMITS } from "@/core/units/limits";
import { PLOT_MARGIN, scaleOf, usePicture, useSame, WindowPicture, windowFrameOf } from "../../cutter/WindowPicture";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

export interface Move {
  feed_mm_s: number;
  /** W/m in the cut; null leaves the knob alone */
  heat: number | null;
}

/** Turns a wish for feed and heat into the nearest design the knob can set. */
export function applyMove(design: Design, move: Move): Design {
  const feed = Math.min(LIMITS.feed_mm_s.max, Math.max(LIMITS.feed_mm_s.min, Math.round(move.feed_mm_s * 10) / 10 || LIMITS.feed_mm_s.min));
  const moved: Design = { ...design, job: { ...design.job, feed_mm_s: feed } };
  const knob = knobOf(design);
  if (move.heat === null || !knob) return moved;
  const wish = settingForHeat(moved, Math.max(0.2, move.heat));
  return wish === null ? moved : withSetting(moved, settable(knob, wish));
}

/** One press of an arrow key. */
function nudge(design: Design, feedSteps: number, heatSteps: number): Design {
  const feed = Math.min(LIMITS.feed_mm_s.max, Math.max(0.1, Math.round((design.job.feed_mm_s + feedSteps * 0.1) * 10) / 10));
  const moved: Design = { ...design, job: { ...design.job, feed_mm_s: feed } };
  const knob = knobOf(design);
  if (heatSteps === 0 || !knob) return moved;
  return withSetting(moved, settable(knob, knob.value + (knob.rising ? 1 : -1) * heatSteps * knob.step));
}

/** Heats that the knob cannot set, hatched over the picture. Positions in whole pixels, so that a drag that moves them by less draws nothing. */
const BeyondRange = memo(function BeyondRange({
  top,
  bottom,
  width,
  height,
  hatched,
}: {
  top: number;
  bottom: number;
  width: number;
  height: number;
  hatched: boolean;
}) {
  const right = width - PLOT_MARGIN.right;
  const foot = height - PLOT_MARGIN.bottom;
  return (
    <svg width={width} height={height} style={{ display: "block", position: "absolute" }} aria-hidden="true">
      {hatched && (
        <>
          <rect
            x={PLOT_MARGIN.left}
            y={PLOT_MARGIN.top}
            width={right - PLOT_MARGIN.left}
            height={Math.max(0, top - PLOT_MARGIN.top)}
            fill="url(#hatch-reach)"
          />
          <rect x={PLOT_MARGIN.left} y={bottom} width={right - PLOT_MARGIN.left} height={Math.max(0, foot - bottom)} fill="url(#hatch-reach)" />
        </>
      )}
      <path d={`M${PLOT_MARGIN.left} ${top}H${right}`} stroke="var(--graphite)" strokeWidth={1.4} strokeDasharray="8 4" />
    </svg>
  );
});

/**
 * Heat per metre against feed for this wire and foam, with the regions as regions and the working point to drag.
 * Data coordinates: feed in mm/s, heat in W/m; `scaleOf` maps them to CSS pixels of the drawing.
 */
export function CuttingWindow({ design, evaluation, onChange }: { design: Design; evaluation: DesignEvaluation; onChange: (next: Design) => void }) {
  const { show } = useUnits();
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 690, height: 420 });
  const [dragging, setDragging] = useState(false);
  const { cut, reach, acceptedKerfM } = evaluation;
  const pair = useSame(evaluation.pair);
  const doubts = useSame(evaluation.doubts);
  const { heatTop, feedTop } = useMemo(() => windowFrameOf(pair, design.job.feed_mm_s), [pair, design.job.feed_mm_s]);
  const frame = useMemo(() => ({ heatTop, feedTop }), [heatTop, feedTop]);
  const { picture, fault } = usePicture(pair, frame, acceptedKerfM, doubts);
  const { px, py, plotWidth, plotHeight } = scaleOf({ frame, width, height });

  const setFrom = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (value: number) => Math.min(1, Math.max(0, value));
    const feed = share((event.clientX - box.left - PLOT_MARGIN.left) / plotWidth) * frame.feedTop;
    const heat = share(1 - (event.clientY - box.top - PLOT_MARGIN.top) / plotHeight) * frame.heatTop;
    onChange(applyMove(design, { feed_mm_s: Math.max(0.1, feed), heat: reach.knob === "none" ? null : heat }));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const size = event.shiftKey ? 10 : 1;
    const steps: Record<string, [number, number]> = { ArrowLeft: [-size, 0], ArrowRight: [size, 0], ArrowUp: [0, size], ArrowDown: [0, -size] };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    onChange(nudge(design, ...step));
  };

  const none = noCut(evaluation);
  const offTop = cut.powerWPerM > frame.heatTop;
  const x = px(Math.min(design.job.feed_mm_s, frame.feedTop));
  const y = py(Math.min(cut.powerWPerM, frame.heatTop));
  // Heats below the knob's cold end are as much out of reach as those above its hot end.
  const reachBottom = reach.supplyHolds ? Math.min(reach.fromWPerM, frame.heatTop) : 0;
  const reachTop = reach.supplyHolds ? Math.min(reach.toWPerM, frame.heatTop) : 0;
  const topPx = Math.round(Math.max(py(reachTop), PLOT_MARGIN.top));
  // In steps of a fiftieth of the axis: a label does not wander for less.
  const labelBelow = (Math.round((50 * 0.9 * (reach.knob === "none" || reachTop === 0 ? frame.heatTop : reachTop)) / frame.heatTop) * frame.heatTop) / 50;
  const valueWords = `feed ${show("feed", design.job.feed_mm_s)}, ${none ?? `heat in the cut ${show("heat", cut.powerWPerM)}, kerf ${show("kerf", cut.kerfM * 1000)}`}: ${VERDICT_WORD[evaluation.verdict]}`;

  return (
    <div ref={ref} style={{ width: "100%", height: "100%", minHeight: 260, position: "relative" }}>
      <WindowPicture frame={frame} width={width} height={height} picture={picture} pair={pair} acceptedKerfM={acceptedKerfM} labelBelow={labelBelow} />
      <BeyondRange top={topPx} bottom={Math.round(py(reachBottom))} width={width} height={height} hatched={reach.knob !== "none" || !reach.supplyHolds} />
      {/* A layer of its own: the picture below is not painted again for a point that moves over it. */}
      <svg
        width={width}
        height={height}
        data-testid="cutting-window"
        style={{ display: "block", touchAction: "none", position: "absolute", willChange: "transform", cursor: dragging ? "grabbing" : "crosshair" }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setDragging(true);
          setFrom(event);
        }}
        onPointerMove={(event) => dragging && setFrom(event)}
        onPointerUp={() => setDragging(false)}
        onPointerCancel={() => setDragging(false)}
      >
        <title>Cutting window: heat per metre against feed</title>
        <ReachWords
          evaluation={evaluation}
          heatTop={frame.heatTop}
          x={PLOT_MARGIN.left + plotWidth - 8}
          y={Math.min(Math.max(topPx - 7, PLOT_MARGIN.top + 16), PLOT_MARGIN.top + plotHeight - 10)}
        />
        <g
          role="slider"
          tabIndex={0}
          aria-label="Working point. Left and right change the feed, up and down the heat."
          aria-valuemin={0}
          aria-valuemax={frame.feedTop}
          aria-valuenow={design.job.feed_mm_s}
          aria-valuetext={valueWords}
          onKeyDown={onKeyDown}
          style={{ cursor: "grab", outlineOffset: 4 }}
        >
          <circle cx={x} cy={y} r={24} fill="transparent" />
          <path
            d={`M${x} ${PLOT_MARGIN.top + plotHeight}V${y}H${PLOT_MARGIN.left}`}
            fill="none"
            stroke="var(--graphite)"
            strokeWidth={1}
            strokeDasharray="1 4"
          />
          <circle cx={x} cy={y} r={9} fill="var(--paper-bright)" stroke="var(--graphite)" strokeWidth={3} />
          <circle cx={x} cy={y} r={3.5} fill="var(--ember)" />
          {offTop && <path d={`M${x - 7} ${y + 22}l7 -9 7 9`} fill="none" stroke="var(--graphite)" strokeWidth={2.5} />}
        </g>
      </svg>
      <p className="visually-hidden" aria-live="polite">
        {valueWords}
      </p>
      {fault && (
        <p role="alert" style={{ position: "absolute", left: PLOT_MARGIN.left + 12, top: PLOT_MARGIN.top + 8, margin: 0 }}>
          The window could not be drawn: {fault}
        </p>
      )}
    </div>
  );
}

function ReachWords({ evaluation, heatTop, x, y }: { evaluation: DesignEvaluation; heatTop: number; x: number; y: number }) {
  if (evaluation.reach.supplyHolds && evaluation.reach.toWPerM >= heatTop) return null;
  const words = !evaluation.reach.supplyHolds
    ? "the supply cannot hold this wire at any setting"
    : evaluation.reach.knob === "none"
      ? "no knob: the heat is fixed here"
      : "beyond the supply's reach";
  return (
    <text x={x} y={y} textAnchor="end" fontSize={13} fill="var(--graphite)" stroke="var(--paper)" strokeWidth={4} paintOrder="stroke">
      {words}
    </text>
  );
}
