import { useEffect, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { pitchHz, pullLimits } from "@/core/physics/mechanics/tension";
import { tuneAdvice, watchPlateau } from "@/core/tuner/advice";
import type { DetectedPitch } from "@/core/tuner/pitch";
import type { MicrophoneFault } from "@/core/tuner/synth";
import type { Tasks } from "@/workers/clients";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";
import { useUnits } from "../../kit/useUnits";
import { useMicrophone } from "./useMicrophone";

export type TunerSource = "microphone" | "file" | "simulated";

/** What the simulated maker turns: each turn pulls this share of the target. */
const TURN_SHARE = 1 / 8;
const SIMULATED = { sampleRate: 16000, seconds: 1.3, noise: 0.04, hum: 0.12, humHz: 50 } as const;
/** Plucks that are remembered. */
const MOST_PLUCKS = 12;

/** The tuner's state: where it listens, the plucks it has detected, and what they say about the pull. @param rateNPerM of the device that pulls; null where it has none */
export function useTuner(design: Design, { wire, tension }: DesignEvaluation, rateNPerM: number | null) {
  const { system } = useUnits();
  const [source, setSource] = useState<TunerSource>("simulated");
  const [plucks, setPlucks] = useState<{ id: number; detected: DetectedPitch }[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [turns, setTurns] = useState(2);
  const [busy, setBusy] = useState(false);
  const [faults, setFaults] = useState<readonly MicrophoneFault[]>([]);
  const count = useRef(0);
  const worker = useRef<EngineClient<"hear"> | null>(null);
  useEffect(() => {
    const mine = new EngineClient("hear");
    worker.current = mine;
    return () => mine.close();
  }, []);
  const spanM = design.wire.length_mm / 1000;
  const wantedN = tension.coldN;
  const listen = (job: Tasks["hear"]["job"]) => {
    setBusy(true);
    setFault(null);
    worker.current
      ?.submit(job)
      .then((detected) => {
        count.current += 1;
        const id = count.current;
        setPlucks((all) => [...all, { id, detected }].slice(-MOST_PLUCKS));
      })
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      })
      .finally(() => setBusy(false));
  };
  const microphone = useMicrophone((samples, sampleRate) => listen({ from: "samples", samples, sampleRate }));
  const pluck = (at: number) => {
    // A simulated wire stretches with the screw until it yields; from there on the screw only thins it.
    const yieldN = pullLimits(wire, design.ambient_C).setN;
    const tensionN = Math.max(0.5, Math.min(at * TURN_SHARE * wantedN, yieldN));
    listen({ from: "simulated", scene: { wire, spanM, tensionN, ...SIMULATED, seed: count.current + 1, faults } });
  };
  const last = plucks.at(-1)?.detected ?? null;
  const pitches = plucks.flatMap(({ detected }) => (detected.hz === null ? [] : [detected.hz]));
  return {
    source,
    choose: (next: TunerSource) => {
      if (next !== "microphone") microphone.stop();
      setSource(next);
      setPlucks([]);
      setFault(null);
    },
    microphone,
    readWav: (bytes: Uint8Array<ArrayBuffer>) => listen({ from: "wav", bytes }),
    pluck: () => pluck(turns),
    /** turns the simulated wire's screw, and plucks */
    turn: (by: number) => {
      const next = Math.max(1, turns + by);
      setTurns(next);
      pluck(next);
    },
    turns,
    busy,
    fault,
    clearFault: () => setFault(null),
    faults,
    setFaultOn: (fault: MicrophoneFault, on: boolean) => setFaults((all) => (on ? [...all, fault] : all.filter((other) => other !== fault))),
    count: plucks.length,
    lastId: plucks.at(-1)?.id ?? 0,
    last,
    pitches,
    clear: () => setPlucks([]),
    wantedN,
    wantedHz: pitchHz(wire, spanM, wantedN),
    advice: last?.hz == null ? null : tuneAdvice(wire, spanM, last.hz, wantedN, rateNPerM, system),
    plateau: watchPlateau(wire, spanM, pitches, design.ambient_C),
  };
}

export type TunerState = ReturnType<typeof useTuner>;
