"use client";
import Button from "@mui/material/Button";
import { type ComponentType, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { Line, Point } from "@/core/geometry/points";
import { boundsOf } from "@/core/geometry/points";
import {
  CORNER_TOLERANCE_MM,
  CORNER_WIRE,
  cornerTried,
  crookedFrame,
  FRAME_LESSONS,
  ISLAND_SCENE,
  islandTried,
  ruled,
  stepsTried,
} from "@/core/rigs/frame/lessons";
import type { Show } from "@/core/rigs/record";
import { CountField } from "../../kit/CountField";
import { LessonList, LessonOutcome, useBestScores } from "../../kit/Lesson";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useSize } from "../../kit/useSize";

type FrameLesson = (typeof FRAME_LESSONS)[number]["id"];
interface LessonProps {
  lesson: (typeof FRAME_LESSONS)[number];
  show: Show;
  onPass: () => void;
}
const VIEWS: Readonly<Record<FrameLesson, ComponentType<LessonProps>>> = { steps: StepsLesson, island: IslandLesson, corner: CornerLesson };

/** Three short lessons on a frame that is none: nothing of the rig changes. */
export function RigLessons({ show }: { show: Show }) {
  const [id, setId] = useState<FrameLesson>("steps");
  const [best, noteScore] = useBestScores("frame");
  const lesson = FRAME_LESSONS.find((each) => each.id === id) ?? FRAME_LESSONS[0];
  const View = VIEWS[id];
  return (
    <div className="rig-lessons" data-testid="rig-lessons">
      <LessonList lessons={FRAME_LESSONS} best={best} current={id} onChoose={(next) => setId(next.id)} />
      <section aria-label={lesson.title}>
        <p>{lesson.brief}</p>
        <View key={id} lesson={lesson} show={show} onPass={() => noteScore(id, { good: true })} />
      </section>
    </div>
  );
}

function StepsLesson({ show, onPass }: LessonProps) {
  const [seed, setSeed] = useState(7);
  const frame = useMemo(() => crookedFrame(seed), [seed]);
  const [requested, setRequested] = useState(200);
  const [moves, setMoves] = useState<{ requested: number; mm: number; back: boolean }[]>([]);
  const [tried, setTried] = useState(frame.setPerMm);
  const [verdict, setVerdict] = useState<{ good: boolean; offMm: number } | null>(null);
  const move = (back: boolean) => setMoves((all) => [...all.slice(-7), { requested, mm: ruled(frame, requested, back), back }]);
  return (
    <>
      <p>{frame.setPerMm} steps a millimetre are set.</p>
      <div className="plan-pair">
        <QuantityField quantity="length" label="Ask for" value={requested} range={{ min: 10, max: 500 }} onChange={setRequested} />
        <CountField label="Steps a millimetre" value={tried} min={40} max={160} unit="" whole={false} onChange={setTried} />
      </div>
      <p className="plan-acts">
        <Button variant="outlined" onClick={() => move(false)}>
          Move away from home, and measure
        </Button>
        <Button variant="outlined" onClick={() => move(true)}>
          Come back to it, and measure
        </Button>
        <Button
          variant="contained"
          onClick={() => {
            const next = stepsTried(frame, tried);
            setVerdict(next);
            if (next.good) onPass();
          }}
        >
          Set it and try 500 mm
        </Button>
        <Button
          onClick={() => {
            setSeed(seed + 1);
            setMoves([]);
            setVerdict(null);
          }}
        >
          Another frame
        </Button>
      </p>
      <ul className="num">
        {moves.map((each, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: in the order they were made
          <li key={i}>
            asked {show("length", each.requested, 1)}, came {show("length", each.mm, 1)}
            {each.back ? ", coming back" : ""}
          </li>
        ))}
      </ul>
      {verdict && (
        <LessonOutcome
          outcome={{
            good: verdict.good,
            words: verdict.good
              ? `Over 500 mm it is off by ${show("kerf", Math.abs(verdict.offMm))}: as good as a rule can make it.`
              : `Over 500 mm it goes ${show("kerf", Math.abs(verdict.offMm))} too ${verdict.offMm > 0 ? "far" : "short"}: set steps times asked over measured, from a long move away from home.`,
            rows: [],
          }}
        />
      )}
    </>
  );
}

