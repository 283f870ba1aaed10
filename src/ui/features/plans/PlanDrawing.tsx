"use client";
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import type { Outline, Point } from "@/core/geometry/points";
import { apply } from "@/core/geometry/points";
import type { Section } from "@/core/pace/sharedEndPaths";
import { ENDS, type EndName, type PlanEndEvaluation, type PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { exaggeration } from "./DeviationMap";

type Solid = readonly [number, number, number];

/** How the block is looked at, degrees: round its upright, and from above. */
export interface Look {
  turn: number;
  tilt: number;
}
/** A long part shows its length, a short one its face. */
export const firstLook = (spanMm: number, chordMm: number): Look => ({ turn: spanMm > chordMm ? 58 : 24, tilt: 22 });

/** Degrees a pixel of drag, and a press of an arrow key. */
const DRAG_DEG = 0.4;
const KEY_DEG = 6;
/** A miss is drawn no larger than this. */
const MOST_DEVIATION_PX = 30;
/** Lines drawn across the part from face to face. */
const RULINGS = 26;

/** Equal shares of an outline's points: near enough to equal arc for a drawing. */
const spread = (outline: Outline, count: number): Point[] =>
  Array.from({ length: count }, (_, i) => outline[Math.floor((i * outline.length) / count)] as Point);

/** A view from so far that lines stay parallel, of the root's face as it is drawn: x to the right, y up, the span going away. `near` is larger for what is before. */
function viewOf({ turn, tilt }: Look) {
  const [a, b] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
  const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
  return ([x, y, z]: Solid): { x: number; y: number; near: number } => {
    const away = z * ca - x * sa;
    return { x: x * ca + z * sa, y: -(y * cb + away * sb), near: y * sb - away * cb };
  };
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
  cut?: readonly Section[];
  /** in place of what is said under it */
  cutWords?: string | null;
}) {
  const { show } = useUnits();
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 700, height: 420 });
  const [held, setHeld] = useState(false);
  const from = useRef<{ x: number; y: number; look: Look } | null>(null);
  const { block } = evaluation;
  const span = plan.part.span_mm;
  const view = useMemo(() => viewOf(look), [look]);
  const corners = useMemo(
    () => [block.minX, block.maxX].flatMap((x) => [block.minY, block.maxY].flatMap((y) => [0, span].map((z): Solid => [x, y, z]))),
    [block, span],
  );
  const mostMm = useMemo(() => Math.max(0, ...(cut ?? []).flatMap(({ deviationMm }) => deviationMm.map(([x, y]) => Math.hypot(x, y)))), [cut]);
  const { scale, dx, dy } = useMemo(() => {
    const seen = corners.map(view);
    const [minX, maxX] = [Math.min(...seen.map((p) => p.x)), Math.max(...seen.map((p) => p.x))];
    const [minY, maxY] = [Math.min(...seen.map((p) => p.y)), Math.max(...seen.map((p) => p.y))];
    const fit = Math.min((width - 90) / (maxX - minX), (height - 96) / (maxY - minY));
    return { scale: fit, dx: width / 2 - ((minX + maxX) / 2) * fit, dy: height / 2 + 4 - ((minY + maxY) / 2) * fit };
  }, [corners, view, width, height]);
  const times = exaggeration(mostMm * scale, MOST_DEVIATION_PX);
  const at = (solid: Solid): string => {
    const { x, y } = view(solid);
    return `${(x * scale + dx).toFixed(1)} ${(y * scale + dy).toFixed(1)}`;
  };
  const line = (points: readonly Solid[], closed = false) => `M${points.map(at).join("L")}${closed ? "Z" : ""}`;
  const zOf = (end: EndName) => (end === "root" ? 0 : span);
  const inPlace = (end: PlanEndEvaluation, z: number, points: readonly Point[]): Solid[] =>
    points.map((point) => {
      const [x, y] = apply(end.place, point);
      return [x, y, z];
    });
  const face = (x: number) => [block.minY, block.maxY].map((y): Solid => [x, y, 0]);
  const edges: [Solid, Solid][] = [];
  for (const x of [block.minX, block.maxX])
    for (const y of [block.minY, block.maxY])
      edges.push([
        [x, y, 0],
        [x, y, span],
      ]);
  for (const z of [0, span]) {
    edges.push(
      ...(face(block.minX).map((p, i) => [
        [p[0], p[1], z],
        [block.maxX, (face(block.maxX)[i] as Solid)[1], z],
      ]) as [Solid, Solid][]),
    );
    for (const x of [block.minX, block.maxX])
      edges.push([
        [x, block.minY, z],
        [x, block.maxY, z],
      ]);
  }
  const rulings = useMemo(() => {
    const [a, b] = [evaluation.root.placed[0]?.outline ?? [], evaluation.tip.placed[0]?.outline ?? []];
    const [p, q] = [spread(a, RULINGS), spread(b, RULINGS)];
    return p.map((point, i): [Solid, Solid] => [
      [point[0], point[1], 0],
      [(q[i] as Point)[0], (q[i] as Point)[1], span],
    ]);
  }, [evaluation, span]);
  // The wire lies on both templates at the thickest of the upper face.
  const wireAt = (end: PlanEndEvaluation, z: number): Solid => {
    const template = end.templates[0];
    const points = template?.line ?? [];
    const high = points.reduce((best, point) => (point[1] > best[1] ? point : best), points[0] ?? [0, 0]);
    return inPlace(end, z, [high])[0] as Solid;
  };
  const [w0, w1] = [wireAt(evaluation.root, 0), wireAt(evaluation.tip, span)];
  const beyond = (share: number): Solid => [w0[0] + (w1[0] - w0[0]) * share, w0[1] + (w1[1] - w0[1]) * share, span * share];

  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = { x: event.clientX, y: event.clientY, look };
    setHeld(true);
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    if (!held || !from.current) return;
    const { x, y, look: started } = from.current;
    onLook(turned(started, (event.clientX - x) * DRAG_DEG, (event.clientY - y) * DRAG_DEG));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step: Record<string, [number, number]> = { ArrowLeft: [-KEY_DEG, 0], ArrowRight: [KEY_DEG, 0], ArrowUp: [0, -KEY_DEG], ArrowDown: [0, KEY_DEG] };
    const by = step[event.key];
    if (!by) return;
    event.preventDefault();
    onLook(turned(look, ...by));
  };
  const words = `${plan.name}: root ${show("length", evaluation.root.chordMm)}, tip ${show("length", evaluation.tip.chordMm)}, ${show("length", span)} apart, in a block ${show("length", block.widthMm)} by ${show("length", block.boardMm)}; seen from ${Math.round(look.turn)} degrees round and ${Math.round(look.tilt)} above`;
  const depth = (z: number) => corners.filter((corner) => corner[2] === z).reduce((sum, corner) => sum + view(corner).near, 0);
  const ends = [...ENDS].sort((a, b) => depth(zOf(a)) - depth(zOf(b)));

  return (
    <div ref={ref} className="plan-drawing">
      <svg
        width={width}
        height={height}
        style={{ touchAction: "none", cursor: held ? "grabbing" : "grab", display: "block", position: "absolute" }}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => setHeld(false)}
        onPointerCancel={() => setHeld(false)}
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
          {edges.map(([a, b]) => (
            <path key={`${a}${b}`} d={line([a, b])} stroke="var(--graphite-soft)" strokeWidth={0.9} strokeDasharray="5 4" fill="none" />
          ))}
          {(cut ?? []).map(({ share, wanted, deviationMm }) => (
            <g key={`${share} ${wanted[0]}`} data-comes-out={share.toFixed(2)}>
              <path
                d={line(wanted.map(([x, y]): Solid => [x, y, span * share]))}
                fill="none"
                stroke="var(--graphite)"
                strokeWidth={1.1}
                strokeDasharray="4 4"
              />
              <path
                d={line(wanted.map(([x, y], i): Solid => [x + times * (deviationMm[i]?.[0] ?? 0), y + times * (deviationMm[i]?.[1] ?? 0), span * share]))}
                fill="none"
                stroke="var(--ember)"
                strokeWidth={1.9}
              />
            </g>
          ))}
          {rulings.map(([a, b], i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a ruling is its place
            <path key={i} d={line([a, b])} stroke="var(--line)" strokeWidth={0.9} fill="none" />
          ))}
          {ends.map((name, order) => {
            const end = evaluation[name];
            const z = zOf(name);
            return (
              <g key={name} data-end={name}>
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
                    fillOpacity={order === 0 ? 0.8 : 0.92}
                    fillRule="evenodd"
                    stroke="var(--graphite)"
                    strokeWidth={1.4}
                  />
                ))}
                {end.templates.map((template) => (
                  <path
                    key={`${template.face} ${template.piece}`}
                    data-template={`${name}-${template.face}${template.piece > 0 ? `-${template.piece}` : ""}`}
                    d={line(inPlace(end, z, template.line), template.closed)}
                    fill="none"
                    stroke="var(--cool)"
                    strokeWidth={1.8}
                  />
                ))}
                {end.losses.map(({ at: spot, depthMm, kind }) => {
                  const [place] = inPlace(end, z, [spot]);
                  const { x, y } = view(place as Solid);
                  return (
                    <path
                      key={`${spot}`}
                      data-loss={kind}
                      d={`M${x * scale + dx - 5} ${y * scale + dy - 4} q3 -5 6 0 t6 0`}
                      fill="none"
                      stroke="var(--ember)"
                      strokeWidth={Math.min(3, 1 + depthMm)}
                    />
                  );
                })}
              </g>
            );
          })}
          <path data-wire d={line([beyond(-0.08), beyond(1.08)])} stroke="var(--ember)" strokeWidth={2.2} fill="none" />
          {ENDS.map((name) => {
            const { x, y } = view([name === "root" ? block.minX : block.maxX, block.minY, zOf(name)]);
            const left = x * scale + dx < width / 2;
            return (
              <text
                key={name}
                x={x * scale + dx + (left ? -8 : 8)}
                y={y * scale + dy + 18}
                textAnchor={left ? "start" : "end"}
                fontSize={15}
                fontStyle="italic"
                fill="var(--graphite)"
              >
                {name}
              </text>
            );
          })}
        </g>
      </svg>
      {cut && (
        <p className="plan-cut-words" aria-live="polite" data-testid="comes-out-words">
          {cutWords ??
            `ember: the wire's line as it comes out; dashed: as it is wanted. Missed by up to ${show("kerf", mostMm)}, drawn ${times === 1 ? "as large as it is" : `${times} times too large`}.`}
        </p>
      )}
    </div>
  );
}

const turned = ({ turn, tilt }: Look, byTurn: number, byTilt: number): Look => ({
  turn: ((turn + byTurn + 540) % 360) - 180,
  tilt: Math.min(89, Math.max(-89, tilt + byTilt)),
});
