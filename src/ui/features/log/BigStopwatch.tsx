"use client";
import Button from "@mui/material/Button";
import { type ReactNode, useEffect, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { feedMmPerS, type Stopwatch, stopwatchS } from "@/core/log/stopwatch";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

/** What a hand does to a stopwatch. */
export type StopwatchAction = "press" | "stop" | "reset";

const LAPS_MM = [25.4, 25, 50, 100] as const;

/** A big stopwatch: the space bar, or a tap, starts it and marks each lap; its button stops it. */
export function BigStopwatch({
  watch,
  onAction,
  lapMm,
  onLap,
  children,
}: {
  watch: Stopwatch;
  onAction: (action: StopwatchAction) => void;
  lapMm: number;
  onLap: (mm: number) => void;
  children?: ReactNode;
}) {
  const { show } = useUnits();
  const [now, setNow] = useState(0);
  const running = watch.startedMs !== null && watch.stoppedMs === null;
  useEffect(() => {
    if (!running) return;
    let frame = requestAnimationFrame(function tick() {
      setNow(performance.now());
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [running]);
  const go = () => {
    setNow(performance.now());
    onAction("press");
  };
  // On another button the space bar presses that button.
  useHotkeys("space", go, {
    preventDefault: true,
    ignoreEventWhen: (event) => event.target instanceof HTMLButtonElement && !event.target.classList.contains("stopwatch"),
  });
  const read = feedMmPerS(watch, lapMm);
  return (
    <section aria-label="Stopwatch" className="stopwatch-panel">
      <button
        type="button"
        className="stopwatch"
        onClick={go}
        onKeyDown={(event) => event.key === " " && event.preventDefault()}
        onKeyUp={(event) => event.key === " " && event.preventDefault()}
      >
        <span className="num" data-figure="stopwatch">
          {stopwatchS(watch, now).toFixed(1)} s
        </span>
        <span className="stopwatch-words">
          {running ? `lap ${watch.lapsMs.length + 1}: press at each mark` : "press, or the space bar, as the wire enters"}
        </span>
      </button>
      <div style={{ display: "flex", gap: 10, alignItems: "center", marginTop: 8, flexWrap: "wrap" }}>
        <Button variant="outlined" disabled={!running} onClick={() => onAction("stop")}>
          Stop
        </Button>
        <Button disabled={watch.startedMs === null} onClick={() => onAction("reset")}>
          Reset
        </Button>
        <TileRow>
          {LAPS_MM.map((mm) => (
            <Tile key={mm} chosen={lapMm === mm} onClick={() => onLap(mm)}>
              {mm === 25.4 ? "an inch" : show("length", mm)}
            </Tile>
          ))}
        </TileRow>
        {children}
      </div>
      <p role="status" style={{ minHeight: 22, margin: "6px 0" }}>
        {read && (
          <>
            <strong className="num">{show("feed", read.feed)}</strong> over {read.laps} {read.laps === 1 ? "lap" : "laps"}
            {read.laps > 2 ? `, even to ${Math.round(read.spread * 100)} %` : ""}
          </>
        )}
      </p>
    </section>
  );
}
