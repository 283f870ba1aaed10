"use client";
import { useEffect, useRef } from "react";
import type { SurfaceMap } from "@/core/pace/planPace";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

const HIGH = 150;
const LEFT = 44;
/** How much too large the line that comes out is drawn beside the line wanted. */
const EXAGGERATED = 40;
const LINE_HIGH = 64;

/** Words for where a face is missed most. */
export function worstWords(map: SurfaceMap, show: (quantity: "kerf", value: number) => string): string {
  const across =
    map.worst.share < 0.15
      ? "at the root"
      : map.worst.share > 0.85
        ? "at the tip"
        : Math.abs(map.worst.share - 0.5) < 0.15
          ? "in the middle of the span"
          : map.worst.share < 0.5
            ? "between root and middle"
            : "between middle and tip";
  const along =
    map.worst.along < 0.12 ? "near where it starts" : map.worst.along > 0.88 ? "near where it ends" : `${Math.round(100 * map.worst.along)} % along the face`;
  return `${show("kerf", map.worst.missMm)} ${across}, ${along}`;
}

/** The part that will come out over the part wanted: how far each place of the face is missed, and the middle's line drawn exaggerated. */
export function MissMap({ map, toleranceMm }: { map: SurfaceMap; toleranceMm: number }) {
  const { show } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: HIGH });
  const canvas = useRef<HTMLCanvasElement>(null);
  const wide = Math.max(80, width - LEFT - 12);
  const columns = map.along.length;
  const rows = map.shares.length;
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    const styles = getComputedStyle(context.canvas);
    const [low, high] = ["--straw", "--ember"].map((name) => styles.getPropertyValue(name).trim());
    context.clearRect(0, 0, columns, rows);
    for (let r = 0; r < rows; r++) {
      for (let c = 0; c < columns; c++) {
        const share = (map.missMm[r * columns + c] as number) / toleranceMm;
        context.globalAlpha = Math.min(1, share) * 0.85;
        context.fillStyle = (share > 0.75 ? high : low) as string;
        context.fillRect(c, r, 1, 1);
      }
    }
  }, [map, toleranceMm, columns, rows]);
  const middle = Math.floor(rows / 2);
  const line = Array.from({ length: columns }, (_, c) => {
    const miss = map.missMm[middle * columns + c] as number;
    return `${(LEFT + (c / (columns - 1)) * wide).toFixed(1)} ${(18 + Math.min(44, miss * EXAGGERATED)).toFixed(1)}`;
  });
  return (
    <div ref={ref} className="miss-map">
      <svg width={width} height={LINE_HIGH} role="img" aria-label={`The middle's line below the line wanted, drawn ${EXAGGERATED} times too large`}>
        <title>what comes out, over what is wanted</title>
        <path d={`M${LEFT} 18H${LEFT + wide}`} stroke="var(--graphite)" strokeWidth={1.6} />
        <path d={`M${line.join("L")}`} fill="none" stroke="var(--ember)" strokeWidth={1.8} />
      </svg>
      <p style={{ margin: `0 0 4px ${LEFT}px`, fontSize: 13, color: "var(--graphite-soft)" }}>
        the middle's line off the line wanted, drawn {EXAGGERATED} times too large
      </p>
      <div style={{ display: "flex" }}>
        <div style={{ width: LEFT, display: "flex", flexDirection: "column", justifyContent: "space-between", fontStyle: "italic", fontSize: 14 }}>
          <span>root</span>
          <span>tip</span>
        </div>
        <canvas
          ref={canvas}
          width={columns}
          height={rows}
          role="img"
          data-testid="miss-map"
          aria-label={`Map of the face from root to tip: worst ${worstWords(map, show)}; full colour is the tolerance, ${show("kerf", toleranceMm)}`}
          style={{ width: wide, height: 74, border: "1px solid var(--line)", imageRendering: "auto" }}
        />
      </div>
      <p style={{ margin: "2px 0 8px", fontSize: 14 }}>
        Nose to tail, across the span; full colour is the tolerance, <span className="num">{show("kerf", toleranceMm)}</span>. Worst: {worstWords(map, show)}.
      </p>
    </div>
  );
}
