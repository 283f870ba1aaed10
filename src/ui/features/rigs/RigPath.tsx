"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import { boundsOf, distance, type Line, lerp, lineLength, type Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { fileStem } from "@/core/kernel/fileStem";
import { readProgram } from "@/core/motion/program/reader";
import { deviationOf } from "@/core/physics/string/traceError";
import type { RigSurroundings } from "@/core/rigs/around";
import { endWords, type RigProgram } from "@/core/rigs/evaluation";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { type FrameJob, frameJob, machineOf } from "@/core/rigs/frame/path";
import type { Show } from "@/core/rigs/record";
import { downloadText } from "../../kit/download";
import { FileButton } from "../../kit/FileButton";
import { useSize } from "../../kit/useSize";
import { useFrameProgram } from "./useFrameProgram";

/** A program that was opened: the way it leads the wire, and what the wire would leave; or why it cannot be followed. */
interface Opened {
  name: string;
  ways: Line[];
  timeS: number;
  deviationMm: number | null;
  warnings: string[];
}
const LARGEST_BYTES = 20 * 1024 * 1024;
/** How far an arrow key moves a slit or a bar, mm. */
const KEY_MM = 2;
/** A wanted place as near to a slit as this is the one that put it there, mm. */
const OWN_MM = 3;

const middleOf = (line: Line): Point => lerp(line[0] as Point, line.at(-1) as Point, 0.5);
const tenth = (value: number): number => Math.round(value * 10) / 10;

/** The plan's path on this frame, and any program that is opened next to it. */
export function RigPath({
  rig,
  around,
  show,
  name,
  onChange,
}: {
  rig: FrameRig;
  around: RigSurroundings;
  show: Show;
  name: string;
  onChange: (change: Readonly<Record<string, unknown>>, key: string) => void;
}) {
  const { program, fault, places, job, current } = useFrameProgram(rig, around);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const open = async (file: File) => {
    setOpened(null);
    setRefused(null);
    try {
      if (file.size > LARGEST_BYTES) throw new CoreError("out-of-range", "", `${file.name} is larger than ${LARGEST_BYTES / 1048576} MB`);
      const read = readProgram(await file.text(), machineOf(rig, around.plan?.plan.part.span_mm ?? rig.apart_mm - rig.toBlock_mm));
      if (read.path.length < 2) throw new CoreError("no-solution", "", "it leads the wire nowhere");
      const ways = [read.path, ...(read.tip ? [read.tip] : [])];
      setOpened({
        name: file.name,
        ways,
        timeS: read.timesS.at(-1) ?? 0,
        deviationMm: missOfOpened(rig, around, ways, read.timesS),
        warnings: read.warnings.map(({ message }) => message),
      });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      setRefused(`${file.name} is not followed: ${error.message}`);
    }
  };
  /** A slit or a bar is wanted elsewhere: what had put it where it was is let go of. */
  const move = (what: "slitsAt" | "barsAt") => (line: Line, to: Point) => {
    const from = middleOf(line);
    const others = rig[what].filter((place) => distance(place, from) > OWN_MM + lineLength(line) / 2);
    onChange({ [what]: [...others, [tenth(to[0]), tenth(to[1])]] }, what);
  };
  return (
    <div className="rig-path" data-testid="rig-path" data-current={current}>
      <div className="plan-acts">
        <Button
          variant="contained"
          disabled={!program || !current}
          onClick={() => program && downloadText(`${fileStem(name)}.ngc`, "text/plain", program.text)}
        >
          Program
        </Button>
        <FileButton variant="outlined" label="Program file" accept=".ngc,.nc,.txt,text/plain" onFile={(file) => void open(file)}>
          What would a program leave?
        </FileButton>
        <span aria-live="polite">{current ? "" : "Looking for the way…"}</span>
      </div>
      {fault && (
        <Alert severity="warning" role="alert">
          No path: {fault}
        </Alert>
      )}
      {fault && job && places.length > 0 && <FaultPicture job={job} rig={rig} places={places} />}
      {refused && (
        <Alert severity="error" role="alert" onClose={() => setRefused(null)}>
          {refused}
        </Alert>
      )}
      {program && (
        <>
          <p className="rig-says" style={{ margin: "4px 0" }}>
            {program.copies > 1 ? `${program.copies} copies: ` : ""}
            <span className="num">{show("leadLength", program.lengthMm / 1000)}</span> of way in <span className="num">{program.timeS.toFixed(0)} s</span>
            {program.passes > 1 ? `, ${program.passes} passes` : ""}
            {program.stretchMm > 0.05 ? `; the wire is ${show("length", program.stretchMm, 1)} longer at its widest` : ""}.
          </p>
          <PathPicture program={program} opened={opened} show={show} onSlit={move("slitsAt")} onBar={move("barsAt")} />
          <Costs program={program} show={show} />
        </>
      )}
      {opened && (
        <p data-testid="opened-program">
          {opened.name}, dashed: {show("leadLength", lineLength(opened.ways[0] ?? []) / 1000)} of way in {opened.timeS.toFixed(0)} s
          {opened.deviationMm === null
            ? "; without a cutter that cuts nothing is said of what the wire leaves"
            : `; the wire would miss its line by ${show("kerf", opened.deviationMm)}`}
          . {opened.warnings.slice(0, 3).join("; ")}
        </p>
      )}
      {program && (
        <details>
          <summary>The program, line by line</summary>
          <pre className="rig-program num">{program.text.split("\n").slice(0, 400).join("\n")}</pre>
        </details>
      )}
    </div>
  );
}

