"use client";
import Button from "@mui/material/Button";
import type { KeyboardEvent } from "react";
import { useMemo } from "react";
import { simplified } from "@/core/geometry/offset";
import { linesOf, type Point } from "@/core/geometry/points";
import type { EndName, PlanEvaluation } from "@/core/plans/evaluate";
import { type Handle, MOST_HANDLES } from "@/core/plans/handles";
import { asPoints } from "@/core/plans/place";
import type { Plan, PlanEnd } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { FINE_MM, pointIndexOf, STEP_MM, useHandles } from "./useHandles";

/** Points left out of an outline that becomes points are off it by no more than this, mm. */
const FEWER_MM = 0.05;
const FAR = { min: -10_000, max: 10_000 };

/** A handle on the picture: a small disc for a point, a diamond for any other. @param at its place, px */
function HandleMark({
  handle,
  at: [x, y],
  chosen,
  onKeyDown,
  choose,
}: {
  handle: Handle;
  at: Point;
  chosen: boolean;
  onKeyDown: (event: KeyboardEvent) => void;
  choose: (id: string) => void;
}) {
  const { show } = useUnits();
  const small = pointIndexOf(handle.id) !== null;
  return (
    <g
      key={handle.id}
      role="slider"
      tabIndex={chosen ? 0 : -1}
      aria-label={handle.label}
      aria-valuenow={handle.axes === "y" ? handle.at[1] : handle.at[0]}
      aria-valuetext={`${show("length", handle.at[0])} aft, ${show("length", handle.at[1])} up`}
      data-handle={handle.id}
      onKeyDown={onKeyDown}
      onFocus={() => choose(handle.id)}
      style={{ cursor: "grab" }}
    >
      <circle cx={x} cy={y} r={14} fill="transparent" />
      {small ? (
        <circle cx={x} cy={y} r={chosen ? 6 : 4} fill={chosen ? "var(--ember)" : "var(--paper)"} stroke="var(--graphite)" strokeWidth={1.4} />
      ) : (
        <path
          d={`M${x - 7} ${y}L${x} ${y - 7}L${x + 7} ${y}L${x} ${y + 7}Z`}
          fill={chosen ? "var(--ember)" : "var(--paper)"}
          stroke="var(--graphite)"
          strokeWidth={1.4}
        />
      )}
    </g>
  );
}

/** Which end is shown, and turning its outline into points, or into fewer. */
function EndChoices({
  plan,
  name,
  end,
  onName,
  onPoints,
}: {
  plan: Plan;
  name: EndName;
  end: PlanEnd;
  onName: (name: EndName) => void;
  onPoints: (end: PlanEnd) => void;
}) {
  const { show } = useUnits();
  const given = end.shape.kind === "points" ? end.shape.points_mm.length : null;
  const makePoints = () => onPoints(asPoints(end, (line) => simplified(line, FEWER_MM)));
  return (
    <TileRow>
      {(["root", "tip"] as const)
        .filter((each) => each === "root" || plan.tip)
        .map((each) => (
          <Tile key={each} chosen={name === each} onClick={() => onName(each)}>
            {each}
          </Tile>
        ))}
      {end.shape.kind !== "points" && end.shape.kind !== "column" && <Button onClick={makePoints}>Make points of it</Button>}
      {given !== null && given > MOST_HANDLES && <Button onClick={makePoints}>Fewer points, within {show("kerf", FEWER_MM)}</Button>}
    </TileRow>
  );
}

/** One end seen square on, its handles moved by mouse, finger or keys, with exact figures next to it. */
export function EndsView({ plan, evaluation, onChange }: { plan: Plan; evaluation: PlanEvaluation; onChange: (plan: Plan, key: string) => void }) {
  const { show } = useUnits();
  const [requested, setRequested] = useQueryParameter("end");
  const name: EndName = requested === "tip" && plan.tip ? "tip" : "root";
  const end: PlanEnd = (name === "tip" ? plan.tip : null) ?? plan.root;
  const set = (next: PlanEnd, key: string) => onChange({ ...plan, [name]: next }, `${name} ${key}`);
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: 480 });
  const height = Math.max(260, Math.min(480, width * 0.6));
  const here = evaluation[name];
  const outline = useMemo(() => here.drawn.regions.flatMap((region) => region.outline), [here]);
  const { handles, current, point, frame, held, move, choose, addPoint, removePoint, svg, pointer, onKeyDown } = useHandles(
    end,
    outline,
    { width, height },
    set,
  );
  const [cx, cy] = frame.px(current.at);
  const drawsPoints = handles.some(({ id }) => pointIndexOf(id) !== null);
  return (
    <div className="plan-ends" ref={ref}>
      <EndChoices plan={plan} name={name} end={end} onName={(next) => setRequested(next === "root" ? "" : next)} onPoints={(next) => set(next, "points")} />
      <svg
        ref={svg}
        width={width}
        height={height}
        data-testid="ends"
        style={{ touchAction: "none", display: "block", cursor: held ? "grabbing" : "default" }}
        {...pointer}
      >
        <title>{`The ${name} square on, ${show("length", here.chordMm)} along`}</title>
        <path
          d={here.drawn.regions
            .flatMap(linesOf)
            .map((line) => frame.path(line, true))
            .join("")}
          fill="var(--paper-bright)"
          fillRule="evenodd"
          stroke="var(--graphite)"
          strokeWidth={1.6}
          data-outline
        />
        {here.templates.map(({ line, closed }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: templates in their order
          <path key={i} d={frame.path(line, closed)} fill="none" stroke="var(--cool)" strokeWidth={1.4} />
        ))}
        {handles.map((handle) => (
          <HandleMark key={handle.id} handle={handle} at={frame.px(handle.at)} chosen={handle.id === current.id} onKeyDown={onKeyDown} choose={choose} />
        ))}
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
          {drawsPoints ? "; Insert adds a point after it, Delete removes it" : ""}.
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
            onChange={(x) => move([x, current.at[1]])}
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
            onChange={(y) => move([current.at[0], y])}
          />
        )}
      </div>
      {drawsPoints && point !== null && (
        <p>
          <Button onClick={addPoint}>Add a point after it</Button> <Button onClick={removePoint}>Remove it</Button>
        </p>
      )}
    </div>
  );
}
