import { contours } from "d3-contour";
import { JUDGEMENT } from "@/core/kernel/constants";
import { leastKerfM } from "@/core/physics/cut/cut";
import { type Axis, axisValue, type CutMap, computeCutMap } from "@/core/physics/cut/cutMap";
import { borderBands } from "@/core/physics/cut/uncertainty";
import type { MapJob, MapPicture, RegionOutline } from "./protocol";

/** Heats at which the borders' bands are worked out. */
const BAND_ROWS = 48;

/** Outline of where a field is positive, in feed (mm/s) and heat (W/m). */
function outline(field: Float64Array, heat: Axis, feed: Axis): RegionOutline {
  const shape = contours()
    .size([feed.count, heat.count])
    .smooth(true)
    .contour(field as unknown as number[], 0);
  const place = ([column, row]: [number, number]): [number, number] => [
    // Contour coordinates put a sample in the middle of its cell.
    axisValue(feed, column - 0.5) * 1000,
    axisValue(heat, row - 0.5),
  ];
  return shape.coordinates.map((polygon) => polygon.map((ring) => ring.map((point) => place(point as [number, number]))));
}

/** Signed fields whose zero lines are the borders; each is close to straight across a cell, so the lines come out smooth. */
function fields(map: CutMap, job: MapJob) {
  const cells = map.kerf.length;
  const smokes = new Float64Array(cells);
  const wide = new Float64Array(cells);
  const clean = new Float64Array(cells);
  for (let i = 0; i < cells; i++) {
    const drag = (map.feedRatio[i] as number) - JUDGEMENT.dragsAboveFeedRatio;
    const smoke = ((map.wireC[i] as number) - job.pair.foam.fumeLimitC) / job.pair.foam.fumeLimitC;
    const broad = 1 - job.acceptedKerfM / (map.kerf[i] as number);
    smokes[i] = Math.min(-drag, smoke);
    wide[i] = Math.min(-drag, -smoke, broad);
    clean[i] = Math.min(-drag, -smoke, -broad);
  }
  return { smokes, wide, clean };
}

/** The dragging region: right of a line that the top feeds give row by row, so it needs no contouring. */
function dragRegion(map: CutMap, job: MapJob): RegionOutline {
  const border = Array.from(map.maxFeed, (top, row): [number, number] => [JUDGEMENT.dragsAboveFeedRatio * top * 1000, axisValue(job.heat, row)]);
  const right = Math.max(...border.map(([feed]) => feed), job.feed.to * 1000) * 1.1;
  const [first] = border;
  if (!first) return [];
  return [[[[first[0], 0], ...border, [right, job.heat.to * 1.1], [right, 0], [first[0], 0]]]];
}

/** Solves a map and draws its borders. */
export function drawMap(job: MapJob): MapPicture {
  const started = performance.now();
  const map = computeCutMap(job.pair, job.heat, job.feed, job.acceptedKerfM);
  const solvedMs = performance.now() - started;
  const signed = fields(map, job);
  const draw = (field: Float64Array) => outline(field, job.heat, job.feed);
  const regions = { drags: dragRegion(map, job), smokes: draw(signed.smokes), wide: draw(signed.wide), clean: draw(signed.clean) };
  // Along a row kerf x feed is constant, so a kerf line needs no contouring either.
  const line = (kerfM: number) =>
    Array.from(map.maxFeed, (top, row): [number, number] => [((top * leastKerfM(job.pair)) / kerfM) * 1000, axisValue(job.heat, row)]);
  const kerfLines = job.kerfLinesM.map((kerfM) => ({ kerfM, line: line(kerfM) }));
  const heats = Array.from({ length: BAND_ROWS }, (_, i) => (job.heat.to * (i + 0.25)) / (BAND_ROWS - 1));
  const borders = borderBands(job.pair, heats, job.acceptedKerfM, job.doubts);
  return { regions, kerfLines, borders, solvedMs, elapsedMs: performance.now() - started };
}
