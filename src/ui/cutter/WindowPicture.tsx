"use client";
import { memo, useEffect, useId, useMemo, useRef, useState } from "react";
import { type CutPair, type CutVerdict, cleanFeeds, kerfFeedProduct, leastKerfM } from "@/core/physics/cut/cut";
import type { Axis } from "@/core/physics/cut/cutMap";
import type { Doubts } from "@/core/physics/cut/uncertainty";
import { bareLossWPerM } from "@/core/physics/heat/bareWire";
import { unitOf } from "@/core/units/units";
import { EngineClient } from "@/workers/clients";
import type { MapPicture, RegionOutline } from "@/workers/engine/protocol";
import { Superseded } from "@/workers/kit/client";
import { useUnits } from "../kit/useUnits";

export const PLOT_MARGIN = { top: 14, right: 58, bottom: 44, left: 58 };
const COLUMNS = 240;
const ROWS = 160;
/** Wire temperature in air that tops the heat axis: hotter than any clean set-up. */
const AXIS_TOP_C = 560;
/** Share of the top row's top feed that ends the feed axis, so that the dragging border crosses the picture. */
const AXIS_FEED_SHARE = 0.36;

/** The next round number at or above a value. */
function roundAbove(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  return power * ([1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].find((step) => step * power >= value * 0.999) ?? 10);
}

function ticks(top: number, most: number): number[] {
  const step = [0.1, 0.2, 0.25, 0.5, 1, 2, 2.5, 5, 10, 20, 25, 50, 100, 200, 250, 500, 1000, 2000].find((candidate) => top / candidate <= most) ?? top;
  return Array.from({ length: Math.floor(top / step + 1e-9) + 1 }, (_, i) => i * step);
}

export interface WindowFrame {
  heatTop: number;
  /** mm/s */
  feedTop: number;
}

export function windowFrameOf(pair: CutPair, feedMmS: number): WindowFrame {
  const heatTop = roundAbove(bareLossWPerM(pair.wire, AXIS_TOP_C, pair));
  const natural = (AXIS_FEED_SHARE * kerfFeedProduct(pair, heatTop) * 1000) / leastKerfM(pair);
  return { heatTop, feedTop: roundAbove(Math.max(natural, 0.5, feedMmS * 1.1)) };
}

/** Asks the worker for the picture; keeps the last one until the new one stands. */
export function usePicture(pair: CutPair, frame: WindowFrame, acceptedKerfM: number, doubts: Doubts): { picture: MapPicture | null; fault: string | null } {
  const [picture, setPicture] = useState<MapPicture | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const client = useRef<EngineClient<"map"> | null>(null);
  useEffect(() => {
    const mine = new EngineClient("map");
    client.current = mine;
    return () => mine.close();
  }, []);
  useEffect(() => {
    const heat: Axis = { from: frame.heatTop / ROWS, to: frame.heatTop, count: ROWS };
    const feed: Axis = { from: frame.feedTop / 1000 / COLUMNS, to: frame.feedTop / 1000, count: COLUMNS };
    const started = performance.now();
    client.current
      ?.submit({ pair, heat, feed, acceptedKerfM, doubts, kerfLinesM: [0.5e-3, 1e-3, 1.5e-3, 2e-3] })
      .then((drawn) => {
        performance.measure("cutting-window-map", { start: started, detail: { elapsedMs: drawn.elapsedMs, solvedMs: drawn.solvedMs } });
        setFault(null);
        setPicture(drawn);
      })
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      });
  }, [pair, frame, acceptedKerfM, doubts]);
  return { picture, fault };
}

