"use client";
import { useEffect, useRef } from "react";
import type { CutFace, TestCut } from "@/core/log/entries";
import { FACE_WORDS, isGoodFace } from "@/core/log/faces";
import { formatNumber, unitOf } from "@/core/units/units";
import { Chart, chartInk } from "../../kit/charts";
import { useUnits } from "../../kit/useUnits";

/** A face's mark: distinguished by shape, not by colour. */
const MARKS: Readonly<Record<CutFace, string>> = {
  matt: "circle",
  hairs: "dash",
  glossy: "triangle",
  ridged: "crossRot",
  grooved: "star",
  hooked: "cross",
  "burnt-end": "rectRot",
  tapered: "rect",
  "thin-middle": "rectRounded",
  twisted: "line",
};

export type Against = "kerf" | "feed";

/** Setting against outcome: heat of each test cut against its kerf or its feed, marked by how the face looked. */
export function OutcomeChart({ cuts, against }: { cuts: readonly TestCut[]; against: Against }) {
  const { system, show } = useUnits();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const ink = chartInk(element);
    const heat = unitOf("heat", system);
    const other = unitOf(against, system);
    const faces = [...new Set(cuts.map((cut) => cut.face))];
    const datasets = faces.map((face) => ({
      label: FACE_WORDS[face].name,
      pointStyle: MARKS[face],
      radius: 7,
      borderWidth: 2,
      borderColor: isGoodFace(face) ? ink.cool : ink.ember,
      backgroundColor: isGoodFace(face) ? ink.cool : "transparent",
      data: cuts.flatMap((cut) => {
        const y = against === "kerf" ? cut.kerf_mm : cut.feed_mm_s;
        return cut.face === face && cut.heat_W_per_m !== undefined && y !== undefined
          ? [{ x: heat.fromCanonical(cut.heat_W_per_m), y: other.fromCanonical(y) }]
          : [];
      }),
    }));
    const axis = (title: string) => ({
      type: "linear" as const,
      beginAtZero: true,
      title: { display: true, text: title, color: ink.soft },
      ticks: { color: ink.soft },
      grid: { color: ink.line },
    });
    const chart = new Chart(element, {
      type: "scatter",
      data: { datasets: datasets as never },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        plugins: { legend: { labels: { usePointStyle: true, color: ink.soft } }, tooltip: { enabled: true } },
        scales: { x: axis(`heat in the cut, ${heat.symbol}`), y: axis(`${against}, ${other.symbol}`) },
      },
    });
    return () => chart.destroy();
  }, [cuts, against, system]);
  const plotted = cuts.filter((cut) => cut.heat_W_per_m !== undefined && (against === "feed" || cut.kerf_mm !== undefined));
  return (
    <figure style={{ margin: 0 }}>
      <div style={{ height: 230, position: "relative" }}>
        <canvas ref={canvas} role="img" aria-label={`Heat against ${against} of ${plotted.length} test cuts; the table below the chart says the same`} />
      </div>
      <table className="visually-hidden">
        <caption>Heat against {against}</caption>
        <tbody>
          {plotted.map((cut) => (
            <tr key={cut.at}>
              <td>{show("heat", cut.heat_W_per_m ?? 0)}</td>
              <td>{formatNumber(against, against === "kerf" ? (cut.kerf_mm ?? 0) : cut.feed_mm_s, system)}</td>
              <td>{FACE_WORDS[cut.face].name}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}
