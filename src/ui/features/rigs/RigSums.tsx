"use client";
import { useEffect, useRef } from "react";
import type { RigCell, RigCurve, RigEvaluation, RigFigure, RigTable, Show } from "@/core/rigs/record";
import { unitOf } from "@/core/units/units";
import { Chart, chartInk } from "../../kit/charts";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

export const cellWords = (cell: RigCell, show: Show) => (typeof cell === "string" ? cell : show(cell.quantity, cell.value, cell.decimals));

/** What comes out, figure by figure, each with its why. */
export function RigFigures({ figures, show, inputs }: { figures: readonly RigFigure[]; show: Show; inputs: string }) {
  return (
    <dl className="rig-figures" data-testid="rig-figures">
      {figures.map(({ id, label, quantity, value, decimals, why }) => (
        <div key={id} data-figure={id}>
          <dt>
            {label} {why && <Why of={label.toLowerCase()} relation={why} inputs={inputs} />}
          </dt>
          <dd className="num">{quantity && typeof value === "number" ? show(quantity, value, decimals) : value}</dd>
        </div>
      ))}
    </dl>
  );
}

export function RigTableView({ table, show }: { table: RigTable; show: Show }) {
  return (
    <table className="plain-table" data-table={table.id}>
      <caption style={{ textAlign: "left", fontWeight: 700 }}>{table.title}</caption>
      <thead>
        <tr>
          {table.columns.map((column, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
            <th scope="col" key={i}>
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map((row, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
          <tr key={i}>
            {row.map((cell, k) =>
              k === 0 ? (
                // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                <th scope="row" key={k} style={{ fontWeight: 400 }}>
                  {cellWords(cell, show)}
                </th>
              ) : (
                // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                <td key={k} className={typeof cell === "string" ? "" : "num"}>
                  {cellWords(cell, show)}
                </td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A curve of the answer, in the units people read. */
function CurveView({ curve }: { curve: RigCurve }) {
  const { system } = useUnits();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const ink = chartInk(element);
    const x = curve.x.quantity ? unitOf(curve.x.quantity, system) : null;
    const y = unitOf(curve.y.quantity, system);
    const axis = (title: string) => ({
      type: "linear" as const,
      title: { display: true, text: title, color: ink.soft },
      ticks: { color: ink.soft },
      grid: { color: ink.line },
    });
    const chart = new Chart(element, {
      type: "line",
      data: {
        datasets: [
          {
            data: curve.points.map(([px, py]) => ({ x: x ? x.fromCanonical(px) : px, y: y.fromCanonical(py) })),
            borderColor: ink.ember,
            borderWidth: 2,
            pointRadius: 0,
          },
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        parsing: false,
        plugins: { legend: { display: false } },
        scales: { x: axis(x ? `${curve.x.label}, ${x.symbol}` : curve.x.label), y: axis(`${curve.y.label}, ${y.symbol}`) },
      },
    });
    return () => chart.destroy();
  }, [curve, system]);
  const values = curve.points.map(([, value]) => value);
  const { show } = useUnits();
  return (
    <figure className="rig-curve" data-curve={curve.id}>
      <figcaption>{curve.title}</figcaption>
      <div>
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${curve.title}: ${curve.y.label} from ${show(curve.y.quantity, Math.min(...values))} to ${show(curve.y.quantity, Math.max(...values))}`}
        />
      </div>
    </figure>
  );
}

/** Curves and tables of a rig's answer. */
export function RigSums({ evaluation, show }: { evaluation: RigEvaluation; show: Show }) {
  return (
    <div className="rig-sums">
      {(evaluation.curves ?? [])
        .filter(({ points }) => points.length > 1)
        .map((curve) => (
          <CurveView key={curve.id} curve={curve} />
        ))}
      {(evaluation.tables ?? [])
        .filter(({ rows }) => rows.length > 0)
        .map((table) => (
          <RigTableView key={table.id} table={table} show={show} />
        ))}
    </div>
  );
}
