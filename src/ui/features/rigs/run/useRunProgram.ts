import { useEffect, useMemo, useState } from "react";
import type { Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { carriageFaces } from "@/core/motion/program/carriages";
import { type ReadProgram, readProgram } from "@/core/motion/program/reader";
import type { RigSurroundings } from "@/core/rigs/around";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { retractProgram } from "@/core/rigs/frame/out";
import { machineOf } from "@/core/rigs/frame/path";
import { useFrameProgram } from "../useFrameProgram";
import type { RunFigures } from "./runScreen";
import type { RunPort } from "./useServerRun";

/** A program that can be followed. */
export interface Chosen {
  name: string;
  text: string;
  read: ReadProgram;
}

const PLAN = "the plan's own path";

/** Programs of a run's page: the plan's own, one that was opened, and the one of a run that ended early. */
export function useRunProgram(rig: FrameRig, around: RigSurroundings, port: RunPort) {
  const own = useFrameProgram(rig, around);
  const [opened, setOpened] = useState<Chosen | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const span = around.plan?.plan.part.span_mm ?? Math.max(1, rig.apart_mm - rig.toBlock_mm);
  const machine = useMemo(() => machineOf(rig, span), [rig, span]);
  const chosen = useMemo((): Chosen | null => {
    if (opened) return opened;
    if (!own.program) return null;
    return { name: around.plan?.plan.name ?? PLAN, text: own.program.text, read: readProgram(own.program.text, machine) };
  }, [opened, own.program, machine, around.plan]);
  const open = async (file: File) => {
    setRefused(null);
    try {
      const text = await file.text();
      setOpened({ name: file.name, text, read: readProgram(text, machine) });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      setRefused(`${file.name} cannot be followed: ${error.message}`);
    }
  };
  // The way out is along what the stopped run's own program cut, regardless of what is open now.
  const stoppedId = port.view?.stopped?.run ?? null;
  const [stopped, setStopped] = useState<Chosen | null>(null);
  const program = port.view?.stopped?.program ?? "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: the run is what its program is fetched for
  useEffect(() => {
    let over = false;
    setStopped(null);
    if (stoppedId === null) return;
    void port.stoppedText().then((text) => {
      if (over || text === null) return;
      try {
        setStopped({ name: program, text, read: readProgram(text, machine) });
      } catch (error) {
        // A frame that was changed since cannot follow it: the wire is brought out by hand.
        if (!(error instanceof CoreError)) throw error;
      }
    });
    return () => {
      over = true;
    };
  }, [stoppedId, machine]);
  return { own, opened, setOpened, refused, setRefused, machine, span, chosen, open, stopped };
}

/** Where the wire is at the block's near face, as last reported. */
export function wireAt(at: RunFigures["at"], machine: ReturnType<typeof machineOf>): Point | null {
  if (!at) return null;
  const [x, y, u, v] = machine.axes.map((axis) => at[axis]);
  if (x === undefined || y === undefined) return null;
  if (u === undefined || v === undefined || !machine.layout) return [x, y];
  return carriageFaces(machine.layout, [[x, y]], [[u, v]]).root[0] as Point;
}

/** The way out of the foam after a run that ended early; null where it is not known. */
export function useRetractPath(rig: FrameRig, span: number, stopped: Chosen | null, port: RunPort, machine: ReturnType<typeof machineOf>, feedMmS: number) {
  const ended = port.view?.stopped ?? null;
  // What the server reports changes its objects with each pulse, not its figures.
  const key = JSON.stringify(ended);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key represents what ended
  return useMemo((): ReturnType<typeof retractProgram> => {
    if (!ended || !stopped || stopped.read.path.length === 0) return null;
    try {
      return retractProgram(rig, span, stopped.read, ended.line, wireAt(ended.at, machine), feedMmS);
    } catch (error) {
      if (error instanceof CoreError) return null;
      throw error;
    }
  }, [key, stopped, rig, span, machine, feedMmS]);
}