/** The same object as long as what it says is the same: an answer is made again for every frame of a drag, most of what it holds is not. */
export function useSame<T>(value: T): T {
  const said = JSON.stringify(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: by what it says, not by which object says it
  return useMemo(() => value, [said]);
}

const REGION_LOOK: Record<CutVerdict, { fill: string; word: string }> = {
  clean: { fill: "var(--paper-bright)", word: "clean" },
  drags: { fill: "url(#hatch-drags)", word: "drags" },
  wide: { fill: "url(#hatch-wide)", word: "wide" },
  smokes: { fill: "url(#hatch-smokes)", word: "smokes" },
};

/** A place well inside an outline for its word: the middle of its widest row. Data coordinates. */
function wordPlace(outline: RegionOutline, frame: WindowFrame): { feed: number; heat: number; span: number } | null {
  let best: { feed: number; heat: number; span: number } | null = null;
  for (const polygon of outline) {
    const ring = polygon[0] ?? [];
    for (let k = 1; k < 16; k++) {
      const heat = (frame.heatTop * k) / 16;
      const crossings: number[] = [];
      for (let i = 1; i < ring.length; i++) {
        const [x0, y0] = ring[i - 1] as [number, number];
        const [x1, y1] = ring[i] as [number, number];
        if (y0 < heat !== y1 < heat) crossings.push(x0 + ((heat - y0) / (y1 - y0)) * (x1 - x0));
      }
      crossings.sort((a, b) => a - b);
      for (let i = 0; i + 1 < crossings.length; i += 2) {
        const from = Math.max(0, crossings[i] as number);
        const to = Math.min(frame.feedTop, crossings[i + 1] as number);
        const centred = (to - from) / frame.feedTop - Math.abs(k - 8) * 0.012;
        if (!best || centred > best.span) best = { feed: (from + to) / 2, heat, span: centred };
      }
    }
  }
  return best && best.span > 0.05 ? best : null;
}

/** Where a kerf line can carry its label: as far right on it as stays clean and clear of the frame. */
function linePlace(line: [number, number][], frame: WindowFrame, pair: CutPair, acceptedKerfM: number, heatBelow: number): [number, number] | null {
  let best: [number, number] | null = null;
  for (const [feed, heat] of line) {
    if (feed > frame.feedTop * 0.88 || heat > heatBelow || heat < frame.heatTop * 0.05) continue;
    if (best && feed <= best[0]) continue;
    const clean = cleanFeeds(pair, heat, acceptedKerfM);
    if (feed > clean.from * 1000 && feed < clean.to * 1000) best = [feed, heat];
  }
  return best;
}

function Hatches() {
  return (
    <defs>
      <pattern id="hatch-drags" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="8" height="8" fill="color-mix(in oklab, var(--graphite-soft) 22%, var(--paper))" />
        <path d="M0 0V8" stroke="var(--graphite-soft)" strokeWidth="1.6" opacity="0.55" />
      </pattern>
      <pattern id="hatch-wide" width="12" height="9" patternUnits="userSpaceOnUse">
        <rect width="12" height="9" fill="color-mix(in oklab, var(--straw) 26%, var(--paper))" />
        <path d="M0 4.500H12" stroke="var(--straw)" strokeWidth="1.2" strokeDasharray="6 6" />
      </pattern>
      <pattern id="hatch-smokes" width="9" height="9" patternUnits="userSpaceOnUse">
        <rect width="9" height="9" fill="color-mix(in oklab, var(--ember) 24%, var(--paper))" />
        <circle cx="2" cy="2" r="1.200" fill="var(--ember)" />
        <circle cx="6.500" cy="6.500" r="1.200" fill="var(--ember)" />
      </pattern>
      <pattern id="hatch-reach" width="10" height="10" patternUnits="userSpaceOnUse">
        <path d="M0 0L10 10M10 0L0 10" stroke="var(--graphite)" strokeWidth="0.900" opacity="0.5" />
      </pattern>
    </defs>
  );
}

interface Scale {
  frame: WindowFrame;
  width: number;
  height: number;
}

/** Data to CSS pixels of the drawing: feed in mm/s, heat in W/m. */
export function scaleOf({ frame, width, height }: Scale) {
  const plotWidth = Math.max(60, width - PLOT_MARGIN.left - PLOT_MARGIN.right);
  const plotHeight = Math.max(60, height - PLOT_MARGIN.top - PLOT_MARGIN.bottom);
  return {
    plotWidth,
    plotHeight,
    px: (feedMmS: number) => PLOT_MARGIN.left + (feedMmS / frame.feedTop) * plotWidth,
    py: (heat: number) => PLOT_MARGIN.top + plotHeight - (heat / frame.heatTop) * plotHeight,
  };
}

const pathOf = (points: readonly (readonly [number, number])[], px: (x: number) => number, py: (y: number) => number) =>
  points.map(([x, y]) => `${px(x).toFixed(1)} ${py(y).toFixed(1)}`).join("L");

/** Ticks and names of the axes: feed, heat, and the temperature of the same wire bare in air. */
function Axes({ frame, width, height, pair }: Scale & { pair: CutPair }) {
  const { system, show } = useUnits();
  const { px, py, plotWidth, plotHeight } = scaleOf({ frame, width, height });
  const feedUnit = unitOf("feed", system);
  const heatUnit = unitOf("heat", system);
  const feedTicks =
    system === "metric"
      ? ticks(frame.feedTop, 9).map((mmS) => ({ at: mmS, word: String(Number(mmS.toFixed(2))) }))
      : [1, 1.5, 2, 3, 4, 5, 8, 15].map((s) => ({ at: feedUnit.toCanonical(s), word: String(s) })).filter((tick) => tick.at <= frame.feedTop);
  const heatTicks = ticks(heatUnit.fromCanonical(frame.heatTop), 7).map((value) => ({
    at: heatUnit.toCanonical(value),
    word: String(Number(value.toFixed(2))),
  }));
  const airTicks = [200, 300, 400, 500].map((wireC) => ({ wireC, heat: bareLossWPerM(pair.wire, wireC, pair) })).filter((tick) => tick.heat <= frame.heatTop);
  return (
    <>
      <g fontSize={12} fill="var(--graphite-soft)" className="num">
        {feedTicks.map((tick) => (
          <text key={tick.word} x={px(tick.at)} y={PLOT_MARGIN.top + plotHeight + 17} textAnchor="middle">
            {tick.word}
          </text>
        ))}
        {heatTicks.map((tick) => (
          <text key={tick.word} x={PLOT_MARGIN.left - 8} y={py(tick.at) + 4} textAnchor="end">
            {tick.word}
          </text>
        ))}
        {airTicks.map((tick) => (
          <g key={tick.wireC}>
            <path d={`M${PLOT_MARGIN.left + plotWidth} ${py(tick.heat)}h5`} stroke="var(--graphite-soft)" />
            <text x={PLOT_MARGIN.left + plotWidth + 8} y={py(tick.heat) + 4}>
              {show("temperature", tick.wireC).replace(/ .*/, "°")}
            </text>
          </g>
        ))}
      </g>
      <g fontSize={13} fill="var(--graphite)">
        <text x={PLOT_MARGIN.left + plotWidth / 2} y={height - 6} textAnchor="middle">
          feed, {feedUnit.symbol}
          {system === "inch" ? " (faster to the right)" : ""}
          {plotWidth > 420 ? "; shaded: where each border lies, nine times in ten" : "; shaded: borders in doubt"}
        </text>
        <text transform={`translate(14 ${PLOT_MARGIN.top + plotHeight / 2}) rotate(-90)`} textAnchor="middle">
          heat in the cut, {heatUnit.symbol}
        </text>
        <text transform={`translate(${width - 8} ${PLOT_MARGIN.top + plotHeight / 2}) rotate(-90)`} textAnchor="middle">
          same wire bare in air, {unitOf("temperature", system).symbol}
        </text>
      </g>
    </>
  );
}

/** What does not move while the point does: the regions, their borders' bands, the kerf lines and the axes. Drawn again only when one of its own figures changes. */
export const WindowPicture = memo(function WindowPicture({
  frame,
  width,
  height,
  picture,
  pair,
  acceptedKerfM,
  labelBelow,
}: Scale & { picture: MapPicture | null; pair: CutPair; acceptedKerfM: number /** W/m above which no kerf line carries its label */; labelBelow: number }) {
  const { system, show } = useUnits();
  const clip = useId();
  const { px, py, plotWidth, plotHeight } = scaleOf({ frame, width, height });
  const path = (outline: RegionOutline) => outline.flatMap((polygon) => polygon.map((ring) => `M${pathOf(ring, px, py)}Z`)).join("");
  const kerfLabels: { kerfM: number; x: number; y: number }[] = [];
  for (const { kerfM, line } of picture?.kerfLines ?? []) {
    const place = kerfM < acceptedKerfM * 0.98 ? linePlace(line, frame, pair, acceptedKerfM, labelBelow) : null;
    if (!place) continue;
    const label = { kerfM, x: px(place[0]), y: py(place[1]) + 4 };
    // Where lines crowd, the first label represents its neighbours.
    if (!kerfLabels.some((other) => Math.abs(other.x - label.x) < 76 && Math.abs(other.y - label.y) < 14)) kerfLabels.push(label);
  }
  /** A border's band as one closed path: up along its low side, down along its high side. Past the plot it is cut by the clip. */
  const bandPath = (side: "from" | "to", borders: MapPicture["borders"]) => {
    const place = (end: "low" | "high") => borders.map((row): [number, number] => [Math.min(row[side][end] * 1000, frame.feedTop * 3), row.powerWPerM]);
    return `M${pathOf([...place("low"), ...place("high").reverse()], px, py)}Z`;
  };
  return (
    <svg width={width} height={height} style={{ display: "block", position: "absolute" }}>
      <title>Regions of the cutting window, its kerf lines and axes</title>
      <Hatches />
      <defs>
        <clipPath id={clip}>
          <rect x={PLOT_MARGIN.left} y={PLOT_MARGIN.top} width={plotWidth} height={plotHeight} />
        </clipPath>
      </defs>
      <defs>
        <clipPath id={`${clip}-clean`}>{picture && <path d={path(picture.regions.clean)} clipRule="evenodd" />}</clipPath>
      </defs>
      <g clipPath={`url(#${clip})`}>
        <rect x={PLOT_MARGIN.left} y={PLOT_MARGIN.top} width={plotWidth} height={plotHeight} fill="var(--paper-bright)" />
        {picture &&
          (["drags", "wide", "smokes"] as const).map((verdict) => (
            <path
              key={verdict}
              data-region={verdict}
              d={path(picture.regions[verdict])}
              fill={REGION_LOOK[verdict].fill}
              stroke="var(--graphite-soft)"
              strokeWidth={0.8}
            />
          ))}
        {picture && <path data-region="clean" d={path(picture.regions.clean)} fill="none" stroke="var(--graphite)" strokeWidth={2.2} />}
        {picture?.kerfLines
          .filter((line) => line.kerfM < acceptedKerfM * 0.98)
          .map((line) => (
            <path
              key={line.kerfM}
              clipPath={`url(#${clip}-clean)`}
              d={`M${pathOf(line.line, px, py)}`}
              fill="none"
              stroke="var(--graphite)"
              strokeWidth={0.8}
              strokeDasharray="2 5"
              opacity={0.6}
            />
          ))}
        {picture &&
          (["from", "to"] as const).map((side) => (
            <path key={side} data-band={side} d={bandPath(side, picture.borders)} fill="var(--graphite)" opacity={0.13} />
          ))}
      </g>
      <rect x={PLOT_MARGIN.left} y={PLOT_MARGIN.top} width={plotWidth} height={plotHeight} fill="none" stroke="var(--graphite)" strokeWidth={1} />
      {picture &&
        (["drags", "clean", "wide", "smokes"] as const).map((verdict) => {
          const place = wordPlace(picture.regions[verdict], frame);
          return (
            place && (
              <text
                key={verdict}
                x={px(place.feed)}
                y={py(place.heat) + 5}
                textAnchor="middle"
                fontSize={verdict === "clean" ? 22 : 17}
                fontStyle="italic"
                fill="var(--graphite)"
                stroke="var(--paper)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                {REGION_LOOK[verdict].word}
              </text>
            )
          );
        })}
      {kerfLabels.map(({ kerfM, x: labelX, y: labelY }) => (
        <text
          key={kerfM}
          x={labelX}
          y={labelY}
          textAnchor="middle"
          fontSize={11.5}
          fill="var(--graphite-soft)"
          stroke="var(--paper)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          kerf {show("kerf", kerfM * 1000, system === "metric" ? 1 : 3)}
        </text>
      ))}
      <Axes frame={frame} width={width} height={height} pair={pair} />
    </svg>
  );
});
