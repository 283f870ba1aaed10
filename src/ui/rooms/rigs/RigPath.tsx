"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useDeferredValue, useMemo, useState } from "react";
import { boundsOf, type Line } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { fileStem } from "@/core/kernel/fileStem";
import { readProgram } from "@/core/motion/reader";
import type { RigProgram } from "@/core/rigs/answer";
import type { Around } from "@/core/rigs/around";
import { machineOf } from "@/core/rigs/frame/path";
import { type Rig, rigRecord } from "@/core/rigs/kinds";
import type { Show } from "@/core/rigs/record";
import { downloadText } from "../../kit/download";
import { FileButton } from "../../kit/FileButton";
import { useSize } from "../../kit/useSize";

/** A program that was opened: the way it leads the wire, or why it cannot be followed. */
interface Opened {
  name: string;
  ways: Line[];
  timeS: number;
  warnings: string[];
}
const LARGEST_BYTES = 20 * 1024 * 1024;

/** The plan's path on this frame, and any program that is opened beside it. */
export function RigPath({ rig, around, show, name }: { rig: Rig; around: Around; show: Show; name: string }) {
  const asked = useMemo(() => ({ rig, around }), [rig, around]);
  const calm = useDeferredValue(asked);
  const found = useMemo((): { program: RigProgram | null; fault: string | null } => {
    try {
      return { program: rigRecord(calm.rig.kind).program?.(calm.rig, calm.around) ?? null, fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { program: null, fault: error.message };
      throw error;
    }
  }, [calm]);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const { program, fault } = found;
  const open = async (file: File) => {
    setOpened(null);
    setRefused(null);
    if (rig.kind !== "frame") return;
    try {
      if (file.size > LARGEST_BYTES) throw new CoreError("out-of-range", "", `${file.name} is larger than ${LARGEST_BYTES / 1048576} MB`);
      const read = readProgram(await file.text(), machineOf(rig, around.plan?.plan.part.span_mm ?? rig.apart_mm - rig.toBlock_mm));
      if (read.path.length < 2) throw new CoreError("no-solution", "", "it leads the wire nowhere");
      setOpened({
        name: file.name,
        ways: [read.path, ...(read.tip ? [read.tip] : [])],
        timeS: read.timesS.at(-1) ?? 0,
        warnings: read.warnings.map(({ message }) => message),
      });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      setRefused(`${file.name} is not followed: ${error.message}`);
    }
  };
  return (
    <div className="rig-path" data-testid="rig-path" data-current={calm === asked}>
      <div className="plan-acts">
        <Button variant="contained" disabled={!program} onClick={() => program && downloadText(`${fileStem(name)}.ngc`, "text/plain", program.text)}>
          Program
        </Button>
        <FileButton variant="outlined" label="Program file" accept=".ngc,.nc,.txt,text/plain" onFile={(file) => void open(file)}>
          What would a program leave?
        </FileButton>
      </div>
      {fault && (
        <Alert severity="warning" role="alert">
          No path: {fault}
        </Alert>
      )}
      {refused && (
        <Alert severity="error" role="alert" onClose={() => setRefused(null)}>
          {refused}
        </Alert>
      )}
      {program && (
        <>
          <p className="rig-says" style={{ margin: "4px 0" }}>
            <span className="num">{show("leadLength", program.lengthMm / 1000)}</span> of way in <span className="num">{program.timeS.toFixed(0)} s</span>
            {program.slits.length > 0 ? `, ${program.slits.length} ${program.slits.length === 1 ? "slit" : "slits"} to holes` : ""}
            {program.links.length > 1 ? `, ${program.links.length - 1} ways through the waste` : ""}
            {program.bars.length > 0 ? `, ${program.bars.length} bars` : ""}
            {program.missMm === null ? "" : `; the wire misses its line by ${show("kerf", program.missMm)}`}
            {program.stretchMm > 0.05 ? `; it is ${show("length", program.stretchMm, 1)} longer at its widest` : ""}.
          </p>
          <PathPicture program={program} opened={opened} show={show} />
        </>
      )}
      {opened && (
        <p data-testid="opened-program">
          {opened.name}, dashed: {show("leadLength", lengthOf(opened.ways[0] ?? []) / 1000)} of way in {opened.timeS.toFixed(0)} s.{" "}
          {opened.warnings.slice(0, 3).join("; ")}
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

const lengthOf = (line: Line): number =>
  line.reduce((sum, [x, y], i) => (i === 0 ? 0 : sum + Math.hypot(x - (line[i - 1]?.[0] ?? x), y - (line[i - 1]?.[1] ?? y))), 0);

/** The block seen from its end, the wire's way as its own line with arrows and numbers where it turns into the next thing. */
function PathPicture({ program, opened, show }: { program: RigProgram; opened: Opened | null; show: Show }) {
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 700, height: 380 });
  const { minX, minY, maxX, maxY } = boundsOf([...program.block, ...program.ways.flat(), ...(opened?.ways.flat() ?? [])]);
  const scale = Math.min((width - 30) / Math.max(1, maxX - minX), (height - 30) / Math.max(1, maxY - minY));
  const [dx, dy] = [(width - (maxX - minX) * scale) / 2, (height - (maxY - minY) * scale) / 2];
  const at = ([x, y]: readonly [number, number]) => [(x - minX) * scale + dx, (maxY - y) * scale + dy] as const;
  const path = (line: Line, closed = false) =>
    `M${line
      .map((point) =>
        at(point)
          .map((each) => each.toFixed(1))
          .join(" "),
      )
      .join("L")}${closed ? "Z" : ""}`;
  const [way] = program.ways;
  // Arrows every so often along the way, numbered.
  const arrows = useMemo(() => {
    if (!way) return [];
    const total = lengthOf(way);
    const marks: { at: readonly [number, number]; deg: number; number: number }[] = [];
    const count = Math.min(24, Math.max(4, Math.round(total / 250)));
    let [along, next] = [0, 1];
    for (let i = 1; i < way.length && next <= count; i++) {
      const [a, b] = [way[i - 1], way[i]];
      if (!a || !b) continue;
      const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
      while (next <= count && along + long >= (total * (next - 0.5)) / count) {
        const t = long > 0 ? ((total * (next - 0.5)) / count - along) / long : 0;
        marks.push({ at: [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], deg: (-Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI, number: next });
        next += 1;
      }
      along += long;
    }
    return marks;
  }, [way]);
  return (
    <div ref={ref} className="rig-drawing">
      <svg width={width} height={height} style={{ position: "absolute", display: "block" }} role="img" data-testid="path-picture">
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
      </svg>
    </div>
  );
}