/** A drawing in millimetres that fills its place. */
function Scene({
  lines,
  room,
  title,
  onSet,
}: {
  lines: readonly { line: Line; kind: "part" | "way" | "slit" | "cut"; closed?: boolean }[];
  room: Line;
  title: string;
  onSet?: (at: Point) => void;
}) {
  const [ref, { width, height }] = useSize<HTMLDivElement>({ width: 640, height: 300 });
  const svg = useRef<SVGSVGElement>(null);
  const { minX, minY, maxX, maxY } = boundsOf(room);
  const scale = Math.min((width - 30) / (maxX - minX), (height - 30) / (maxY - minY));
  const [dx, dy] = [(width - (maxX - minX) * scale) / 2, (height - (maxY - minY) * scale) / 2];
  const path = (line: Line, closed: boolean) =>
    `M${line.map(([x, y]) => `${((x - minX) * scale + dx).toFixed(1)} ${((maxY - y) * scale + dy).toFixed(1)}`).join("L")}${closed ? "Z" : ""}`;
  const strokes = { part: "var(--line)", way: "var(--ember)", slit: "var(--graphite)", cut: "var(--cool)" };
  const put = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (box) onSet?.([(event.clientX - box.left - dx) / scale + minX, maxY - (event.clientY - box.top - dy) / scale]);
  };
  return (
    <div ref={ref} className="rig-drawing" style={{ height: 300, flex: "none" }}>
      <svg ref={svg} width={width} height={height} style={{ position: "absolute", display: "block" }} role="img" onPointerDown={put}>
        <title>{title}</title>
        {lines.map(({ line, kind, closed = false }, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: drawn in this order
            key={i}
            d={path(line, closed)}
            fill={kind === "part" ? "var(--paper-bright)" : "none"}
            stroke={strokes[kind]}
            strokeWidth={kind === "slit" ? 5 : 2}
            data-kind={kind}
          />
        ))}
      </svg>
    </div>
  );
}

const SIDES: readonly (readonly [string, Point | null])[] = [
  ["above", [60, 105]],
  ["at the left", [12, 60]],
  ["at the right", [108, 60]],
  ["below", [60, 12]],
];

function IslandLesson({ onPass }: LessonProps) {
  const [slitAt, setSlitAt] = useState<Point | null>(SIDES[0]?.[1] ?? null);
  const [join, setJoin] = useState<"apart" | "joined">("joined");
  const tried = useMemo(() => islandTried(slitAt, join), [slitAt, join]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: noted once, as it becomes good
  useEffect(() => {
    if (tried.good) onPass();
  }, [tried.good]);
  const room: Line = [
    [-5, -5],
    [185, 125],
  ];
  return (
    <>
      <Scene
        room={room}
        title="The ring, the disc, and the wire's way"
        onSet={(at) => setSlitAt(at)}
        lines={[
          ...ISLAND_SCENE.flatMap(({ outline, holes }) => [
            { line: outline, kind: "part" as const, closed: true },
            ...holes.map((line) => ({ line, kind: "part" as const, closed: true })),
          ]),
          { line: tried.path, kind: "way" },
          ...(tried.slit ? [{ line: tried.slit, kind: "slit" as const }] : []),
        ]}
      />
      <TileRow>
        {SIDES.map(([words, at]) => (
          <Tile key={words} chosen={slitAt === at} onClick={() => setSlitAt(at)}>
            slit {words}
          </Tile>
        ))}
        {(["apart", "joined"] as const).map((each) => (
          <Tile key={each} chosen={join === each} onClick={() => setJoin(each)}>
            {each === "apart" ? "left apart" : "joined by a bar"}
          </Tile>
        ))}
      </TileRow>
      <LessonOutcome outcome={{ good: tried.good, words: tried.words, rows: [] }} />
    </>
  );
}

function CornerLesson({ show, onPass }: LessonProps) {
  const [feed, setFeed] = useState(6);
  const [wait, setWait] = useState(0);
  const [tried, setTried] = useState<ReturnType<typeof cornerTried> | null>(null);
  const room: Line = [
    [-3, -6],
    [66, 63],
  ];
  return (
    <>
      <p>
        The wire is {show("leadLength", CORNER_WIRE.lengthM)} long; the tolerance is {show("kerf", CORNER_TOLERANCE_MM)}.
      </p>
      <div className="plan-pair">
        <QuantityField quantity="feed" label="Feed" value={feed} range={{ min: 1, max: 9.9 }} onChange={setFeed} />
        <CountField label="Wait at the corner" value={wait} min={0} max={20} unit="s" whole={false} onChange={setWait} />
      </div>
      <p className="plan-acts">
        <Button
          variant="contained"
          onClick={() => {
            const next = cornerTried(feed, wait);
            setTried(next);
            if (next.good) onPass();
          }}
        >
          Cut it
        </Button>
      </p>
      {tried && (
        <>
          <Scene
            room={room}
            title="The line the ends were led along, and the one the middle cut"
            lines={[
              { line: tried.path, kind: "way" },
              { line: tried.cut, kind: "cut" },
            ]}
          />
          <LessonOutcome outcome={{ good: tried.good, words: tried.words, rows: [] }} />
        </>
      )}
    </>
  );
}
