import { useCallback, useEffect, useRef, useState } from "react";
import { api, type RunCommand, type RunView } from "../../../kit/api";

/** How often the page says that it is open, and reads the run's state, ms. */
const PULSE_MS = 250;
/** How often a controller that is not there, and at nothing, is looked for again, ms. */
const AGAIN_MS = 2000;
/** A touch or a key counts as presence for so long, s. */
export const PRESENT_S = 300;

/** What is between the page and a controller: the app's own server, or a port of this browser. */
export interface RunPort {
  view: RunView | null;
  /** why the last command was not carried out, or why the server does not answer */
  fault: string | null;
  /** whether this page's pulses keep the heat on */
  mine: boolean;
  start: (program: string, text: string, leadsToDraw: boolean) => Promise<void>;
  act: (command: RunCommand) => Promise<void>;
  /** looks for the controller again */
  again: () => Promise<void>;
  /** somebody says that the wire is out of the foam */
  freed: () => Promise<void>;
  /** the program of the run that ended early */
  stoppedText: () => Promise<string | null>;
  /** seconds until the heat goes off for want of anyone */
  presentS: number;
}

/** Whether anyone is there: any touch or key says so, for a while. */
export function useRunPresence(): { presentS: number; present: () => boolean } {
  const touched = useRef(0);
  const [presentS, setPresent] = useState(PRESENT_S);
  useEffect(() => {
    touched.current = performance.now();
    const touch = () => {
      touched.current = performance.now();
    };
    const left = () => Math.max(0, PRESENT_S - (performance.now() - touched.current) / 1000);
    const timer = setInterval(() => setPresent(left()), 1000);
    for (const kind of ["pointerdown", "keydown"]) window.addEventListener(kind, touch);
    return () => {
      clearInterval(timer);
      for (const kind of ["pointerdown", "keydown"]) window.removeEventListener(kind, touch);
    };
  }, []);
  const present = useCallback(() => performance.now() - touched.current < PRESENT_S * 1000, []);
  return { presentS, present };
}

/** The controller that is connected to the app's server: the page is before it as long as this is on show. */
export function useServerRun(rig: string, on: boolean, shape: string): RunPort {
  const [view, setView] = useState<RunView | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [silence, setSilence] = useState<string | null>(null);
  const [page] = useState(() => globalThis.crypto?.randomUUID?.() ?? `page-${Math.random().toString(36).slice(2, 14)}`);
  const run = useRef<string | null>(null);
  const { presentS, present } = useRunPresence();
  const show = useCallback((next: RunView) => {
    run.current = next.run?.id ?? null;
    setView(next);
  }, []);
  const attempt = useCallback(
    async (submit: () => Promise<RunView>) => {
      setRefusal(null);
      try {
        show(await submit());
      } catch (error) {
        setRefusal((error as Error).message);
      }
    },
    [show],
  );
  // Again when the frame is another than it was: a simulated controller takes its shape.
  // biome-ignore lint/correctness/useExhaustiveDependencies: shape is what it is opened for
  useEffect(() => {
    if (on) void attempt(() => api.run.open(rig, page));
  }, [on, rig, shape, page, attempt]);
  const again = useCallback(() => attempt(() => api.run.open(rig, page, true)), [attempt, rig, page]);
  // One that is found late, or comes back, is connected automatically; after a run that it broke off the person says when.
  const missing = on && view?.wired && (view.run === null || (view.run.phase === "lost" && view.run.lines === 0));
  useEffect(() => {
    if (!missing) return;
    const timer = setInterval(() => void again(), AGAIN_MS);
    return () => clearInterval(timer);
  }, [missing, again]);
  useEffect(() => {
    if (!on) return;
    let [busy, over] = [false, false];
    const timer = setInterval(() => {
      if (busy) return;
      busy = true;
      api.run
        .pulse(run.current, page, present())
        .then(
          (next) => {
            if (over) return;
            show(next);
            setSilence(null);
          },
          (error: Error) => !over && setSilence(error.message),
        )
        .finally(() => {
          busy = false;
        });
    }, PULSE_MS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [on, present, page, show]);
  // What was refused a moment ago is of no more interest once the run has gone on.
  const phase = view?.run?.phase;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the phase is what it is cleared for
  useEffect(() => setRefusal(null), [phase]);
  return {
    view,
    fault: refusal ?? silence,
    mine: view?.run?.page === null || view?.run?.page === undefined || view.run.page === page,
    presentS,
    start: (program, text, leadsToDraw) => attempt(() => api.run.start({ rig, page, program, text, leadsToDraw })),
    act: (command) => attempt(() => api.run.act("page" in command ? { ...command, page } : command)),
    again,
    freed: () => attempt(() => api.run.act({ act: "freed", rig, page })),
    stoppedText: () => (view?.stopped?.known ? api.run.program(view.stopped.run) : Promise.resolve(null)),
  };
}
