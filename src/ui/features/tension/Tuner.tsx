"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useEffect, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { pitchHz, pullLimits } from "@/core/physics/mechanics/tension";
import { tuneAdvice, watchPlateau } from "@/core/tuner/advice";
import { type DetectedPitch, PITCH_DETECTION } from "@/core/tuner/pitch";
import { MICROPHONE_FAULTS, type MicrophoneFault } from "@/core/tuner/synth";
import type { Tasks } from "@/workers/clients";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { useMicrophone } from "./useMicrophone";

const FAULT_WORDS: Readonly<Record<MicrophoneFault, string>> = { trip: "hears nothing", dropout: "drops out", drift: "clock runs off" };

type Source = "microphone" | "file" | "simulated";

/** What the simulated maker turns: each turn pulls this share of the target. */
const TURN_SHARE = 1 / 8;
const SIMULATED = { sampleRate: 16000, seconds: 1.3, noise: 0.04, hum: 0.12, humHz: 50 } as const;

/** Pitch against the wanted one: the string drawn high or low of its mark. Drawing units are pixels of a 520 x 120 view; the scale is octaves. */
function StringDial({ detected, wanted, limit }: { detected: number | null; wanted: number; limit: number }) {
  const x = (hz: number) => 260 + 200 * Math.max(-1.2, Math.min(1.2, Math.log2(hz / wanted)));
  return (
    <svg
      viewBox="0 0 520 120"
      style={{ width: "100%", maxWidth: 560, display: "block" }}
      role="img"
      aria-label={detected === null ? "nothing heard yet" : `heard ${detected.toFixed(1)} Hz, wanted ${wanted.toFixed(1)} Hz`}
    >
      <path d="M20 84H500" stroke="var(--line)" strokeWidth={2} />
      {[0.5, 0.71, 1, 1.41, 2].map((ratio) => (
        <g key={ratio}>
          <path d={`M${x(wanted * ratio)} 78v12`} stroke="var(--graphite-soft)" />
          <text x={x(wanted * ratio)} y={106} textAnchor="middle" fontSize={12} className="num" fill="var(--graphite-soft)">
            {(wanted * ratio).toFixed(0)}
          </text>
        </g>
      ))}
      <path d="M252 60l8 16l8 -16z" fill="var(--cool)" />
      <text x={260} y={52} textAnchor="middle" fontSize={13} fill="var(--graphite)">
        wanted
      </text>
      {x(limit) < 495 && x(limit) > 275 && (
        <g>
          <path d={`M${x(limit)} 70V98`} stroke="var(--ember)" strokeWidth={2} strokeDasharray="3 3" />
          <text x={x(limit)} y={64} textAnchor="middle" fontSize={12} fill="var(--ember)">
            yields
          </text>
        </g>
      )}
      {detected !== null && (
        <g>
          <path d={`M${x(detected)} 14V84`} stroke="var(--graphite)" strokeWidth={3} />
          <circle cx={x(detected)} cy={84} r={6} fill="var(--paper-bright)" stroke="var(--graphite)" strokeWidth={3} />
        </g>
      )}
    </svg>
  );
}

