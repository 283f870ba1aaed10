"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import "../../kit/theme/second.css";
import { useEffect, useMemo, useState } from "react";
import { stopwatchS } from "@/core/log/stopwatch";
import { scheduleOf } from "@/core/pace/pacer";
import type { ScreenEnd } from "@/core/pace/twoEnds";
import { useQueryParameter } from "../../kit/address";
import type { SecondAbout } from "../../kit/api";
import { useAwake } from "../../kit/useAwake";
import { endHere, useSharedDrive } from "./drive";
import { PacerFace } from "./PacerFace";
import { type Second, useSecond } from "./useSecond";

/** What another screen put here: the other end of a cut, a stopwatch, a dial, the stop key of a run. */
export function SecondScreen({ ticket }: { ticket: string }) {
  const second = useSecond(ticket);
  const { about, over, fault } = second;
  if (over || !about)
    return (
      <main className="plain-page">
        <p className="plain-page-name">Upwind Rod</p>
        <p role="status" style={{ fontSize: 22 }}>
          {over ? "This second screen has ended, or its link has expired. Scan the code again." : (fault ?? "One moment…")}
        </p>
      </main>
    );
  if (about.kind === "pacer") return <OtherEnd about={about} second={second} />;
  if (about.kind === "stopwatch") return <FarStopwatch name={about.name} second={second} />;
  if (about.kind === "dial") return <FarDial name={about.name} second={second} />;
  return <FarStop name={about.name} second={second} />;
}

type PacerAbout = Extract<SecondAbout, { kind: "pacer" }>;

function OtherEnd({ about, second }: { about: PacerAbout; second: Second }) {
  const schedule = useMemo(() => scheduleOf(about.rows, about.parts), [about]);
  const [requested, setEnd] = useQueryParameter("view");
  const end: ScreenEnd = requested === "root" ? "root" : "tip";
  const other: ScreenEnd = end === "tip" ? "root" : "tip";
  const drive = useSharedDrive(second, end, false);
  return (
    <PacerFace
      title={`${about.name}, ${about.face}`}
      label={`Pacer, ${about.face}, second screen`}
      schedule={schedule}
      parts={about.parts}
      drive={drive}
      end={end}
      onEnd={(next) => setEnd(next === "root" ? "root" : "")}
      marks
      leads={false}
      body={({ row }) => <TemplatePicture template={about.templates[end]} mirrored={end === "tip"} number={about.rows[row]?.to ?? ""} />}
    >
      {() => (
        <>
          <span role="status" data-testid="other-end" data-here={endHere(second, other)}>
            {endHere(second, other) ? `the ${other} is there` : `the ${other} is away`}
            {second.withinMs === null ? "" : `, same count within ${Math.max(1, Math.ceil(second.withinMs))} ms`}
          </span>
          {second.fault && <span role="alert">{second.fault}</span>}
        </>
      )}
    </PacerFace>
  );
}

