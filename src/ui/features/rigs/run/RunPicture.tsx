"use client";
import { useMemo } from "react";
import { boundsOf, type Line, type Point, type Region } from "@/core/geometry/points";
import { useSize } from "../../../kit/useSize";

/** More points than this are not drawn one by one: a screen has no room for them. */
const MOST_DRAWN = 4000;
/** Half of what the wire's mark needs, px. */
const MARK = 11;

/** The block from its end: what is cut bright, what is to come dim, the wire where it is, the places it was really reported at, and the way out. */
export function RunPicture({
  block,
  parts,
  course,
  far,
  cutTo,
  at,
  drawn,
  out,
  hot,
}: {
  block: Line;
  parts: readonly Region[];
  course: Line;
  far: Line | null;
  /** index of the last point passed */
  cutTo: number;
  at: Point | null;
  drawn: Line;
  out: Line | null;
  hot: boolean;
}) {
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 700, height: 380 });
  const box = useMemo(() => boundsOf([...block, ...course, ...(far ?? [])]), [block, course, far]);
  const scale = Math.min((width - 36) / Math.max(1, box.maxX - box.minX), (height - 36) / Math.max(1, box.maxY - box.minY));
  const [dx, dy] = [(width - (box.maxX - box.minX) * scale) / 2, (height - (box.maxY - box.minY) * scale) / 2];
  const place = useMemo(
    () =>
      ([x, y]: Point): string =>
        `${((x - box.minX) * scale + dx).toFixed(1)} ${((box.maxY - y) * scale + dy).toFixed(1)}`,
    [box, scale, dx, dy],
  );
  const path = (line: Line, closed = false) => (line.length === 0 ? "" : `M${line.map(place).join("L")}${closed ? "Z" : ""}`);
  // The dim line is long and does not change as the wire goes: drawn once.
  const every = Math.ceil(course.length / MOST_DRAWN);
  const fewer = useMemo(() => {
    const thin = (line: Line) => (every > 1 ? line.filter((_, i) => i % every === 0 || i === line.length - 1) : line);
    return { near: thin(course), far: far && thin(far) };
  }, [course, far, every]);
  const whole = useMemo(
    () => ({ near: `M${fewer.near.map(place).join("L")}`, far: fewer.far && fewer.far.length > 0 ? `M${fewer.far.map(place).join("L")}` : "" }),
    [fewer, place],
  );
  const cut = cutTo > 0 ? [...fewer.near.slice(0, Math.floor(cutTo / every) + 1), ...(at ? [at] : [])] : [];
  // A wire that is offset from the picture is marked at its edge.
  const [x, y] = at
    ? place(at)
        .split(" ")
        .map((each, i) => Math.min((i === 0 ? width : height) - MARK, Math.max(MARK, Number(each))))
    : [0, 0];
  return (
    <div ref={ref} className="rig-drawing run-picture">
      <svg width={width} height={height} style={{ position: "absolute", display: "block" }} role="img" data-testid="run-picture">
        <title>The block from its end: what is cut, what is to come, and where the wire is</title>
        <path d={path(block, true)} fill="none" stroke="var(--graphite-soft)" strokeDasharray="6 4" />
        {parts.map(({ outline, holes }) => (
          <path
            key={`${outline[0]}`}
            d={[outline, ...holes].map((line) => path(line, true)).join("")}
            fill="var(--paper-bright)"
            fillRule="evenodd"
            stroke="var(--line)"
          />
        ))}
        {whole.far && <path d={whole.far} fill="none" stroke="var(--ember)" strokeOpacity={0.25} strokeDasharray="2 3" />}
        <path d={whole.near} fill="none" stroke="var(--ember)" strokeOpacity={0.32} strokeWidth={1.4} strokeLinejoin="round" data-rest />
        <path d={path(cut)} fill="none" stroke="var(--ember)" strokeWidth={3} strokeLinejoin="round" data-cut={cutTo} />
        {drawn.map((point, i) => {
          const [px, py] = place(point).split(" ");
          // biome-ignore lint/suspicious/noArrayIndexKey: in the order they were reported
          return <circle key={i} cx={px} cy={py} r={1.3} fill="var(--graphite)" />;
        })}
        {out && <path d={path(out)} fill="none" stroke="var(--cool)" strokeWidth={3} strokeDasharray="7 5" data-out />}
        {at && (
          <g data-testid="wire-at">
            <circle cx={x} cy={y} r={9} fill="var(--paper)" stroke={hot ? "var(--ember)" : "var(--graphite)"} strokeWidth={3} />
            <circle cx={x} cy={y} r={3.5} fill={hot ? "var(--ember)" : "var(--graphite)"} />
          </g>
        )}
      </svg>
    </div>
  );
}
