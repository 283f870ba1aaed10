"use client";
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import type { CutSection } from "@/core/pace/sharedEndPaths";
import { ENDS, type EndName, type PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { exaggeration } from "./DeviationMap";
import { edgesOf, inBlock, type Look, type Projection, projectionOf, rulingsOf, type Solid, turned, wireAcross } from "./planView";

/** Degrees a pixel of drag, and a press of an arrow key. */
const DRAG_DEG = 0.4;
const KEY_DEG = 6;
const KEY_STEPS: Readonly<Record<string, [number, number]>> = {
  ArrowLeft: [-KEY_DEG, 0],
  ArrowRight: [KEY_DEG, 0],
  ArrowUp: [0, -KEY_DEG],
  ArrowDown: [0, KEY_DEG],
};
/** A deviation is drawn no larger than this. */
const MOST_DEVIATION_PX = 30;

/** Turns the view by pointer and by keys. */
function useTurning(look: Look, onLook: (look: Look) => void) {
  const [held, setHeld] = useState(false);
  const from = useRef<{ x: number; y: number; look: Look } | null>(null);
  return {
    held,
    pointer: {
      onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, y: event.clientY, look };
        setHeld(true);
      },
      onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
        if (!held || !from.current) return;
        const { x, y, look: started } = from.current;
        onLook(turned(started, (event.clientX - x) * DRAG_DEG, (event.clientY - y) * DRAG_DEG));
      },
      onPointerUp: () => setHeld(false),
      onPointerCancel: () => setHeld(false),
    },
    onKeyDown: (event: KeyboardEvent) => {
      const by = KEY_STEPS[event.key];
      if (!by) return;
      event.preventDefault();
      onLook(turned(look, ...by));
    },
  };
}

/** One face: the part's outline, its templates, and where rounding takes material. */
function EndPicture({
  name,
  z,
  front,
  evaluation,
  projection: { line, place },
}: {
  name: EndName;
  z: number;
  front: boolean;
  evaluation: PlanEvaluation;
  projection: Projection;
}) {
  const end = evaluation[name];
  return (
    <g data-end={name}>
      {end.placed.map(({ outline, holes }, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: pieces in their order
          key={i}
          d={[outline, ...holes]
            .map((each) =>
              line(
                each.map(([x, y]): Solid => [x, y, z]),
                true,
              ),
            )
            .join("")}
          fill="var(--paper-bright)"
          fillOpacity={front ? 0.92 : 0.8}
          fillRule="evenodd"
          stroke="var(--graphite)"
          strokeWidth={1.4}
        />
      ))}
      {end.templates.map((template) => (
        <path
          key={`${template.face} ${template.piece}`}
          data-template={`${name}-${template.face}${template.piece > 0 ? `-${template.piece}` : ""}`}
          d={line(inBlock(end, z, template.line), template.closed)}
          fill="none"
          stroke="var(--cool)"
          strokeWidth={1.8}
        />
      ))}
      {end.losses.map(({ at, depthMm, kind }) => {
        const { x, y } = place(inBlock(end, z, [at])[0] as Solid);
        return (
          <path
            key={`${at}`}
            data-loss={kind}
            d={`M${x - 5} ${y - 4} q3 -5 6 0 t6 0`}
            fill="none"
            stroke="var(--ember)"
            strokeWidth={Math.min(3, 1 + depthMm)}
          />
        );
      })}
    </g>
  );
}

/** What the wire leaves at sections of the span, over what is wanted (dashed); deviations are drawn so many times too large. */
function CutSections({ sections, spanMm, times, line }: { sections: readonly CutSection[]; spanMm: number; times: number; line: Projection["line"] }) {
  return sections.map(({ share, wanted, deviationMm }) => (
    <g key={`${share} ${wanted[0]}`} data-comes-out={share.toFixed(2)}>
      <path d={line(wanted.map(([x, y]): Solid => [x, y, spanMm * share]))} fill="none" stroke="var(--graphite)" strokeWidth={1.1} strokeDasharray="4 4" />
      <path
        d={line(wanted.map(([x, y], i): Solid => [x + times * (deviationMm[i]?.[0] ?? 0), y + times * (deviationMm[i]?.[1] ?? 0), spanMm * share]))}
        fill="none"
        stroke="var(--ember)"
        strokeWidth={1.9}
      />
    </g>
  ));
}

