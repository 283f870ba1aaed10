"use client";
import { type KeyboardEvent, memo, type ReactNode, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { HeatCourse } from "@/core/cutters/solve/cutBands";
import { noCut } from "@/core/cutters/solve/describe";
import { type DesignEvaluation, liveMm } from "@/core/cutters/solve/evaluate";
import { tensionRecord } from "@/core/physics/mechanics/devices";
import { supplyRecordOf } from "@/core/physics/power/supplies";
import { useSize } from "../kit/useSize";
import { useUnits } from "../kit/useUnits";
import { FoamPattern } from "./FoamPattern";
import { heatColour } from "./heatColour";
import type { PartId } from "./partId";
import { supplyWords, tensionWords } from "./words";

const HEIGHT = 100;
const WIRE_Y = 58;
/** Room for the supply and the device at the ends, CSS pixels, and what a strip narrower than NARROW makes of it. */
const SIDE = 128;
const NARROW = 640;
const NARROW_SIDE = 70;
/** The bow is drawn this many times too big, the first that makes it plain to see without leaving the strip. */
const BOW_STEPS = [100, 50, 20, 10, 5, 2, 1] as const;
const MOST_BOW_PX = 30;
const MOST_GROWTH_PX = 26;

function Part({ part, label, onPick, children }: { part: PartId; label: string; onPick: ((part: PartId) => void) | null; children: ReactNode }) {
  if (!onPick) return <g>{children}</g>;
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    onPick(part);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: an HTML button cannot be inside an SVG drawing
    <g role="button" tabIndex={0} aria-label={label} onClick={() => onPick(part)} onKeyDown={onKeyDown} style={{ cursor: "pointer" }}>
      {children}
    </g>
  );
}

function SupplyPlate({ lines, narrow }: { lines: [string, string]; narrow: boolean }) {
  const [x, wide, size] = narrow ? [2, 62, 11.5] : [10, 86, 13];
  return (
    <g>
      <rect x={x} y={22} width={wide} height={52} rx={3} fill="var(--paper-bright)" stroke="var(--graphite)" strokeWidth={1.5} />
      <path d={`M${x + 8} 30h${wide - 16}`} stroke="var(--line)" />
      {lines.map((line, i) => (
        <text
          key={line}
          x={x + wide / 2}
          y={47 + i * 17}
          textAnchor="middle"
          fontSize={size}
          // A plate is as wide as it is: longer figures close up.
          textLength={line.length * size * 0.62 > wide - 6 ? wide - 6 : undefined}
          lengthAdjust="spacingAndGlyphs"
          className="num"
          fill="var(--graphite)"
        >
          {`${line} `}
        </text>
      ))}
    </g>
  );
}

/** Tension device at the right end, drawn from x to the strip's edge. */
function Device({ device, x }: { device: Design["tension"]["device"]; x: number }) {
  const stroke = { fill: "none", stroke: "var(--cool)", strokeWidth: 2.2, strokeLinejoin: "round", strokeLinecap: "round" } as const;
  const y = WIRE_Y;
  switch (device) {
    case "spring": {
      const coils = Array(9).fill("l3 -9 l3 9").join(" ");
      return <path d={`M${x} ${y} h8 ${coils} h10 M${x + 72} ${y - 16} v32`} {...stroke} />;
    }
    case "weight":
      return (
        <g>
          <circle cx={x + 24} cy={y + 9} r={9} {...stroke} />
          <path d={`M${x} ${y} h24 a9 9 0 0 1 9 9 v12`} {...stroke} />
          <path d={`M${x + 21} ${y + 21} h24 l5 24 h-34 z`} {...stroke} fill="var(--cool-soft)" />
        </g>
      );
    case "arm":
      return <path d={`M${x} ${y} h14 M${x + 14} ${y - 34} q14 40 2 82`} {...stroke} strokeWidth={4} />;
    case "turnbuckle":
      return <path d={`M${x} ${y} h10 M${x + 10} ${y - 7} h40 v14 h-40 z M${x + 50} ${y} h18 M${x + 68} ${y - 16} v32`} {...stroke} />;
    case "band":
      return <path d={`M${x} ${y} q10 -12 34 -8 t34 8 q-10 12 -34 8 t-34 -8 M${x + 68} ${y - 16} v32`} {...stroke} />;
  }
}

/** Colours along the wire, as many as the eye can tell apart. Shares of the live wire. */
function heatStops(positionM: Float64Array, temperatureC: Float64Array): [number, string][] {
  const n = positionM.length;
  const every = Math.max(1, Math.round(n / 54));
  return Array.from({ length: Math.ceil(n / every) }, (_, k) => [(k * every + 0.5) / n, heatColour(temperatureC[k * every] as number)]);
}

