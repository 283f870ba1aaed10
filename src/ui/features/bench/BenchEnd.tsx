"use client";
import { useRef } from "react";
import { SIDE_M } from "@/core/bench/simulator";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { resolveFoam } from "@/core/materials/foams";
import { useSize } from "../../kit/useSize";
import { inkOfHeat, usePainted } from "./canvas";
import type { Bench } from "./useBench";

const MARGIN = 14;
/** Layers are kept at this many pixels a CSS pixel: sharp on any screen. */
const SHARP = 2;
/** A kerf is a hair at this scale: it is drawn so many times too wide, and the caption says so. */
const KERF_TIMES = 3;

/**
 * The block seen along the wire: the kerf opening behind the middle, its entry bite, the corner cut short, the groove of a pause, smoke.
 * Coordinates of its drawing: CSS pixels; x along the first direction of the cut, y across it, upward.
 */
export function BenchEnd({ bench, design, options }: { bench: Bench; design: Design; options: BenchOptions }) {
  const [box, size] = useSize<HTMLDivElement>({ width: 340, height: 170 });
  const { fumeLimitC } = resolveFoam(design.job.foam);
  const cornerMm = options.corner_mm;
  const lengthMm = cornerMm === null ? options.block_mm : Math.min(options.block_mm, cornerMm + 40);
  const aboveMm = cornerMm === null ? 24 : SIDE_M * 1000;
  const belowMm = cornerMm === null ? 24 : 14;
  const scale = Math.min((size.width - 2 * MARGIN) / (lengthMm + 14), (size.height - 2 * MARGIN) / (aboveMm + belowMm + 2));
  const x0 = MARGIN + 12 * scale;
  const y0 = size.height / 2 + ((aboveMm - belowMm) / 2) * scale;
  const x = (p: number) => x0 + p * 1000 * scale;
  const y = (q: number) => y0 - q * 1000 * scale;

  const layer = useRef<{ key: string; picture: HTMLCanvasElement; drawn: number } | null>(null);
  const canvas = usePainted(bench.addPainter, size, `--foam-${design.job.foam.family}`, (context, { frame, track }, ink, now) => {
    if (!frame) return;
    context.fillStyle = ink.foam;
    context.strokeStyle = ink.soft;
    context.lineWidth = 1;
    context.fillRect(x(0), y(aboveMm / 1000), lengthMm * scale, (aboveMm + belowMm) * scale);
    context.strokeRect(x(0), y(aboveMm / 1000), lengthMm * scale, (aboveMm + belowMm) * scale);
    // Where the ends are led.
    context.setLineDash([3, 4]);
    context.strokeStyle = ink.cool;
    context.beginPath();
    context.moveTo(x(-0.012), y(0));
    if (cornerMm === null) context.lineTo(x(lengthMm / 1000), y(0));
    else {
      context.lineTo(x(cornerMm / 1000), y(0));
      context.lineTo(x(cornerMm / 1000), y(aboveMm / 1000));
    }
    context.stroke();
    context.setLineDash([]);
    // The kerf, stretch by stretch as wide as it was burnt. What will not change any more lies on a layer of its own.
    const key = `${size.width} ${size.height} ${ink.hollow} ${options.seed} ${cornerMm}`;
    if (layer.current?.key !== key || layer.current.drawn > Math.max(1, track.length)) {
      const picture = document.createElement("canvas");
      picture.width = Math.ceil(size.width * SHARP);
      picture.height = Math.ceil(size.height * SHARP);
      layer.current = { key, picture, drawn: 1 };
    }
    const stroke = (onto: CanvasRenderingContext2D, fromRow: number, toRow: number) => {
      onto.strokeStyle = ink.hollow;
      onto.lineCap = "round";
      for (let i = fromRow; i < toRow; i++) {
        const before = track[i - 1];
        const row = track[i];
        if (!before || !row) continue;
        onto.lineWidth = Math.max(1, ((before.kerfM + row.kerfM) / 2) * 1000 * scale * KERF_TIMES);
        onto.beginPath();
        onto.moveTo(x(before.p), y(before.q));
        onto.lineTo(x(row.p), y(row.q));
        onto.stroke();
      }
    };
    const { picture, drawn } = layer.current;
    const settled = Math.max(1, track.length - 1);
    const own = picture.getContext("2d");
    if (own && settled > drawn) {
      own.setTransform(SHARP, 0, 0, SHARP, 0, 0);
      stroke(own, drawn, settled);
      layer.current.drawn = settled;
    }
    context.drawImage(picture, 0, 0, size.width, size.height);
    stroke(context, settled, track.length);
    const mid = frame.middle;
    const [wx, wy] = [x(frame.p[mid] as number), y(frame.q[mid] as number)];
    const wireC = frame.wireC[mid] as number;
    // Ends of the wire, nearer and farther than the middle: a ring.
    context.strokeStyle = ink.cool;
    context.lineWidth = 1.6;
    context.beginPath();
    context.arc(x(frame.endP), y(frame.endQ), 6, 0, Math.PI * 2);
    context.stroke();
    context.fillStyle = inkOfHeat(ink, wireC);
    context.beginPath();
    context.arc(wx, wy, Math.max(3.5, (frame.kerfM[mid] as number) * 500 * scale), 0, Math.PI * 2);
    context.fill();
    if (frame.inFoam && wireC > fumeLimitC) {
      context.strokeStyle = ink.hollow;
      context.lineWidth = 1.4;
      const strength = Math.min(1, (wireC - fumeLimitC) / 80);
      for (let wisp = 0; wisp < 4; wisp++) {
        const rise = ((now / 1000 + wisp / 4) % 1) * 40;
        context.globalAlpha = strength * (1 - rise / 40);
        context.beginPath();
        context.moveTo(wx + wisp * 4 - 8, wy - 6 - rise);
        context.quadraticCurveTo(wx + wisp * 4 - 2, wy - 12 - rise, wx + wisp * 4 - 8, wy - 18 - rise);
        context.stroke();
      }
      context.globalAlpha = 1;
    }
  });
  return (
    <figure style={{ margin: 0, minWidth: 0 }}>
      <figcaption className="bench-caption">along the wire: the middle's kerf, drawn {KERF_TIMES} times too wide; ring: the ends</figcaption>
      <div ref={box} className="bench-canvas" style={{ height: 170 }}>
        <canvas
          ref={canvas}
          role="img"
          aria-label="The kerf seen along the wire; the figures below say the same"
          style={{ width: "100%", height: "100%", display: "block" }}
        />
      </div>
    </figure>
  );
}
