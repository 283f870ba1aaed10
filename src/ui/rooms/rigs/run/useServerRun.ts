import { useCallback, useEffect, useRef, useState } from "react";
import { api, type RunDeed, type RunTold } from "../../../kit/api";

/** How often the page says that it is there, and hears how things stand, ms. */
const PULSE_MS = 250;
/** How often a controller that is not there, and at nothing, is looked for again, ms. */
const AGAIN_MS = 2000;
/** A touch or a key counts as presence for so long, s. */
export const PRESENT_S = 300;

/** What stands between the page and a controller: the app's own server, or a port of this browser. */
export interface RunPort {
  told: RunTold | null;
  fault: string | null;
  start: (program: string, text: string) => Promise<void>;
  act: (deed: RunDeed) => Promise<void>;
  /** looks for the controller again */
  again: () => Promise<void>;
  /** seconds until the heat goes off for want of anyone */
  presentS: number;
}

/** Whether anyone is there: any touch or key says so, for a while. */
export function usePresence(): { presentS: number; present: () => boolean } {
  const touched = useRef(0);
  const [presentS, setPresent] = useState(PRESENT_S);
  useEffect(() => {
    touched.current = Date.now();
    const touch = () => {
      touched.current = Date.now();
    };
    const left = () => Math.max(0, PRESENT_S - (Date.now() - touched.current) / 1000);
    const timer = setInterval(() => setPresent(left()), 1000);
    for (const kind of ["pointerdown", "keydown"]) window.addEventListener(kind, touch);
    return () => {
      clearInterval(timer);
      for (const kind of ["pointerdown", "keydown"]) window.removeEventListener(kind, touch);
    };
  }, []);
  const present = useCallback(() => Date.now() - touched.current < PRESENT_S * 1000, []);
  return { presentS, present };
}

/** The controller that is wired to the app: the page stands before it as long as this is on show. */
export function useServerRun(rig: string, on: boolean, shape: string): RunPort {
  const [told, setTold] = useState<RunTold | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const { presentS, present } = usePresence();
  const deed = useCallback(async (ask: () => Promise<RunTold>) => {
    try {
      setTold(await ask());
      setFault(null);
    } catch (error) {
      setFault((error as Error).message);
    }
  }, []);
  // Anew when the frame is another than it was: a stand-in takes its shape.
  // biome-ignore lint/correctness/useExhaustiveDependencies: shape is what it is opened for
  useEffect(() => {
    if (on) void deed(() => api.run.open(rig));
  }, [on, rig, shape, deed]);
  const again = useCallback(() => deed(() => api.run.open(rig, true)), [deed, rig]);
  // One that is found late, or comes back, is met by itself; after a run that it broke off the person says when.
  const missing = on && told?.wired && (told.run === null || (told.run.phase === "lost" && told.run.lines === 0));
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
        .pulse(present())
        .then(
          (next) => !over && setTold(next),
          (error: Error) => !over && setFault(error.message),
        )
        .finally(() => {
          busy = false;
        });
    }, PULSE_MS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [on, present]);
  return {
    told,
    fault,
    presentS,
    start: (program, text) => deed(() => api.run.start(rig, program, text)),
    act: (what) => deed(() => api.run.act(what)),
    again,
  };
}