/** Tunes the wire by ear: wanted pitch, heard pitch, what to turn, and when it yields. */
export function Tuner({
  design,
  evaluation,
  rateNPerM,
  onSave,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  rateNPerM: number | null;
  onSave: ((tensionN: number, hz: number) => void) | null;
}) {
  const { show, system } = useUnits();
  const [source, setSource] = useState<Source>("simulated");
  const [plucks, setPlucks] = useState<{ id: number; detected: DetectedPitch }[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [turns, setTurns] = useState(2);
  const [busy, setBusy] = useState(false);
  const [faults, setFaults] = useState<readonly MicrophoneFault[]>([]);
  const count = useRef(0);
  const ear = useRef<EngineClient<"hear"> | null>(null);
  const file = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const mine = new EngineClient("hear");
    ear.current = mine;
    return () => mine.close();
  }, []);
  const { wire, tension } = evaluation;
  const spanM = design.wire.length_mm / 1000;
  const wantedN = tension.coldN;
  const wantedHz = pitchHz(wire, spanM, wantedN);
  const listen = (job: Tasks["hear"]["job"]) => {
    setBusy(true);
    setFault(null);
    ear.current
      ?.submit(job)
      .then((detected) => {
        count.current += 1;
        const id = count.current;
        setPlucks((all) => [...all, { id, detected }].slice(-12));
      })
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      })
      .finally(() => setBusy(false));
  };
  const microphone = useMicrophone((samples, sampleRate) => listen({ from: "samples", samples, sampleRate }));
  const pluckSimulated = (at: number) => {
    // A simulated wire stretches with the screw until it yields; from there on the screw only thins it.
    const yieldN = pullLimits(wire, design.ambient_C).setN;
    const tensionN = Math.max(0.5, Math.min(at * TURN_SHARE * wantedN, yieldN));
    listen({ from: "simulated", scene: { wire, spanM, tensionN, ...SIMULATED, seed: count.current + 1, faults } });
  };
  const turn = (by: number) => {
    const next = Math.max(1, turns + by);
    setTurns(next);
    pluckSimulated(next);
  };
  const last = plucks.at(-1)?.detected ?? null;
  const pitches = plucks.flatMap(({ detected }) => (detected.hz === null ? [] : [detected.hz]));
  const advice = last?.hz == null ? null : tuneAdvice(wire, spanM, last.hz, wantedN, rateNPerM, system);
  const plateau = watchPlateau(wire, spanM, pitches, design.ambient_C);
  const choose = (next: Source) => {
    if (next !== "microphone") microphone.stop();
    setSource(next);
    setPlucks([]);
    setFault(null);
  };
  return (
    <section aria-label="Pluck tuner" data-plucks={plucks.at(-1)?.id ?? 0} style={{ maxWidth: 620 }}>
      <p style={{ margin: "0 0 8px" }}>
        Cold, this wire should sing <strong className="num">{wantedHz.toFixed(1)} Hz</strong> ({show("force", wantedN, 1)} over{" "}
        {show("length", design.wire.length_mm)}). <Why of="pitch heard" relation={PITCH_DETECTION} inputs={`${plucks.length} plucks listened to.`} />
      </p>
      <TileRow>
        <Tile chosen={source === "microphone"} onClick={() => choose("microphone")}>
          microphone
        </Tile>
        <Tile chosen={source === "file"} onClick={() => choose("file")}>
          WAV file
        </Tile>
        <Tile chosen={source === "simulated"} onClick={() => choose("simulated")}>
          simulated microphone
        </Tile>
      </TileRow>
      <StringDial detected={last?.hz ?? null} wanted={wantedHz} limit={tension.yieldPitchHz} />
      <div role="status" style={{ minHeight: 84 }}>
        <p className="num" data-figure="heard" style={{ fontSize: 30, fontWeight: 600, margin: 0 }}>
          {last === null ? "listening for a pluck" : last.hz === null ? "no note" : `${last.hz.toFixed(1)} Hz`}
        </p>
        {last && (
          <p data-advice={advice?.state ?? "none"} style={{ margin: 0 }}>
            {advice ? <strong>{advice.words}. </strong> : null}
            {last.hz === null ? `${last.words}.` : `Confidence ${Math.round(last.confidence * 100)} %, ${last.words}.`}
          </p>
        )}
        {plateau.state !== "too few" && (
          <p
            data-plateau={plateau.state}
            style={{ margin: "4px 0 0", ...(plateau.state === "yielding" ? { borderLeft: "5px solid var(--ember)", paddingLeft: 10 } : {}) }}
          >
            {plateau.state === "yielding" && <strong>Stop. </strong>}
            {plateau.words}
          </p>
        )}
      </div>
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)}>
          {fault}
        </Alert>
      )}
      <div style={{ display: "flex", gap: 10, flexWrap: "wrap", marginTop: 8 }}>
        {source === "microphone" &&
          (microphone.state.kind === "listening" ? (
            <Button variant="outlined" onClick={microphone.stop}>
              Stop listening
            </Button>
          ) : (
            <Button variant="contained" disabled={microphone.state.kind === "asking"} onClick={microphone.start}>
              Listen
            </Button>
          ))}
        {source === "file" && (
          <>
            <Button variant="contained" onClick={() => file.current?.click()}>
              Read a WAV file
            </Button>
            <input
              ref={file}
              type="file"
              hidden
              accept=".wav,audio/wav,audio/x-wav"
              aria-label="WAV file"
              onChange={(event) => {
                const chosen = event.target.files?.[0];
                event.target.value = "";
                if (chosen) void chosen.arrayBuffer().then((buffer) => listen({ from: "wav", bytes: new Uint8Array(buffer) }));
              }}
            />
          </>
        )}
        {source === "simulated" && (
          <>
            <Button variant="contained" disabled={busy} onClick={() => pluckSimulated(turns)}>
              Pluck
            </Button>
            <Button variant="outlined" disabled={busy} onClick={() => turn(1)}>
              One turn tighter, pluck
            </Button>
            <Button variant="outlined" disabled={busy || turns <= 1} onClick={() => turn(-1)}>
              One turn slacker, pluck
            </Button>
          </>
        )}
        {onSave && advice?.tensionN != null && last?.hz != null && (
          <Button onClick={() => onSave(advice.tensionN as number, last.hz as number)}>Keep in the log</Button>
        )}
      </div>
      {source === "simulated" && (
        <fieldset style={{ border: 0, padding: 0, margin: "8px 0 0" }}>
          <legend style={{ fontSize: 14 }}>Make the microphone misbehave</legend>
          {MICROPHONE_FAULTS.map((each) => (
            <FormControlLabel
              key={each}
              control={
                <Checkbox
                  size="small"
                  checked={faults.includes(each)}
                  onChange={(event) => setFaults((all) => (event.target.checked ? [...all, each] : all.filter((other) => other !== each)))}
                />
              }
              label={FAULT_WORDS[each]}
            />
          ))}
        </fieldset>
      )}
      {microphone.state.kind === "refused" && source === "microphone" && <Alert severity="info">{microphone.state.words}</Alert>}
      {pitches.length > 1 && (
        <p style={{ fontSize: 14 }}>
          Plucks: <span className="num">{pitches.map((hz) => hz.toFixed(1)).join(", ")} Hz</span>{" "}
          <Button size="small" onClick={() => setPlucks([])}>
            Begin again
          </Button>
        </p>
      )}
    </section>
  );
}