/** The plan's parts in their block, with the places that a fault is about. */
function FaultPicture({ job, rig, places }: { job: FrameJob; rig: FrameRig; places: readonly Point[] }) {
  const { minX, minY, maxX, maxY } = job.block;
  const [wide, high] = [maxX - minX, maxY - minY];
  const path = (line: Line) => `M${line.map(([x, y]) => `${(x - minX).toFixed(2)} ${(maxY - y).toFixed(2)}`).join("L")}Z`;
  const dot = Math.max(wide, high) / 50;
  return (
    <svg
      viewBox={`${-dot} ${-dot} ${wide + 2 * dot} ${high + 2 * dot}`}
      className="rig-fault"
      role="img"
      aria-label="Where it goes wrong, marked"
      data-testid="fault-picture"
    >
      <title>Where it goes wrong, marked</title>
      <rect width={wide} height={high} fill="none" stroke="var(--graphite-soft)" strokeDasharray="6 4" vectorEffect="non-scaling-stroke" />
      {job.parts.map(({ outline, holes }) => (
        <path
          key={`${outline[0]}`}
          d={[outline, ...holes].map(path).join("")}
          fill="var(--paper-bright)"
          fillRule="evenodd"
          stroke="var(--line)"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {places.map(([x, y]) => (
        // Places are from home; the parts are drawn where the plan has them.
        <circle
          key={`${x} ${y}`}
          cx={x - rig.blockX_mm}
          cy={high - (y - rig.blockY_mm)}
          r={dot}
          fill="none"
          stroke="var(--ember)"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** What the wire of this frame would miss of a program's own line. */
function missOfOpened(rig: FrameRig, around: RigSurroundings, ways: readonly Line[], timesS: readonly number[]): number | null {
  if (!around.plan) return null;
  const { cutter } = frameJob(rig, around);
  if (!cutter) return null;
  const led = { path: ways[0] as Line, tipPath: ways[1], timesS };
  return deviationOf(cutter.wire, led, led, { nodes: 30, steps: Math.max(500, Math.min(20_000, timesS.length)) });
}

/** What it keeps, and what each thing costs that is not the part itself. */
function Costs({ program, show }: { program: RigProgram; show: Show }) {
  const { deviationMm, faceMm, toleranceMm, feeds, waits, ears, heat, widerMm, slits, bars, links, runS, timeS } = program;
  const waitS = waits.reduce((sum, each) => sum + each.waitS, 0);
  const atEnd = endWords(program, show);
  const same = feeds.most - feeds.least < 0.05;
  const travel = links.reduce((sum, line) => sum + lineLength(line), 0);
  const lines: [string, string][] = [
    [
      "What comes out",
      deviationMm === null || faceMm === null
        ? "not computed: the plan names no cutter that cuts"
        : `the face deviates by up to ${show("kerf", faceMm)}, ${faceMm <= toleranceMm ? "inside" : "outside"} the plan's ${show("kerf", toleranceMm)}; the wire's line by ${show("kerf", deviationMm)}`,
    ],
    ...(atEnd === null ? [] : ([["The end", atEnd]] as [string, string][])),
    ["Feed", same ? show("feed", feeds.most) : `${show("feed", feeds.least)} to ${show("feed", feeds.most)}, slower in tight curves`],
    ...(waits.length > 0 ? ([["Waits", `${waits.length} at corners, ${waitS.toFixed(1)} s together`]] as [string, string][]) : []),
    ...(ears.length > 0 ? ([["Ears", `${ears.length} corners run past into the waste: quicker there than waiting`]] as [string, string][]) : []),
    ...(heat.most - heat.least > 1
      ? ([["Heat", `S ${heat.least.toFixed(0)} to ${heat.most.toFixed(0)}, lower where it goes slowly`]] as [string, string][])
      : []),
    ...(widerMm !== null && widerMm > 0.02 ? ([["Kerf", `${show("kerf", widerMm)} wider where it goes slowest`]] as [string, string][]) : []),
    ...(runS > timeS + 1 ? ([["With speeding up and slowing down", `${runS.toFixed(0)} s a pass`]] as [string, string][]) : []),
    ...(links.length > 1 ? ([["Through the waste", `${links.length} ways, ${show("length", travel)} and most of it back`]] as [string, string][]) : []),
    ...slits.map((line, i): [string, string] => [
      `Slit ${i + 1}`,
      `${show("length", lineLength(line))} through the part, a seam to glue; drag it where it harms least`,
    ]),
    ...bars.map((line, i): [string, string] => [
      `Bar ${i + 1}`,
      `${show("length", lineLength(line))} between two parts, to be cut off afterwards; drag it where that is easy`,
    ]),
  ];
  return (
    <dl className="rig-figures rig-costs" data-testid="path-costs">
      {lines.slice(0, 40).map(([label, words]) => (
        <div key={label}>
          <dt>{label}</dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The block seen from its end, the wire's way as its own line with arrows and numbers where it turns into the next thing. */
function PathPicture({
  program,
  opened,
  show,
  onSlit,
  onBar,
}: {
  program: RigProgram;
  opened: Opened | null;
  show: Show;
  onSlit: (line: Line, to: Point) => void;
  onBar: (line: Line, to: Point) => void;
}) {
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 700, height: 380 });
  const { minX, minY, maxX, maxY } = boundsOf([...program.block, ...program.ways.flat(), ...(opened?.ways.flat() ?? [])]);
  const scale = Math.min((width - 30) / Math.max(1, maxX - minX), (height - 30) / Math.max(1, maxY - minY));
  const [dx, dy] = [(width - (maxX - minX) * scale) / 2, (height - (maxY - minY) * scale) / 2];
  const at = ([x, y]: readonly [number, number]) => [(x - minX) * scale + dx, (maxY - y) * scale + dy] as const;
  const back = (x: number, y: number): Point => [(x - dx) / scale + minX, maxY - (y - dy) / scale];
  const path = (line: Line, closed = false) =>
    `M${line
      .map((point) =>
        at(point)
          .map((each) => each.toFixed(1))
          .join(" "),
      )
      .join("L")}${closed ? "Z" : ""}`;
  const [course] = program.ways;
  // Arrows every so often along the way, numbered.
  const arrows = useMemo(() => {
    if (!course) return [];
    const total = lineLength(course);
    const marks: { at: readonly [number, number]; deg: number; number: number }[] = [];
    const count = Math.min(24, Math.max(4, Math.round(total / 250)));
    let [along, next] = [0, 1];
    for (let i = 1; i < course.length && next <= count; i++) {
      const [a, b] = [course[i - 1], course[i]];
      if (!a || !b) continue;
      const long = distance(a, b);
      while (next <= count && along + long >= (total * (next - 0.5)) / count) {
        const t = long > 0 ? ((total * (next - 0.5)) / count - along) / long : 0;
        marks.push({ at: lerp(a, b, t), deg: (-Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI, number: next });
        next += 1;
      }
      along += long;
    }
    return marks;
  }, [course]);
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ line: Line; to: Point; bar: boolean } | null>(null);
  const put = (event: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect();
    return back(event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0));
  };
  const handle = (line: Line, i: number, bar: boolean) => {
    const [x, y] = at(held?.line === line ? held.to : middleOf(line));
    const drop = bar ? onBar : onSlit;
    const keys: Readonly<Record<string, Point>> = { ArrowLeft: [-KEY_MM, 0], ArrowRight: [KEY_MM, 0], ArrowUp: [0, KEY_MM], ArrowDown: [0, -KEY_MM] };
    return (
      // biome-ignore lint/a11y/useSemanticElements: a handle in a drawing
      <g
        key={`${bar ? "bar" : "slit"} ${line[0]}`}
        transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}
        role="button"
        tabIndex={0}
        className="path-handle"
        aria-label={`${bar ? "Bar" : "Slit"} ${i + 1}: drag it, or use the arrow keys`}
        data-handle={bar ? "bar" : "slit"}
        onKeyDown={(event: KeyboardEvent) => {
          const by = keys[event.key];
          if (!by) return;
          event.preventDefault();
          const [mx, my] = middleOf(line);
          // Far enough that the nearest place is another one.
          const times = event.shiftKey ? 5 : 1;
          drop(line, [mx + by[0] * times, my + by[1] * times]);
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld({ line, to: put(event), bar });
        }}
        onPointerMove={(event) => held?.line === line && setHeld({ line, to: put(event), bar })}
        onPointerUp={() => {
          if (held?.line === line) drop(line, held.to);
          setHeld(null);
        }}
        onPointerCancel={() => setHeld(null)}
      >
        <circle r={18} fill="transparent" />
        <circle r={7} fill="var(--paper)" stroke={bar ? "var(--cool)" : "var(--graphite)"} strokeWidth={3} />
      </g>
    );
  };
  return (
    <div ref={ref} className="rig-drawing">
      <svg ref={svg} width={width} height={height} style={{ position: "absolute", display: "block" }} data-testid="path-picture">
        <title>{`The block from its end: ${show("leadLength", program.lengthMm / 1000)} of the wire's way`}</title>
        <path d={path(program.block, true)} fill="none" stroke="var(--graphite-soft)" strokeDasharray="6 4" />
        {program.parts.map(({ outline, holes }) => (
          <path
            key={`${outline[0]}`}
            d={[outline, ...holes].map((line) => path(line, true)).join("")}
            fill="var(--paper-bright)"
            fillRule="evenodd"
            stroke="var(--line)"
          />
        ))}
        {program.ways.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: near, then far
          <path key={i} d={path(line)} fill="none" stroke={i === 0 ? "var(--ember)" : "var(--amber)"} strokeWidth={1.7} strokeLinejoin="round" data-way={i} />
        ))}
        {program.slits.map((line) => (
          <path key={`${line[0]}`} d={path(line)} stroke="var(--graphite)" strokeWidth={4} data-slit />
        ))}
        {program.bars.map((line) => (
          <path key={`${line[0]}`} d={path(line)} stroke="var(--cool)" strokeWidth={3} strokeDasharray="3 3" data-bar />
        ))}
        {opened?.ways.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: near, then far
          <path key={i} d={path(line)} fill="none" stroke="var(--cool)" strokeWidth={1.6} strokeDasharray="5 4" data-opened={i} />
        ))}
        {arrows.map(({ at: place, deg, number }) => {
          const [x, y] = at(place);
          return (
            <g key={number} transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}>
              <path d="M-5 -4L5 0L-5 4Z" transform={`rotate(${deg.toFixed(0)})`} fill="var(--ember)" />
              <text y={-7} fontSize={11} textAnchor="middle" className="num" fill="var(--graphite)" stroke="var(--paper)" strokeWidth={3} paintOrder="stroke">
                {number}
              </text>
            </g>
          );
        })}
        {program.waits.map(({ at: place, waitS }, i) => {
          const [x, y] = at(place);
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: in the order they come
            <circle key={i} cx={x} cy={y} r={3 + Math.min(6, waitS * 2)} fill="none" stroke="var(--ember)" strokeWidth={1.5} data-wait={waitS.toFixed(1)} />
          );
        })}
        {program.slits.map((line, i) => handle(line, i, false))}
        {program.bars.map((line, i) => handle(line, i, true))}
      </svg>
    </div>
  );
}