/** The block with its two templates at its ends, the part in it and the wire across, turned by hand. */
export function PlanDrawing({
  plan,
  evaluation,
  look,
  onLook,
  cut,
  cutWords = null,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  look: Look;
  onLook: (look: Look) => void;
  /** what the wire leaves, drawn over what is wanted */
  cut?: readonly CutSection[];
  /** in place of the words under it */
  cutWords?: string | null;
}) {
  const { show } = useUnits();
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 700, height: 420 });
  const { held, pointer, onKeyDown } = useTurning(look, onLook);
  const { block, root, tip } = evaluation;
  const spanMm = plan.part.span_mm;
  const box = useMemo(() => ({ ...block, spanMm }), [block, spanMm]);
  const projection = useMemo(() => projectionOf(box, look, { width, height }), [box, look, width, height]);
  const rulings = useMemo(() => rulingsOf(evaluation, spanMm), [evaluation, spanMm]);
  const mostMm = useMemo(() => Math.max(0, ...(cut ?? []).flatMap(({ deviationMm }) => deviationMm.map(([x, y]) => Math.hypot(x, y)))), [cut]);
  const times = exaggeration(mostMm * projection.scale, MOST_DEVIATION_PX);
  const { line, place, nearness } = projection;
  const zOf = (end: EndName) => (end === "root" ? 0 : spanMm);
  const ends = [...ENDS].sort((a, b) => nearness(zOf(a)) - nearness(zOf(b)));
  const words = `${plan.name}: root ${show("length", root.chordMm)}, tip ${show("length", tip.chordMm)}, ${show("length", spanMm)} apart, in a block ${show("length", block.widthMm)} by ${show("length", block.boardMm)}; seen from ${Math.round(look.turn)} degrees round and ${Math.round(look.tilt)} above`;
  return (
    <div ref={ref} className="plan-drawing">
      <svg
        width={width}
        height={height}
        style={{ touchAction: "none", cursor: held ? "grabbing" : "grab", display: "block", position: "absolute" }}
        {...pointer}
        data-testid="plan-drawing"
      >
        <title>{words}</title>
        <g
          role="slider"
          tabIndex={0}
          aria-label="The block: turn it by the arrow keys"
          aria-valuemin={-180}
          aria-valuemax={180}
          aria-valuenow={Math.round(look.turn)}
          aria-valuetext={words}
          onKeyDown={onKeyDown}
        >
          {edgesOf(box).map((edge) => (
            <path key={edge.join()} d={line(edge)} stroke="var(--graphite-soft)" strokeWidth={0.9} strokeDasharray="5 4" fill="none" />
          ))}
          {cut && <CutSections sections={cut} spanMm={spanMm} times={times} line={line} />}
          {rulings.map((ruling, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a ruling is its place
            <path key={i} d={line(ruling)} stroke="var(--line)" strokeWidth={0.9} fill="none" />
          ))}
          {ends.map((name, order) => (
            <EndPicture key={name} name={name} z={zOf(name)} front={order > 0} evaluation={evaluation} projection={projection} />
          ))}
          <path data-wire d={line(wireAcross(evaluation, spanMm))} stroke="var(--ember)" strokeWidth={2.2} fill="none" />
          {ENDS.map((name) => {
            const { x, y } = place([name === "root" ? block.minX : block.maxX, block.minY, zOf(name)]);
            const left = x < width / 2;
            return (
              <text key={name} x={x + (left ? -8 : 8)} y={y + 18} textAnchor={left ? "start" : "end"} fontSize={15} fontStyle="italic" fill="var(--graphite)">
                {name}
              </text>
            );
          })}
        </g>
      </svg>
      {cut && (
        <p className="plan-cut-words" aria-live="polite" data-testid="comes-out-words">
          {cutWords ??
            `Ember: the wire's line as it comes out. Dashed: as it is wanted. It deviates by up to ${show("kerf", mostMm)}, drawn ${times === 1 ? "to scale" : `${times} times too large`}.`}
        </p>
      )}
    </div>
  );
}
