"use client";
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import type { Point } from "@/core/geometry/points";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import { fittedFrame, PENS } from "@/core/rigs/fitted";
import type { RigHandle } from "@/core/rigs/record";
import type { RigLayer } from "@/core/rigs/sketch";
import { useSize } from "../../kit/useSize";

const INKS: Readonly<Record<string, string>> = {
  graphite: "var(--graphite)",
  soft: "var(--graphite-soft)",
  line: "var(--line)",
  cool: "var(--cool)",
  straw: "var(--straw)",
  amber: "var(--amber)",
  ember: "var(--ember)",
  paper: "var(--paper-bright)",
};
/** Pixels a millimetre of pen. */
const PEN_PX = 2.6;
/** Words are no smaller than this on a screen, px. */
const LEAST_WORDS_PX = 11;
/** Where words to scale would be smaller than this share of the least, they would lie on one another: the drawing is then as large as they ask and is moved under the finger. */
const CRAMPED = 0.7;
/** A press of an arrow key moves a handle by this share of the drawing. */
const KEY_SHARE = 1 / 200;

/** A rig to scale, with the things on it that a hand moves. */
export function RigDrawing({
  drawing,
  handles,
  onMove,
  title,
}: {
  drawing: OutDrawing;
  handles: readonly RigHandle[];
  onMove: (handle: string, to: Point) => void;
  title: string;
}) {
  const [ref, room] = useSize<HTMLDivElement>({ width: 700, height: 440 });
  const frame = useMemo(() => fittedFrame(drawing), [drawing]);
  // While a handle is held the sheet stays where it is.
  const [held, setHeld] = useState<{ id: string; frame: ReturnType<typeof fittedFrame> } | null>(null);
  const shown = held?.frame ?? frame;
  const smallest = Math.min(...drawing.texts.map(({ heightMm }) => heightMm));
  const cramped = (room.width / shown.wide) * smallest < LEAST_WORDS_PX * CRAMPED;
  const large = LEAST_WORDS_PX / smallest;
  const { width, height } = cramped ? { width: shown.wide * large, height: shown.high * large } : room;
  const scale = Math.min(width / shown.wide, height / shown.high);
  const [dx, dy] = [(width - shown.wide * scale) / 2, (height - shown.high * scale) / 2];
  const svg = useRef<SVGSVGElement>(null);
  const at = ([x, y]: Point): Point => [(x - shown.left) * scale + dx, (shown.top - y) * scale + dy];
  const path = (points: readonly Point[], closed: boolean) =>
    `M${points
      .map((point) =>
        at(point)
          .map((each) => each.toFixed(1))
          .join(" "),
      )
      .join("L")}${closed ? "Z" : ""}`;
  const back = (event: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    return [(event.clientX - (box?.left ?? 0) - dx) / scale + shown.left, shown.top - (event.clientY - (box?.top ?? 0) - dy) / scale];
  };
  const onKeyDown = (handle: RigHandle) => (event: KeyboardEvent) => {
    const step = shown.wide * KEY_SHARE * (event.shiftKey ? 5 : 1);
    const by: Record<string, Point> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    onMove(handle.id, [handle.at[0] + move[0], handle.at[1] + move[1]]);
  };
  return (
    // Moved under the finger it must be movable by keys too.
    <div
      ref={ref}
      className="rig-drawing"
      {...(cramped ? { "data-cramped": true, role: "region", "aria-label": title, tabIndex: 0, style: { height: height + 14 } } : {})}
    >
      <svg ref={svg} width={width} height={height} style={{ position: "absolute", display: "block" }} data-testid="rig-drawing">
        <title>{title}</title>
        {drawing.lines.map(({ layer, points, closed }, i) => {
          const pen = PENS[layer as RigLayer];
          return (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place
              key={i}
              d={path(points, closed)}
              data-layer={layer}
              fill={pen.fill && closed ? INKS[pen.fill] : "none"}
              stroke={INKS[pen.ink]}
              strokeWidth={pen.width * PEN_PX}
              strokeDasharray={pen.dash ? "5 4" : undefined}
              strokeLinejoin="round"
            />
          );
        })}
        {drawing.texts.map(({ at: foot, heightMm, text }, i) => {
          const [x, y] = at(foot);
          return (
            <text
              // biome-ignore lint/suspicious/noArrayIndexKey: words are their place
              key={i}
              x={x}
              y={y}
              fontSize={Math.max(LEAST_WORDS_PX, heightMm * scale)}
              fill="var(--graphite)"
              stroke="var(--paper)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {text}
            </text>
          );
        })}
        {handles.map((handle) => {
          const [x, y] = at(handle.at);
          return (
            <g
              key={handle.id}
              role="slider"
              tabIndex={0}
              aria-label={`Move ${handle.label}`}
              aria-valuenow={Math.round(handle.at[0])}
              aria-valuetext={`${Math.round(handle.at[0])} across, ${Math.round(handle.at[1])} up, mm`}
              data-handle={handle.id}
              style={{ cursor: held ? "grabbing" : "grab", touchAction: "none" }}
              onKeyDown={onKeyDown(handle)}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                setHeld({ id: handle.id, frame });
              }}
              onPointerMove={(event) => held?.id === handle.id && onMove(handle.id, back(event))}
              onPointerUp={() => setHeld(null)}
              onPointerCancel={() => setHeld(null)}
            >
              <circle cx={x} cy={y} r={22} fill="transparent" />
              <circle cx={x} cy={y} r={9} fill="var(--paper-bright)" stroke="var(--ember)" strokeWidth={3} />
            </g>
          );
        })}
      </svg>
    </div>
  );
}
