// Speeds of shapes, offsets and drawings that come in; part of npm run bench.
import Coordinate from "jsts/org/locationtech/jts/geom/Coordinate.js";
import GeometryFactory from "jsts/org/locationtech/jts/geom/GeometryFactory.js";
import BufferOp from "jsts/org/locationtech/jts/operation/buffer/BufferOp.js";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { offset } from "@/core/geometry/offset";
import { type Point, signedArea } from "@/core/geometry/points";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { evaluatePlan } from "@/core/plans/evaluate";
import { readDxf } from "@/core/plans/imports/dxf";
import { medianOf, say, timed } from "./say";

/** An outline of 2,000 points that is no circle: a rounded star. */
const outline = Array.from({ length: 2000 }, (_, i): Point => {
  const angle = (2 * Math.PI * i) / 2000;
  const radius = 150 + 20 * Math.cos(5 * angle);
  return [radius * Math.cos(angle), radius * Math.sin(angle)];
});

export function geometryBench(): void {
  const factory = new GeometryFactory();
  const polygon = factory.createPolygon(factory.createLinearRing([...outline, outline[0] as Point].map(([x, y]) => new Coordinate(x, y))), []);
  const ours = offset([{ outline, holes: [] }], 0.4)[0]?.outline ?? [];
  const theirs = BufferOp.bufferOp(polygon, 0.4, 16).getArea();
  if (Math.abs(Math.abs(signedArea(ours)) / theirs - 1) > 1e-5) throw new Error("the two packages differ");
  const shipped = medianOf(timed(60, (i) => offset([{ outline, holes: [] }], 0.3 + i / 200)));
  const other = medianOf(timed(20, (i) => BufferOp.bufferOp(polygon, 0.3 + i / 200, 16)));
  say(
    "compensation of a 2,000-point outline, set off and thinned",
    `${shipped.toFixed(1)} ms; a second geometry package ${other.toFixed(1)} ms: ${(other / shipped).toFixed(1)} times as long`,
  );
  const [fin] = DEMO_PLANS;
  const [bow] = DEMO_CUTTERS;
  if (!fin || !bow) throw new Error("no demo");
  const dragged = timed(60, (i) => evaluatePlan({ ...fin, root: { ...fin.root, chord_mm: 300 + i } }, bow, false));
  say(
    "tail fin answered again as its chord is dragged: templates, kerfs and blank",
    `${medianOf(dragged).toFixed(1)} ms, 95th percentile ${dragged[Math.floor(dragged.length * 0.95)]?.toFixed(1)} ms`,
  );
  say(
    "  with what is lost at noses and corners",
    `${medianOf(timed(20, (i) => evaluatePlan({ ...fin, root: { ...fin.root, chord_mm: 300 + i } }, bow))).toFixed(1)} ms`,
  );
  // A drawing of 100,000 points: a hundred closed polylines of a thousand vertices, about 10 MB.
  const polyline = (k: number) =>
    `0\nLWPOLYLINE\n8\n0\n90\n1000\n70\n1\n${Array.from({ length: 1000 }, (_, i) => {
      const angle = (2 * Math.PI * i) / 1000;
      const figure = (value: number) => value.toFixed(30);
      return `10\n${figure((k % 10) * 100 + 40 * Math.cos(angle))}\n20\n${figure(Math.floor(k / 10) * 100 + 40 * Math.sin(angle))}\n`;
    }).join("")}`;
  const text = `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${Array.from({ length: 100 }, (_, k) => polyline(k)).join("")}0\nENDSEC\n0\nEOF\n`;
  const started = performance.now();
  const { regions } = readDxf(text, undefined, 0.05);
  if (regions.length !== 100) throw new Error(`${regions.length} of 100 came in`);
  say(`exchange drawing of ${(text.length / 1e6).toFixed(1)} MB and 100,000 points read`, `${((performance.now() - started) / 1000).toFixed(2)} s`);
}