/** This end's own template as it is before the hand, with the number it is led to. The tip is seen from the other side. */
function TemplatePicture({ template, mirrored, number }: { template: PacerAbout["templates"]["root"]; mirrored: boolean; number: string }) {
  const points = template.lines.flat();
  if (points.length === 0) return null;
  const [xs, ys] = [points.map(([x]) => (mirrored ? -x : x)), points.map(([, y]) => -y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const margin = 0.06 * Math.max(right - left, bottom - top, 1);
  const at = ([x, y]: readonly [number, number]) => [mirrored ? -x : x, -y] as const;
  const radius = margin / 3;
  return (
    <svg
      className="pacer-template"
      role="img"
      aria-label="This end's template"
      viewBox={`${left - margin} ${top - margin} ${right - left + 2 * margin} ${bottom - top + 2 * margin}`}
    >
      {template.lines.map((line) => (
        <path key={line.length} d={`M${line.map((point) => at(point).join(" ")).join("L")}`} />
      ))}
      {template.numbers.map(({ label, at: place }) => (
        <circle key={label} cx={at(place)[0]} cy={at(place)[1]} r={label === number ? 2 * radius : radius} data-here={label === number} />
      ))}
    </svg>
  );
}

function FarStopwatch({ name, second: { view, offsetMs, act, fault } }: { name: string; second: Second }) {
  const [now, setNow] = useState(() => Date.now());
  const watch = view?.stopwatch ?? { startedMs: null, lapsMs: [], stoppedMs: null };
  const running = watch.startedMs !== null && watch.stoppedMs === null;
  useAwake(running);
  useEffect(() => {
    if (!running) return;
    let frame = requestAnimationFrame(function tick() {
      setNow(Date.now());
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [running]);
  return (
    <section className="second-plain" aria-label="Stopwatch">
      <header>
        <span>{name}: stopwatch</span>
        {fault && <span role="alert">{fault}</span>}
      </header>
      <button type="button" className="second-big" onClick={() => void act({ do: "press" })}>
        <span className="num" data-figure="stopwatch">
          {offsetMs === null ? "…" : Math.max(0, stopwatchS(watch, now + offsetMs)).toFixed(1)} s
        </span>
        <small>{running ? `lap ${watch.lapsMs.length + 1}: press at each mark` : "press as the wire enters"}</small>
      </button>
      <div className="second-keys">
        <button type="button" disabled={!running} onClick={() => void act({ do: "stop" })}>
          Stop
        </button>
        <button type="button" disabled={watch.startedMs === null} onClick={() => void act({ do: "reset" })}>
          Reset
        </button>
      </div>
    </section>
  );
}

const DIALS = {
  volts_V: { words: "volts on the wire", unit: "V" },
  current_A: { words: "amps through it", unit: "A" },
  duty_percent: { words: "duty", unit: "%" },
  wire_C: { words: "wire", unit: "°C" },
  pull_N: { words: "pull", unit: "N" },
} as const;

function FarDial({ name, second: { view, fault } }: { name: string; second: Second }) {
  useAwake(true);
  const dial = view?.dial;
  return (
    <section className="second-plain" aria-label="Dial">
      <header>
        <span>{name}: what the instruments say</span>
        {fault && <span role="alert">{fault}</span>}
      </header>
      <div className="second-figures">
        {(Object.keys(DIALS) as (keyof typeof DIALS)[]).map((key) => {
          const value = dial?.figures[key];
          return value === undefined ? null : (
            <div key={key} data-dial={key}>
              {DIALS[key].words}
              <strong className="num">
                {value.toFixed(key === "current_A" ? 2 : 1)} {DIALS[key].unit}
              </strong>
            </div>
          );
        })}
        {dial && dial.wired.length === 0 && <p>No instrument is wired to this app (docs/instruments.md).</p>}
        {dial?.troubles.map((trouble) => (
          <p key={trouble} role="alert">
            {trouble}
          </p>
        ))}
      </div>
    </section>
  );
}

const BUSY = ["running", "holding", "held", "resuming", "fault"];

function FarStop({ name, second: { view, act, fault } }: { name: string; second: Second }) {
  useAwake(true);
  const stop = view?.stop;
  const busy = stop !== undefined && BUSY.includes(stop.phase);
  return (
    <section className="second-plain" aria-label="Stop key" data-phase={stop?.phase}>
      <header>
        <span>
          {name}: {stop?.phase ?? "…"}
          {busy ? `, line ${stop.line} of ${stop.lines}` : ""}, {(stop?.heat ?? 0) > 0 ? "the wire is hot" : "heat off"}
        </span>
        {fault && <span role="alert">{fault}</span>}
      </header>
      <button type="button" className="second-big second-stop" onClick={() => void act({ do: "stop" })}>
        Stop
        <small>{busy ? "heat off at once" : "nothing runs"}</small>
      </button>
      <div className="second-keys" style={{ gridTemplateColumns: "1fr" }}>
        <button type="button" disabled={stop?.phase !== "running"} onClick={() => void act({ do: "hold" })}>
          Hold
        </button>
      </div>
    </section>
  );
}
