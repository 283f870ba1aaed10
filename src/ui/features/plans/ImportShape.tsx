"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { Region } from "@/core/geometry/points";
import { boundsOf } from "@/core/geometry/points";
import { type DrawingUnit, type Imported, MAX_DRAWING_CHARACTERS, noseWords } from "@/core/plans/imports/imported";
import type { EndShape } from "@/core/plans/shapes";
import { EngineClient } from "@/workers/clients";
import type { DrawingJob } from "@/workers/drawings/protocol";
import { Superseded } from "@/workers/kit/client";
import { FileButton } from "../../kit/FileButton";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

const FORMATS: Readonly<Record<string, DrawingJob["format"]>> = { svg: "svg", dxf: "dxf", dat: "coordinates", txt: "coordinates", cor: "coordinates" };
const UNITS: readonly DrawingUnit[] = ["mm", "cm", "in", "px"];
const GAP_MM = 0.05;
const SHOWN = 12;

const pathOf = ({ outline, holes }: Region) =>
  [outline, ...holes].map((line) => `M${line.map(([x, y]) => `${x.toFixed(2)} ${(-y).toFixed(2)}`).join("L")}Z`).join("");

/** Pieces of a drawing, to scale within their tile. */
function Piece({ regions, label }: { regions: readonly Region[]; label: string }) {
  const { minX, minY, maxX, maxY } = boundsOf(regions.flatMap(({ outline }) => outline));
  return (
    <svg viewBox={`${minX} ${-maxY} ${maxX - minX} ${maxY - minY}`} width={96} height={64} role="img" aria-label={label}>
      <title>{label}</title>
      <path
        d={regions.map(pathOf).join("")}
        fill="var(--paper-bright)"
        stroke="var(--graphite)"
        strokeWidth={1.4}
        vectorEffect="non-scaling-stroke"
        fillRule="evenodd"
      />
    </svg>
  );
}

/** A drawing, or one of its pieces, as a shape that begins at 0, 0. */
function shapeOf(regions: readonly Region[]): EndShape {
  const { minX, minY } = boundsOf(regions.flatMap(({ outline }) => outline));
  const moved = (line: Region["outline"]) => line.map(([x, y]) => [x - minX, y - minY] as const);
  const [main, ...islands] = regions;
  const holes = regions.flatMap((region) => region.holes);
  return {
    kind: "points",
    points_mm: moved(main?.outline ?? []) as [number, number][],
    ...(holes.length > 0 ? { holes_mm: holes.map(moved) as [number, number][][] } : {}),
    ...(islands.length > 0 ? { islands_mm: islands.map(({ outline }) => moved(outline)) as [number, number][][] } : {}),
  };
}

/** A share of a drawing in whole per cent, never 0 for something. */
const percent = (share: number) => `${Math.max(1, Math.round(100 * share))} %`;

/** A drawing from a file: read in a worker, shown with what was joined, dropped and not read, and taken as a whole or piece by piece. */
export function ImportShape({ onTake }: { onTake: (shape: EndShape, widthMm: number | undefined) => void }) {
  const { show } = useUnits();
  const [read, setRead] = useState<{ name: string; job: DrawingJob; found: Imported } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [far, setFar] = useState<{ share: number; doing: string } | null>(null);
  const [calling, setCalling] = useState<AbortController | null>(null);
  const run = async (name: string, job: DrawingJob) => {
    const stop = new AbortController();
    const client = new EngineClient("drawing");
    setCalling(stop);
    setFault(null);
    try {
      setRead({ name, job, found: await client.submit(job, { signal: stop.signal, onProgress: (share, doing) => setFar({ share, doing }) }) });
    } catch (error) {
      setRead(null);
      if (!(error instanceof Superseded)) setFault((error as Error).message);
    } finally {
      client.close();
      setCalling(null);
      setFar(null);
    }
  };
  const open = async (chosen: File) => {
    const format = FORMATS[chosen.name.split(".").at(-1)?.toLowerCase() ?? ""];
    if (!format) {
      setFault(`${chosen.name} is none of .svg, .dxf, .dat or .txt`);
      return;
    }
    if (chosen.size > 4 * MAX_DRAWING_CHARACTERS) {
      setFault(`${chosen.name} is too large: ${MAX_DRAWING_CHARACTERS} characters at most`);
      return;
    }
    await run(chosen.name, { format, text: await chosen.text(), gapMm: GAP_MM });
  };
  const take = (regions: readonly Region[]) => {
    const { minX, maxX } = boundsOf(regions.flatMap(({ outline }) => outline));
    onTake(shapeOf(regions), read?.job.format === "coordinates" ? undefined : maxX - minX);
  };
  const all = read?.found.regions ?? [];
  const pieces = read?.found.regions.slice(0, SHOWN) ?? [];
  return (
    <section aria-label="A drawing from a file" className="plan-import">
      <FileButton variant="outlined" label="Drawing file" accept=".svg,.dxf,.dat,.txt,.cor" onFile={(chosen) => void open(chosen)}>
        Open a drawing
      </FileButton>{" "}
      {calling && (
        <>
          <progress value={far?.share ?? 0} max={1} aria-label="How much of the drawing is read" /> <span aria-live="polite">{far?.doing ?? "opening"}…</span>{" "}
          <Button onClick={() => calling.abort()}>Stop</Button>
        </>
      )}
      <span style={{ fontSize: 14 }}> SVG, DXF or section coordinates</span>
      {fault && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {fault}
        </Alert>
      )}
      {read && (
        <div role="status">
          <p style={{ margin: "8px 0 4px" }}>
            <strong>{read.name}</strong>: {all.length === 1 ? "1 piece." : `${all.length} pieces. Take all of them as one plan, or one:`}
          </p>
          {read.found.warnings.map(({ code, message, share }) => (
            <Alert key={`${code} ${message}`} severity="warning" sx={{ mb: 0.5 }}>
              {message}. It concerns {percent(share)} of the drawing.
            </Alert>
          ))}
          <TileRow>
            {all.length > 1 && (
              <Tile chosen={false} onClick={() => take(all)}>
                <Piece regions={all} label="the whole drawing" />
                <br />
                All {all.length} pieces
              </Tile>
            )}
            {pieces.map((region) => {
              const { minX, minY, maxX, maxY } = boundsOf(region.outline);
              return (
                <Tile key={`${minX} ${minY} ${maxX} ${maxY}`} chosen={false} onClick={() => take([region])}>
                  <Piece regions={[region]} label="a piece of the drawing" />
                  <br />
                  <span className="num" style={{ fontSize: 13 }}>
                    {show("length", maxX - minX)} × {show("length", maxY - minY)}
                  </span>
                  <br />
                  <span style={{ fontSize: 13 }}>{noseWords(region)}</span>
                </Tile>
              );
            })}
          </TileRow>
          <ul style={{ margin: "6px 0", paddingLeft: 18, fontSize: 14 }}>
            {read.found.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
            {read.found.notes.length === 0 && <li>nothing had to be joined or dropped</li>}
          </ul>
          {read.job.format !== "coordinates" && (
            <TileRow>
              <span style={{ alignSelf: "center", fontSize: 14 }}>Where the file does not say, one is</span>
              {UNITS.map((unit) => (
                <Tile key={unit} chosen={read.job.unit === unit} onClick={() => void run(read.name, { ...read.job, unit })}>
                  {unit}
                </Tile>
              ))}
            </TileRow>
          )}
        </div>
      )}
    </section>
  );
}
