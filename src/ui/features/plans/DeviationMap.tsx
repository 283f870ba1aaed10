"use client";
import { useEffect, useRef } from "react";
import { boundsOf, type Point } from "@/core/geometry/points";
import type { SurfaceMap } from "@/core/pace/planPace";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

const HIGH = 150;
const LEFT = 44;
const SECTION_HIGH = 110;

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
  return `${show("kerf", map.worst.deviationMm)} ${across}, ${along}`;
}

/** So many times too large is a miss of some pixels drawn that it is seen and stays within others: a number one can say. */
export const exaggeration = (px: number, within: number): number => [1, 2, 5, 10, 20, 40, 100].findLast((times) => times * px <= within) ?? 1;

/** The part that will come out over the part wanted: how far each place of the face is missed, and the middle's line drawn exaggerated. */
export function DeviationMap({
  map,
  toleranceMm,
  middle,
}: {
  map: SurfaceMap;
  toleranceMm: number;
  middle: { wanted: readonly Point[]; deviationMm: readonly Point[] };
}) {
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
        const share = (map.deviationMm[r * columns + c] as number) / toleranceMm;
        context.globalAlpha = Math.min(1, share) * 0.85;
        context.fillStyle = (share > 0.75 ? high : low) as string;
        context.fillRect(c, r, 1, 1);
      }
    }
  }, [map, toleranceMm, columns, rows]);
  // The section half way along: as it is wanted, and as it comes out, its miss drawn larger.
  const { minX, maxX, minY, maxY } = boundsOf(middle.wanted);
  const scale = Math.min(wide / Math.max(1, maxX - minX), (SECTION_HIGH - 28) / Math.max(1, maxY - minY));
  const most = Math.max(1e-6, ...middle.deviationMm.map(([x, y]) => Math.hypot(x, y)));
  const exaggerated = exaggeration(most * scale, 26);
  const put = ([x, y]: Point) => `${(LEFT + (x - minX) * scale).toFixed(1)} ${(14 + (maxY - y) * scale).toFixed(1)}`;
  const wanted = middle.wanted.map(put);
  const cut = middle.wanted.map(([x, y], i) => {
    const [ex, ey] = middle.deviationMm[i] ?? [0, 0];
    return put([x + ex * exaggerated, y + ey * exaggerated]);
  });
  return (
    <div ref={ref} className="miss-map">
      <svg
        width={width}
        height={SECTION_HIGH}
        role="img"
        data-testid="comes-out"
        aria-label={`Half way along the span: the line that comes out over the line wanted, its miss drawn ${exaggerated} times too large`}
      >
        <title>what comes out, over what is wanted</title>
        <path d={`M${wanted.join("L")}`} fill="none" stroke="var(--graphite)" strokeWidth={1.4} strokeDasharray="5 4" />
        <path d={`M${cut.join("L")}`} fill="none" stroke="var(--ember)" strokeWidth={2} />
      </svg>
      <p style={{ margin: `0 0 4px ${LEFT}px`, fontSize: 13, color: "var(--graphite-soft)" }}>
        half way along: what comes out over what is wanted (dashed), its miss drawn {exaggerated} times too large
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
