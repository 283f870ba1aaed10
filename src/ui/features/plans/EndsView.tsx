"use client";
import Button from "@mui/material/Button";
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import { simplified } from "@/core/geometry/offset";
import { type Bounds, boundsOf, linesOf, type Point } from "@/core/geometry/points";
import type { EndName, PlanEvaluation } from "@/core/plans/evaluate";
import { type Handle, handlesOf, MOST_HANDLES, withHandle, withoutPoint, withPointAfter } from "@/core/plans/handles";
import { asPoints } from "@/core/plans/place";
import type { Plan, PlanEnd } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

/** Room about the outline, px. */
const ROOM = 56;
/** A finger takes hold of a handle within so many px. */
const REACH = 26;
/** mm that an arrow key moves, plainly and with Shift. */
const STEP_MM = 1;
const FINE_MM = 0.1;
/** Points left out of an outline that becomes points are off it by no more than this, mm. */
const FEWER_MM = 0.05;
const FAR = { min: -10_000, max: 10_000 };

const indexOf = (id: string) => (id.startsWith("point ") ? Number(id.slice("point ".length)) : null);

/** One end seen square on, its handles moved by mouse, finger or keys, with exact figures next to it. */
export function EndsView({ plan, evaluation, onChange }: { plan: Plan; evaluation: PlanEvaluation; onChange: (plan: Plan, key: string) => void }) {
  const { show } = useUnits();
  const [requested, setRequested] = useQueryParameter("end");
  const name: EndName = requested === "tip" && plan.tip ? "tip" : "root";
  const end: PlanEnd = (name === "tip" ? plan.tip : null) ?? plan.root;
  const set = (next: PlanEnd, key: string) => onChange({ ...plan, [name]: next }, `${name} ${key}`);
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: 480 });
  const height = Math.max(260, Math.min(480, width * 0.6));
  const handles = useMemo(() => handlesOf(end), [end]);
  const [chosen, setChosen] = useState("tail");
  const current = handles.find(({ id }) => id === chosen) ?? (handles[0] as Handle);
  const here = evaluation[name];
  const outlines = here.drawn.regions.flatMap(linesOf);
  const guides = here.templates.map(({ line, closed }) => ({ line, closed }));
  const fresh = useMemo(() => boundsOf([...here.drawn.regions.flatMap(({ outline }) => outline), ...handles.map(({ at }) => at)]), [here, handles]);
  // While a hand holds a handle the scale does not move: the outline moves, not the paper.
  const [grip, setGrip] = useState<{ id: string; bounds: Bounds; off: Point } | null>(null);
  const bounds = grip?.bounds ?? fresh;
  const svg = useRef<SVGSVGElement>(null);
  const scale = Math.min((width - 2 * ROOM) / Math.max(1, bounds.maxX - bounds.minX), (height - 2 * ROOM) / Math.max(1, bounds.maxY - bounds.minY));
  const left = (width - (bounds.maxX - bounds.minX) * scale) / 2;
  const top = (height - (bounds.maxY - bounds.minY) * scale) / 2;
  const px = ([x, y]: Point): Point => [left + (x - bounds.minX) * scale, top + (bounds.maxY - y) * scale];
  const mm = ([x, y]: Point): Point => [bounds.minX + (x - left) / scale, bounds.maxY - (y - top) / scale];
  const path = (line: readonly Point[], closed: boolean) =>
    `M${line
      .map(px)
      .map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`)
      .join("L")}${closed ? "Z" : ""}`;
  const spot = (event: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
  };
  const move = (handle: Handle, to: Point) =>
    set(withHandle(end, handle.id, [handle.axes === "y" ? handle.at[0] : to[0], handle.axes === "x" ? handle.at[1] : to[1]]), handle.id);

  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    const at = spot(event);
    const away = (handle: Handle) => Math.hypot(px(handle.at)[0] - at[0], px(handle.at)[1] - at[1]);
    const [nearest] = [...handles].sort((a, b) => away(a) - away(b));
    if (!nearest || away(nearest) > REACH) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const [hx, hy] = px(nearest.at);
    setChosen(nearest.id);
    setGrip({ id: nearest.id, bounds, off: [hx - at[0], hy - at[1]] });
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const held = grip && handles.find(({ id }) => id === grip.id);
    if (!held) return;
    const at = spot(event);
    move(held, mm([at[0] + grip.off[0], at[1] + grip.off[1]]));
  };
  const step = (by: number) => {
    const at = handles.indexOf(current);
    setChosen((handles[(at + by + handles.length) % handles.length] as Handle).id);
  };
  const point = indexOf(current.id);
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.shiftKey ? FINE_MM : STEP_MM;
    const ways: Record<string, Point> = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] };
    const way = ways[event.key];
    if (way) move(current, [current.at[0] + way[0], current.at[1] + way[1]]);
    else if (event.key === "PageDown") step(1);
    else if (event.key === "PageUp") step(-1);
    else if (event.key === "Insert" && point !== null) set(withPointAfter(end, point), "points");
    else if (event.key === "Delete" && point !== null) set(withoutPoint(end, point), "points");
    else return;
    event.preventDefault();
  };
  const [cx, cy] = px(current.at);
  const drawsPoints = handles.some(({ id }) => indexOf(id) !== null);
  const given = end.shape.kind === "points" ? end.shape.points_mm.length : null;

  return (
    <div className="plan-ends" ref={ref}>
      <TileRow>
        {(["root", "tip"] as const)
          .filter((each) => each === "root" || plan.tip)
          .map((each) => (
            <Tile key={each} chosen={name === each} onClick={() => setRequested(each === "root" ? "" : each)}>
              {each}
            </Tile>
          ))}
        {end.shape.kind !== "points" && end.shape.kind !== "column" && (
          <Button
            onClick={() =>
              set(
                asPoints(end, (line) => simplified(line, FEWER_MM)),
                "points",
              )
            }
          >
            Make points of it
          </Button>
        )}
        {given !== null && given > MOST_HANDLES && (
          <Button
            onClick={() =>
              set(
                asPoints(end, (line) => simplified(line, FEWER_MM)),
                "points",
              )
            }
          >
            Fewer points, within {show("kerf", FEWER_MM)}
          </Button>
        )}
      </TileRow>
      <svg
        ref={svg}
        width={width}
        height={height}
        data-testid="ends"
        style={{ touchAction: "none", display: "block", cursor: grip ? "grabbing" : "default" }}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => setGrip(null)}
        onPointerCancel={() => setGrip(null)}
      >
        <title>{`The ${name} square on, ${show("length", here.chordMm)} along`}</title>
        <path
          d={outlines.map((line) => path(line, true)).join("")}
          fill="var(--paper-bright)"
          fillRule="evenodd"
          stroke="var(--graphite)"
          strokeWidth={1.6}
          data-outline
        />
        {guides.map(({ line, closed }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: templates in their order
          <path key={i} d={path(line, closed)} fill="none" stroke="var(--cool)" strokeWidth={1.4} />
        ))}
        {handles.map((handle) => {
          const [x, y] = px(handle.at);
          const is = handle.id === current.id;
          const small = indexOf(handle.id) !== null;
          return (
            <g
              key={handle.id}
              role="slider"
              tabIndex={is ? 0 : -1}
              aria-label={handle.label}
              aria-valuenow={handle.axes === "y" ? handle.at[1] : handle.at[0]}
              aria-valuetext={`${show("length", handle.at[0])} aft, ${show("length", handle.at[1])} up`}
              data-handle={handle.id}
              onKeyDown={onKeyDown}
              onFocus={() => setChosen(handle.id)}
              style={{ cursor: "grab" }}
            >
              <circle cx={x} cy={y} r={14} fill="transparent" />
              {small ? (
                <circle cx={x} cy={y} r={is ? 6 : 4} fill={is ? "var(--ember)" : "var(--paper)"} stroke="var(--graphite)" strokeWidth={1.4} />
              ) : (
                <path
                  d={`M${x - 7} ${y}L${x} ${y - 7}L${x + 7} ${y}L${x} ${y + 7}Z`}
                  fill={is ? "var(--ember)" : "var(--paper)"}
                  stroke="var(--graphite)"
                  strokeWidth={1.4}
                />
              )}
            </g>
          );
        })}
        <g pointerEvents="none" className="num" fontSize={13} fill="var(--graphite)">
          <path d={`M${cx} ${height - 20}V${cy + 12}M${20} ${cy}H${cx - 12}`} stroke="var(--line)" strokeDasharray="3 4" />
          <text x={Math.min(width - 90, cx + 6)} y={height - 8} data-figure="handle aft">
            {show("length", current.at[0])}
          </text>
          <text x={6} y={cy - 6} data-figure="handle up">
            {show("length", current.at[1])}
          </text>
        </g>
      </svg>
      <p style={{ margin: "4px 0 8px" }}>
        Held: <strong>{current.label}</strong>.{" "}
        <span style={{ fontSize: 14 }}>
          Drag it, or arrow keys move it by {show("length", STEP_MM)}, with Shift by {show("kerf", FINE_MM)}; Page Up and Page Down take the next
          {drawsPoints ? "; Insert adds a point after it, Delete takes it away" : ""}.
        </span>
      </p>
      <div className="plan-pair">
        {current.axes !== "y" && (
          <QuantityField
            key={`x ${current.id}`}
            quantity="length"
            label="Aft of the leading edge"
            decimals={2}
            value={current.at[0]}
            range={FAR}
            onChange={(x) => move(current, [x, current.at[1]])}
          />
        )}
        {current.axes !== "x" && (
          <QuantityField
            key={`y ${current.id}`}
            quantity="length"
            label="Above its chord"
            decimals={2}
            value={current.at[1]}
            range={FAR}
            onChange={(y) => move(current, [current.at[0], y])}
          />
        )}
      </div>
      {drawsPoints && point !== null && (
        <p>
          <Button onClick={() => set(withPointAfter(end, point), "points")}>Add a point after it</Button>{" "}
          <Button onClick={() => set(withoutPoint(end, point), "points")}>Take it away</Button>
        </p>
      )}
    </div>
  );
}
