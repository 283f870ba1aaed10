"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useRef } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { PITCH_DETECTION } from "@/core/tuner/pitch";
import { MICROPHONE_FAULTS, type MicrophoneFault } from "@/core/tuner/synth";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { type TunerState, useTuner } from "./useTuner";

const FAULT_WORDS: Readonly<Record<MicrophoneFault, string>> = { trip: "hears nothing", dropout: "drops out", drift: "clock runs off" };

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

/** Keys of the source that is chosen: listen, read a file, or pluck the simulated wire. */
function SourceKeys({ tuner }: { tuner: TunerState }) {
  const { source, microphone, readWav, pluck, turn, turns, busy } = tuner;
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
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
              if (chosen) void chosen.arrayBuffer().then((buffer) => readWav(new Uint8Array(buffer)));
            }}
          />
        </>
      )}
      {source === "simulated" && (
        <>
          <Button variant="contained" disabled={busy} onClick={() => pluck()}>
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
    </>
  );
}

/** Faults of the simulated microphone, switched on and off. */
function MicrophoneFaults({ faults, setFaultOn }: Pick<TunerState, "faults" | "setFaultOn">) {
  return (
    <fieldset style={{ border: 0, padding: 0, margin: "8px 0 0" }}>
      <legend style={{ fontSize: 14 }}>Make the microphone misbehave</legend>
      {MICROPHONE_FAULTS.map((each) => (
        <FormControlLabel
          key={each}
          control={<Checkbox size="small" checked={faults.includes(each)} onChange={(event) => setFaultOn(each, event.target.checked)} />}
          label={FAULT_WORDS[each]}
        />
      ))}
    </fieldset>
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
  const { show } = useUnits();
  const tuner = useTuner(design, evaluation, rateNPerM);
  const { source, choose, microphone, fault, last, pitches, wantedN, wantedHz, advice, plateau } = tuner;
  return (
    <section aria-label="Pluck tuner" data-plucks={tuner.lastId} style={{ maxWidth: 620 }}>
      <p style={{ margin: "0 0 8px" }}>
        Cold, this wire should sing <strong className="num">{wantedHz.toFixed(1)} Hz</strong> ({show("force", wantedN, 1)} over{" "}
        {show("length", design.wire.length_mm)}). <Why of="pitch heard" relation={PITCH_DETECTION} inputs={`${tuner.count} plucks listened to.`} />
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
      <StringDial detected={last?.hz ?? null} wanted={wantedHz} limit={evaluation.tension.yieldPitchHz} />
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
        <Alert severity="error" onClose={tuner.clearFault}>
          {fault}
        </Alert>
      )}
      <div style={{ display: "flex", gap: 10, flexWrap: "wrap", marginTop: 8 }}>
        <SourceKeys tuner={tuner} />
        {onSave && advice?.tensionN != null && last?.hz != null && (
          <Button onClick={() => onSave(advice.tensionN as number, last.hz as number)}>Add to the log</Button>
        )}
      </div>
      {source === "simulated" && <MicrophoneFaults {...tuner} />}
      {microphone.state.kind === "refused" && source === "microphone" && <Alert severity="info">{microphone.state.words}</Alert>}
      {pitches.length > 1 && (
        <p style={{ fontSize: 14 }}>
          Plucks: <span className="num">{pitches.map((hz) => hz.toFixed(1)).join(", ")} Hz</span>{" "}
          <Button size="small" onClick={tuner.clear}>
            Begin again
          </Button>
        </p>
      )}
    </section>
  );
}
