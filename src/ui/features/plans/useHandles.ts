import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import { type Bounds, boundsOf, type Point } from "@/core/geometry/points";
import { type Handle, handlesOf, withHandle, withoutPoint, withPointAfter } from "@/core/plans/handles";
import type { PlanEnd } from "@/core/plans/plan";
import { nearestWithin, squareOn } from "./squareOn";

/** A finger takes hold of a handle within so many px. */
const REACH_PX = 26;
/** mm that an arrow key moves, plainly and with Shift. */
export const STEP_MM = 1;
export const FINE_MM = 0.1;

/** Place of a point among an outline's points, by its handle's id; null for a handle that is no point. */
export const pointIndexOf = (id: string): number | null => (id.startsWith("point ") ? Number(id.slice("point ".length)) : null);

/**
 * The handles of an end on a picture: one is chosen, and moved by mouse, finger or keys.
 * @param outline points that the picture must hold, mm
 * @param onChange the end with a handle moved, and what was changed
 */
export function useHandles(
  end: PlanEnd,
  outline: readonly Point[],
  { width, height }: { width: number; height: number },
  onChange: (end: PlanEnd, key: string) => void,
) {
  const handles = useMemo(() => handlesOf(end), [end]);
  const [chosen, setChosen] = useState("tail");
  const current = handles.find(({ id }) => id === chosen) ?? (handles[0] as Handle);
  const point = pointIndexOf(current.id);
  const fresh = useMemo(() => boundsOf([...outline, ...handles.map(({ at }) => at)]), [outline, handles]);
  // While a hand holds a handle the scale does not move: the outline moves, not the paper.
  const [grip, setGrip] = useState<{ id: string; bounds: Bounds; off: Point } | null>(null);
  const bounds = grip?.bounds ?? fresh;
  const frame = squareOn(bounds, width, height);
  const svg = useRef<SVGSVGElement>(null);
  const spot = (event: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
  };
  const move = (handle: Handle, to: Point) =>
    onChange(withHandle(end, handle.id, [handle.axes === "y" ? handle.at[0] : to[0], handle.axes === "x" ? handle.at[1] : to[1]]), handle.id);
  const step = (by: number) => setChosen((handles[(handles.indexOf(current) + by + handles.length) % handles.length] as Handle).id);
  const addPoint = () => {
    if (point !== null) onChange(withPointAfter(end, point), "points");
  };
  const removePoint = () => {
    if (point !== null) onChange(withoutPoint(end, point), "points");
  };
  return {
    handles,
    current,
    point,
    frame,
    held: grip !== null,
    move: (to: Point) => move(current, to),
    choose: setChosen,
    addPoint,
    removePoint,
    svg,
    pointer: {
      onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
        const at = spot(event);
        const nearest = nearestWithin(handles, (handle) => frame.px(handle.at), at, REACH_PX);
        if (!nearest) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const [x, y] = frame.px(nearest.at);
        setChosen(nearest.id);
        setGrip({ id: nearest.id, bounds, off: [x - at[0], y - at[1]] });
      },
      onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
        const held = grip && handles.find(({ id }) => id === grip.id);
        if (!held) return;
        const at = spot(event);
        move(held, frame.mm([at[0] + grip.off[0], at[1] + grip.off[1]]));
      },
      onPointerUp: () => setGrip(null),
      onPointerCancel: () => setGrip(null),
    },
    onKeyDown: (event: KeyboardEvent) => {
      const by = event.shiftKey ? FINE_MM : STEP_MM;
      const arrows: Record<string, Point> = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] };
      const arrow = arrows[event.key];
      if (arrow) move(current, [current.at[0] + arrow[0], current.at[1] + arrow[1]]);
      else if (event.key === "PageDown") step(1);
      else if (event.key === "PageUp") step(-1);
      else if (event.key === "Insert" && point !== null) addPoint();
      else if (event.key === "Delete" && point !== null) removePoint();
      else return;
      event.preventDefault();
    },
  };
}
