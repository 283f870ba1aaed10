"use client";
import Slider from "@mui/material/Slider";
import { useEffect, useRef, useState } from "react";
import { unitOf } from "@/core/units/units";
import { Chart, chartInk } from "../../kit/charts";
import { useUnits } from "../../kit/useUnits";
import type { Bench } from "./useBench";

const UPDATE_EVERY_MS = 400;
/** Seconds of trace that are shown while it runs. */
const WINDOW_S = 40;
/** Points drawn of each trace: more cannot be seen at this size. */
const MOST_POINTS = 200;

/** Force on the wire and temperatures over time; pause and read any moment. */
export function BenchTraces({ bench, still }: { bench: Bench; still: boolean }) {
  const { show, system } = useUnits();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [readAt, setReadAt] = useState<number | null>(null);
  const [range, setRange] = useState<[number, number]>([0, 1]);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    let ink = chartInk(element);
    const [force, degrees] = [unitOf("force", system), unitOf("temperature", system)];
    const dataset = (label: string, colour: string, axis: string, dash: number[] = []) => ({
      label,
      data: [] as { x: number; y: number }[],
      borderColor: colour,
      borderWidth: 1.8,
      borderDash: dash,
      pointRadius: 0,
      yAxisID: axis,
    });
    const chart = new Chart(element, {
      type: "line",
      data: {
        datasets: [
          dataset(`force, ${force.symbol}`, ink.cool, "force"),
          dataset(`in foam, ${degrees.symbol}`, ink.ember, "heat"),
          dataset(`in air, ${degrees.symbol}`, ink.amber, "heat", [5, 4]),
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        parsing: false,
        events: [],
        plugins: { legend: { labels: { boxWidth: 22, boxHeight: 1, font: { size: 11 }, color: ink.soft } }, tooltip: { enabled: false } },
        scales: {
          x: {
            type: "linear",
            title: { display: true, text: "s", font: { size: 11 } },
            ticks: { maxTicksLimit: 6, font: { size: 11 }, callback: (value) => String(Math.round(Number(value))) },
          },
          force: { position: "left", beginAtZero: true, suggestedMax: 1, ticks: { maxTicksLimit: 4, font: { size: 11 } } },
          heat: { position: "right", beginAtZero: true, suggestedMax: 200, grid: { drawOnChartArea: false }, ticks: { maxTicksLimit: 4, font: { size: 11 } } },
        },
      },
    });
    let last = 0;
    const remove = bench.addPainter(({ traces }, now) => {
      if (now - last < UPDATE_EVERY_MS) return;
      last = now;
      const end = traces.timeS.at(-1) ?? 0;
      const start = Math.max(0, end - WINDOW_S);
      let first = traces.timeS.length;
      while (first > 0 && (traces.timeS[first - 1] as number) >= start) first -= 1;
      const stride = Math.max(1, Math.ceil((traces.timeS.length - first) / MOST_POINTS));
      const points = (values: readonly number[], shown: (canonical: number) => number) => {
        const out: { x: number; y: number }[] = [];
        for (let i = first; i < traces.timeS.length; i += stride) out.push({ x: traces.timeS[i] as number, y: shown(values[i] as number) });
        return out;
      };
      for (const [k, values] of [traces.forceN, traces.foamC, traces.airC].entries()) {
        const row = chart.data.datasets[k];
        if (row) row.data = points(values, (k === 0 ? force : degrees).fromCanonical);
      }
      ink = chartInk(element);
      for (const [k, colour] of [ink.cool, ink.ember, ink.amber].entries()) {
        const row = chart.data.datasets[k];
        if (row) row.borderColor = colour;
      }
      for (const scale of Object.values(chart.options.scales ?? {})) {
        if (scale?.ticks) scale.ticks.color = ink.soft;
        if (scale?.grid) scale.grid.color = ink.line;
      }
      if (chart.options.scales?.x) Object.assign(chart.options.scales.x, { min: start, max: Math.max(start + 5, end) });
      chart.update("none");
      setRange((old) => (old[1] === end ? old : [start, end]));
    });
    return () => {
      remove();
      chart.destroy();
    };
  }, [bench.addPainter, system]);
  useEffect(() => {
    if (!still) setReadAt(null);
  }, [still]);
  const { traces } = bench.scene.current;
  const at = readAt === null ? null : traces.timeS.findIndex((time) => time >= readAt);
  const read = (values: readonly number[]) => values[at ?? 0] ?? 0;
  return (
    <figure style={{ margin: 0, minWidth: 0 }}>
      <figcaption className="bench-caption">force and temperatures{still ? ": move the mark to read" : "; pause (P) to read"}</figcaption>
      <div style={{ height: still ? 136 : 170, position: "relative" }}>
        <canvas ref={canvas} role="img" aria-label="Force and temperatures over time" />
      </div>
      {still && range[1] > range[0] && (
        <div style={{ display: "flex", alignItems: "center", gap: 14, height: 34 }}>
          <Slider
            size="small"
            aria-label="Moment of the traces"
            min={range[0]}
            max={range[1]}
            step={0.1}
            value={readAt ?? range[1]}
            getAriaValueText={(value) => `${value.toFixed(1)} s`}
            onChange={(_, value) => setReadAt(value as number)}
          />
          <output className="num" data-figure="trace-reading" style={{ fontSize: 13, whiteSpace: "nowrap" }}>
            {at === null || at < 0
              ? "move the mark"
              : `${(readAt ?? 0).toFixed(1)} s: ${show("force", read(traces.forceN), 2)}, ${show("temperature", read(traces.foamC))}`}
          </output>
        </div>
      )}
    </figure>
  );
}
