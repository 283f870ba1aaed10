import { useCallback, useEffect, useRef, useState } from "react";
import type { TrackRow } from "@/core/bench/setup";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { BenchClient } from "@/workers/bench/benchClient";
import type { BenchFrame } from "@/workers/bench/protocol";

/** What the instruments of the bench draw from: kept outside React, so that sixty frames a second cost no rendering. */
export interface BenchScene {
  frame: BenchFrame | null;
  track: TrackRow[];
  traces: BenchFrame["traces"];
}

/** Draws one picture of the scene into its own canvas. */
export type BenchPainter = (scene: BenchScene, nowMs: number) => void;

/** How smoothly the page kept up since the bench was opened. */
export interface FrameCount {
  frames: number;
  dropped: number;
}

const FRAME_MS = 1000 / 60;
/** Figures in words follow at this pace: faster cannot be read. */
const WORDS_EVERY_MS = 140;

/** What of the bench changes now and then: the screen is rendered for it, and for nothing that changes with every frame. */
export type BenchStatus = Pick<BenchFrame, "heatOn" | "supply" | "inFoam" | "through" | "broken">;

const statusOf = ({ heatOn, supply, inFoam, through, broken }: BenchFrame): BenchStatus => ({ heatOn, supply, inFoam, through, broken });
const sameStatus = (a: BenchStatus | null, b: BenchStatus) =>
  a !== null && a.heatOn === b.heatOn && a.supply === b.supply && a.inFoam === b.inFoam && a.through === b.through && a.broken === b.broken;

const empty = (): BenchScene => ({ frame: null, track: [], traces: { timeS: [], forceN: [], airC: [], foamC: [], feedMmS: [] } });

/** Opens a bench in its worker and keeps its scene; painters are called once a frame, words follow slower. */
export function useBench() {
  const scene = useRef<BenchScene>(empty());
  const painters = useRef(new Set<BenchPainter>());
  const client = useRef<BenchClient | null>(null);
  const count = useRef<FrameCount>({ frames: 0, dropped: 0 });
  const [status, setStatus] = useState<BenchStatus | null>(null);
  const [fault, setFault] = useState<string | null>(null);

  useEffect(() => {
    const mine = new BenchClient((frame) => {
      const now = scene.current;
      now.frame = frame;
      // The last row may come again, wider after a rest.
      now.track.length = Math.min(now.track.length, frame.track.from);
      now.track.push(...frame.track.rows);
      for (const key of ["timeS", "forceN", "airC", "foamC", "feedMmS"] as const) now.traces[key].push(...frame.traces[key]);
    }, setFault);
    client.current = mine;
    let last = 0;
    let handle = requestAnimationFrame(function draw(now) {
      if (last > 0 && document.visibilityState === "visible") {
        count.current.frames += 1;
        count.current.dropped += Math.max(0, Math.round((now - last) / FRAME_MS) - 1);
      }
      last = now;
      const started = performance.now();
      for (const paint of painters.current) paint(scene.current, now);
      const { frame } = scene.current;
      if (frame) setStatus((old) => (sameStatus(old, frame) ? old : statusOf(frame)));
      performance.measure("bench-frame", { start: started });
      if (count.current.frames % 600 === 0) performance.clearMeasures("bench-frame");
      handle = requestAnimationFrame(draw);
    });
    return () => {
      cancelAnimationFrame(handle);
      mine.close();
    };
  }, []);

  const open = useCallback((design: Design, options: BenchOptions) => {
    scene.current = empty();
    count.current = { frames: 0, dropped: 0 };
    setFault(null);
    setStatus(null);
    client.current?.open(design, options);
  }, []);
  const addPainter = useCallback((painter: BenchPainter) => {
    painters.current.add(painter);
    return () => {
      painters.current.delete(painter);
    };
  }, []);
  return { scene, client, count, status, fault, open, addPainter };
}

export type Bench = ReturnType<typeof useBench>;

/** The newest frame, at reading pace: for a component that shows figures and little else. */
export function useBenchFigures({ addPainter }: Bench): BenchFrame | null {
  const [frame, setFrame] = useState<BenchFrame | null>(null);
  useEffect(() => {
    let last = 0;
    return addPainter((scene, now) => {
      if (now - last < WORDS_EVERY_MS) return;
      last = now;
      setFrame(scene.frame);
    });
  }, [addPainter]);
  return frame;
}
