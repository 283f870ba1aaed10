"use client";
import { type PointerEvent, useRef } from "react";
import { START_GAP_M } from "@/core/bench/simulator";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { liveMm } from "@/core/cutters/solve/evaluate";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { inkOfHeat, usePainted } from "./canvas";
import type { Bench } from "./useBench";

const TOP = 30;
const FOOT = 26;
const SIDE = 46;

/** Seeded speckle of a block, so that beads lie where they lie. */
function speckle(context: CanvasRenderingContext2D, left: number, top: number, width: number, height: number, seed: number): void {
  let state = seed * 7919 + 17;
  const next = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
  const count = Math.round((width * height) / 260);
  context.beginPath();
  for (let i = 0; i < count; i++) {
    const x = left + next() * width;
    const y = top + next() * height;
    context.moveTo(x + 2.2, y);
    context.arc(x, y, 2.2, 0, Math.PI * 2);
  }
  context.stroke();
}

/**
 * The bench from above: the wire between its posts, to scale along it, bowing into the block; the way along the cut is drawn larger. Lead the ends by the pointer.
 * Coordinates of its drawing: CSS pixels; x along the wire, y along the cut, downward.
 */
export function BenchPlan({
  bench,
  design,
  options,
  leads,
  onLead,
}: {
  bench: Bench;
  design: Design;
  options: BenchOptions;
  /** Whether the pointer leads the wire. */
  leads: boolean;
  onLead: (toM: number | null) => void;
}) {
  const { show } = useUnits();
  const [box, size] = useSize<HTMLDivElement>({ width: 700, height: 230 });
  const leading = useRef(false);
  const spanMm = liveMm(design);
  const widthMm = Math.min(design.job.width_mm, spanMm * 0.98);
  const along = (size.width - 2 * SIDE) / spanMm;
  const blockMm = options.corner_mm === null ? options.block_mm : Math.min(options.block_mm, options.corner_mm + 40);
  const reachMm = START_GAP_M * 1000 + blockMm + 12;
  const across = (size.height - TOP - FOOT) / reachMm;
  /** y of a place along the cut, m from the foam's face */
  const y = (p: number) => TOP + (p * 1000 + START_GAP_M * 1000) * across;
  const block = useRef<{ key: string; picture: HTMLCanvasElement } | null>(null);

  const canvas = usePainted(bench.addPainter, size, `--foam-${design.job.foam.family}`, (context, { frame }, ink) => {
    if (!frame) return;
    const left = SIDE;
    const right = left + spanMm * along;
    const foamLeft = left + ((spanMm - widthMm) / 2) * along;
    const foamWidth = widthMm * along;
    const blockTop = y(0);
    const blockHeight = blockMm * across;
    // The block never changes: painted once, then laid in.
    const key = `${Math.round(foamWidth)} ${Math.round(blockHeight)} ${options.seed} ${ink.foam} ${ink.soft}`;
    if (block.current?.key !== key) {
      const picture = document.createElement("canvas");
      picture.width = Math.ceil(foamWidth);
      picture.height = Math.ceil(blockHeight);
      const own = picture.getContext("2d");
      if (own) {
        own.fillStyle = ink.foam;
        own.fillRect(0, 0, picture.width, picture.height);
        own.strokeStyle = ink.soft;
        own.globalAlpha = 0.28;
        own.lineWidth = 0.8;
        speckle(own, 0, 0, foamWidth, blockHeight, options.seed);
      }
      block.current = { key, picture };
    }
    context.drawImage(block.current.picture, foamLeft, blockTop);
    context.strokeStyle = ink.soft;
    context.lineWidth = 1;
    context.strokeRect(foamLeft, blockTop, foamWidth, blockHeight);
    const { p, xM, wireC, endP } = frame;
    const n = p.length;
    const x = (i: number) => left + (xM[i] as number) * 1000 * along;
    // What the wire has passed.
    context.beginPath();
    const passed = (i: number) => Math.max(blockTop, Math.min(blockTop + blockHeight, y(p[i] as number)));
    context.moveTo(foamLeft, blockTop);
    context.lineTo(foamLeft, passed(0));
    for (let i = 0; i < n; i++) context.lineTo(x(i), passed(i));
    context.lineTo(foamLeft + foamWidth, passed(n - 1));
    context.lineTo(foamLeft + foamWidth, blockTop);
    context.closePath();
    context.fillStyle = ink.hollow;
    context.globalAlpha = 0.22;
    context.fill();
    context.globalAlpha = 1;
    // Posts and the hand that moves them.
    context.strokeStyle = ink.line;
    context.lineWidth = 2;
    context.beginPath();
    context.moveTo(left, TOP - 12);
    context.lineTo(left, size.height - FOOT + 8);
    context.moveTo(right, TOP - 12);
    context.lineTo(right, size.height - FOOT + 8);
    context.stroke();
    context.fillStyle = ink.graphite;
    for (const post of [left, right]) context.fillRect(post - 4, y(endP) - 9, 8, 18);
    // The wire, stretch by stretch in its own colour.
    const points: [number, number, number][] = [[left, y(endP), frame.airC]];
    for (let i = 0; i < n; i++) points.push([x(i), y(p[i] as number), wireC[i] as number]);
    points.push([right, y(endP), frame.airC]);
    context.lineWidth = 3.4;
    context.lineCap = "round";
    for (let i = 1; i < points.length; i++) {
      const [x0, y0, c0] = points[i - 1] as [number, number, number];
      const [x1, y1, c1] = points[i] as [number, number, number];
      // Bare ends keep their own heat up to the foam.
      context.strokeStyle = inkOfHeat(ink, i === 1 ? c0 : i === points.length - 1 ? c1 : (c0 + c1) / 2);
      if (frame.broken && i === points.length >> 1) continue;
      context.beginPath();
      context.moveTo(x0, y0);
      context.lineTo(x1, y1);
      context.stroke();
    }
  });

  const place = (event: PointerEvent) => {
    const top = event.currentTarget.getBoundingClientRect().top;
    return Math.max(0, (event.clientY - top - TOP) / across / 1000);
  };
  return (
    <figure style={{ margin: 0 }}>
      <figcaption className="bench-caption">
        from above: the wire to scale, {show("length", spanMm)}; along the cut drawn {(across / along).toFixed(1)} times larger
      </figcaption>
      <div
        ref={box}
        className="bench-canvas"
        style={{ height: 226, touchAction: "none", cursor: leads ? "ns-resize" : undefined }}
        onPointerDown={(event) => {
          if (!leads) return;
          leading.current = true;
          event.currentTarget.setPointerCapture(event.pointerId);
          onLead(place(event));
        }}
        onPointerMove={(event) => {
          if (leading.current) onLead(place(event));
        }}
        onPointerUp={() => {
          leading.current = false;
          onLead(null);
        }}
        onPointerCancel={() => {
          leading.current = false;
          onLead(null);
        }}
      >
        <canvas
          ref={canvas}
          role="img"
          aria-label="The wire and the block from above; the figures below say the same"
          style={{ width: "100%", height: "100%", display: "block" }}
        />
      </div>
    </figure>
  );
}