/** The wire's colours as a gradient along it; past a clip it is cold. */
const HeatGradient = memo(function HeatGradient({
  id,
  along,
  bareC,
  from,
  to,
  clipped,
}: {
  id: string;
  along: HeatCourse["along"];
  bareC: number;
  from: number;
  to: number;
  clipped: boolean;
}) {
  const bare = heatColour(bareC);
  // Without a profile (a wire that would melt) the bare temperature represents all of it.
  const stops = useMemo<[number, string][]>(
    () =>
      along
        ? heatStops(along.positionM, along.temperatureC)
        : [
            [0, bare],
            [1, bare],
          ],
    [along, bare],
  );
  return (
    <linearGradient id={id} gradientUnits="userSpaceOnUse" x1={from} x2={to} y1={0} y2={0}>
      {stops.map(([share, colour]) => (
        <stop key={share} offset={share} stopColor={colour} />
      ))}
      {clipped && <stop offset={1} style={{ stopColor: "var(--cold-wire)" }} />}
    </linearGradient>
  );
});

/**
 * The open design's wire between its posts, to scale along its length, with the foam on it: colour by temperature, bow exaggerated and
 * labelled so. Drawing coordinates are CSS pixels of the strip; `scale` is pixels per millimetre along the wire.
 */
export function Rod({
  design,
  evaluation,
  course,
  onPick,
  id = "rod",
  grown = false,
  mostBowMm,
  label = "The rod: this design's wire",
}: {
  /** Sets this rod apart where several are on one page. */
  label?: string;
  /** Bow of the largest of several rods, mm: all are then drawn with one exaggeration. */
  mostBowMm?: number;
  /** Shows the wire's growth when hot at its right end, and the device giving way to it. */
  grown?: boolean;
  /** Two rods on one page need two. */
  id?: string;
  design: Design;
  evaluation: DesignEvaluation;
  course: Pick<HeatCourse, "along">;
  /** Where a part is set; null for a rod that is only looked at. */
  onPick: ((part: PartId) => void) | null;
}) {
  const { show } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 1270, height: HEIGHT });
  const { circuit, lagM } = evaluation;
  const { along } = course;
  const narrow = width < NARROW;
  const side = narrow ? NARROW_SIDE : SIDE;
  const plateRight = narrow ? 64 : 96;
  const left = side;
  const right = Math.max(left + 80, width - side);
  const scale = (right - left) / design.wire.length_mm;
  const foamPx = Math.min(design.job.width_mm, design.wire.length_mm) * scale;
  const foamLeft = (left + left + liveMm(design) * scale - foamPx) / 2;
  const foamHeight = Math.min(Math.max(design.job.thickness_mm * scale, 10), 66);
  const none = noCut(evaluation);
  const lagPx = none === null ? (lagM ?? 0) * 1000 * scale : 0;
  const largestPx = Math.max(lagPx, (mostBowMm ?? 0) * scale);
  const times = BOW_STEPS.find((step) => largestPx * step <= MOST_BOW_PX) ?? 1;
  const bow = Math.min(lagPx * times, MOST_BOW_PX);
  const cold = evaluation.verdict === "overload" && supplyRecordOf(design.supply).record.cutsOut;
  const air = heatColour(circuit.wireC);
  const growthPx = evaluation.tension.growthM * 1000 * scale;
  const growthTimes = BOW_STEPS.find((step) => growthPx * step <= MOST_GROWTH_PX) ?? 1;
  const growth = grown && !narrow ? Math.min(MOST_GROWTH_PX, growthPx * growthTimes) : 0;
  const liveRight = left + liveMm(design) * scale;
  const foamWords = `${evaluation.pair.foam.name}, ${show("length", design.job.width_mm)}`;
  const strands = evaluation.wire.strands > 1 ? `${evaluation.wire.strands}-strand ` : "";
  const wireWords = `${show("diameter", evaluation.wire.diameterM * 1000)} ${strands}${evaluation.wire.alloy.shortName}`;
  const bowWords =
    none !== null
      ? `no bow: ${none}`
      : lagM === null
        ? "wire cannot keep up: no bow figure"
        : `bow ${show("kerf", lagM * 1000)}, drawn ${times === 1 ? "to scale" : `${times} times too big`}`;
  const [plateTop, plateBottom] = supplyWords(design, show);

  return (
    <section aria-label={label} style={{ borderBottom: "1px solid var(--line)", background: "var(--paper-bright)" }}>
      <div ref={ref} style={{ width: "100%", height: HEIGHT }}>
        <svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} style={{ display: "block" }}>
          <title>Wire between its posts, to scale along its length</title>
          <defs>
            <FoamPattern family={design.job.foam.family} id={`${id}-foam`} />
            <HeatGradient id={`${id}-heat`} along={along} bareC={along ? 0 : circuit.wireC} from={left} to={liveRight} clipped={liveRight < right - 1} />
          </defs>
          <Part part="foam" label={`Foam block: ${evaluation.pair.foam.name}, ${show("length", design.job.width_mm)} wide. Change it.`} onPick={onPick}>
            {/* However thin the foam, a thumb finds it above and below the wire. */}
            <rect x={foamLeft} y={2} width={foamPx} height={HEIGHT - 6} fill="transparent" />
            <rect x={foamLeft} y={WIRE_Y - foamHeight / 2} width={foamPx} height={foamHeight} fill={`url(#${id}-foam)`} stroke="var(--graphite-soft)" />
            {!narrow && (
              <text x={foamLeft + foamPx / 2} y={14} textAnchor="middle" fontSize={13} fill="var(--graphite)">
                {foamWords}
              </text>
            )}
          </Part>
          <Part part="wire" label={`Wire: ${wireWords}. Change it.`} onPick={onPick}>
            <path d={`M${left} ${WIRE_Y} Q${(left + right) / 2} ${WIRE_Y + 2 * bow} ${right} ${WIRE_Y}`} fill="none" stroke="transparent" strokeWidth={24} />
            <path
              d={`M${left} ${WIRE_Y} Q${(left + right) / 2} ${WIRE_Y + 2 * bow} ${right} ${WIRE_Y + (bow === 0 ? 0.01 : 0)}`}
              fill="none"
              stroke={cold ? "var(--cold-wire)" : `url(#${id}-heat)`}
              strokeWidth={3}
              strokeDasharray={cold ? "7 5" : undefined}
              strokeLinecap="round"
            />
          </Part>
          <Part part="supply" label={`Supply: ${plateTop} ${plateBottom}. Change it.`} onPick={onPick}>
            <SupplyPlate lines={[plateTop, plateBottom]} narrow={narrow} />
            <path
              d={narrow ? `M${plateRight} ${WIRE_Y} H${left}` : `M${plateRight} 40 C${left - 16} 40 ${left - 20} ${WIRE_Y} ${left} ${WIRE_Y}`}
              fill="none"
              stroke="var(--graphite)"
              strokeWidth={1.6}
            />
            <path d={`M${plateRight - 4} 74 V96 H${right - 4} V84`} fill="none" stroke="var(--graphite)" strokeWidth={0.8} opacity={0.35} />
          </Part>
          <Part part="tension" label={`Tension: ${tensionWords(design, show)}. Change it.`} onPick={onPick}>
            <rect x={right} y={4} width={side} height={HEIGHT - 8} fill="transparent" />
            {/* The device gives as much as the wire grows: a spring shortens, the rest moves along. */}
            <g transform={narrow ? `translate(${right + 4} ${WIRE_Y}) scale(0.75) translate(${-right - 8} ${-WIRE_Y})` : `translate(${growth} 0)`}>
              <g
                transform={
                  tensionRecord(design.tension.device).stretches
                    ? `translate(${right + 8} 0) scale(${(72 - growth) / 72} 1) translate(${-right - 8} 0)`
                    : undefined
                }
              >
                <Device device={design.tension.device} x={right + 8} />
              </g>
            </g>
          </Part>
          {grown && !narrow && evaluation.tension.growthM > 0 && (
            <g>
              <path d={`M${right} ${WIRE_Y} h${growth + 8}`} stroke={air} strokeWidth={3} />
              <text x={right + side - 8} y={HEIGHT - 4} textAnchor="end" fontSize={11.5} fill="var(--graphite-soft)">
                hot: +{show("kerf", evaluation.tension.growthM * 1000)}, ×{growthTimes}
              </text>
            </g>
          )}
          {liveRight < right - 1 && <path d={`M${liveRight - 5} ${WIRE_Y - 16} h10 l-5 14 z`} fill="var(--graphite)" />}
          <path d={`M${left} 30 V84 M${right} 30 V84`} stroke="var(--graphite)" strokeWidth={5} strokeLinecap="round" />
          <path d={`M${left} ${WIRE_Y} h0.1 M${right} ${WIRE_Y} h0.1`} stroke="var(--paper-bright)" strokeWidth={6} strokeLinecap="round" />
        </svg>
      </div>
      <p className="rod-caption">
        {narrow && `${foamWords} of foam; `}
        {wireWords}, {show("length", design.wire.length_mm)} between posts; {bowWords}
        {grown && narrow && evaluation.tension.growthM > 0 && `; hot it is ${show("kerf", evaluation.tension.growthM * 1000)} longer`}
      </p>
    </section>
  );
}
