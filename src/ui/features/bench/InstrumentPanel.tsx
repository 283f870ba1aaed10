"use client";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { DEVICE_FAULTS, type DeviceFault, type DeviceName } from "@/core/devices/instruments";
import { Tile, TileRow } from "../../kit/Tile";
import type { Bench } from "./useBench";

const NAMES: Readonly<Record<DeviceName, string>> = { supply: "bench supply", pwm: "PWM controller", thermometer: "thermometer", scale: "pull scale" };
const FAULT_WORDS: Readonly<Record<DeviceFault, string>> = { trip: "trip", dropout: "drop out", drift: "drift" };
/** Lines worth trying on each. */
const TRY: Readonly<Record<DeviceName, readonly string[]>> = {
  supply: ["*IDN?", "MEAS:VOLT?", "MEAS:CURR?", "OUTP?", "SYST:ERR?"],
  pwm: ["*IDN?", "SOUR:PULS:DCYC?", "SOUR:PULS:DCYC 30"],
  thermometer: ["*IDN?", "MEAS:TEMP?"],
  scale: ["*IDN?", "READ?"],
};
const MOST_LINES = 8;

/** The bench's simulated devices: their faults, and a line to speak to them as to real ones. */
export function InstrumentPanel({ bench, devices }: { bench: Bench; devices: readonly DeviceName[] }) {
  const [device, setDevice] = useState<DeviceName>("supply");
  const [faults, setFaults] = useState<Readonly<Record<string, boolean>>>({});
  const [line, setLine] = useState("");
  const [talk, setTalk] = useState<{ id: number; said: string; heard: string }[]>([]);
  const say = (text: string) => {
    const said = text.trim();
    if (said === "") return;
    bench.client.current?.say(device, said).then(
      (evaluation) => setTalk((all) => [...all, { id: (all.at(-1)?.id ?? 0) + 1, said, heard: evaluation ?? "(no answer)" }].slice(-MOST_LINES)),
      (error: Error) => setTalk((all) => [...all, { id: (all.at(-1)?.id ?? 0) + 1, said, heard: error.message }].slice(-MOST_LINES)),
    );
    setLine("");
  };
  const fault = (name: DeviceFault, on: boolean) => {
    setFaults((all) => ({ ...all, [`${device} ${name}`]: on }));
    bench.client.current?.send({ kind: "fault", device, fault: name, on });
  };
  return (
    <section aria-label="Instruments">
      <TileRow>
        {devices.map((each) => (
          <Tile key={each} chosen={device === each} onClick={() => setDevice(each)}>
            {NAMES[each]}
          </Tile>
        ))}
      </TileRow>
      <fieldset style={{ border: 0, padding: 0, margin: "6px 0" }}>
        <legend style={{ fontSize: 14 }}>Make it misbehave</legend>
        {DEVICE_FAULTS.map((name) => (
          <FormControlLabel
            key={name}
            control={<Checkbox size="small" checked={faults[`${device} ${name}`] ?? false} onChange={(event) => fault(name, event.target.checked)} />}
            label={FAULT_WORDS[name]}
          />
        ))}
      </fieldset>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          say(line);
        }}
        style={{ display: "flex", gap: 8 }}
      >
        <TextField
          size="small"
          fullWidth
          label="Say a line to it"
          value={line}
          onChange={(event) => setLine(event.target.value.slice(0, 200))}
          slotProps={{ htmlInput: { className: "num", autoComplete: "off" } }}
        />
        <Button type="submit" variant="outlined">
          Say
        </Button>
      </form>
      <div style={{ display: "flex", gap: 4, flexWrap: "wrap", margin: "6px 0" }}>
        {TRY[device].map((each) => (
          <Button key={each} size="small" onClick={() => say(each)} className="num" sx={{ fontFamily: "var(--num)", textTransform: "none" }}>
            {each}
          </Button>
        ))}
      </div>
      <ol role="log" aria-label="What was said" className="num" style={{ listStyle: "none", margin: 0, padding: 0, fontSize: 14 }}>
        {talk.map((each) => (
          <li key={each.id}>
            {each.said} <span style={{ color: "var(--graphite-soft)" }}>→</span> {each.heard}
          </li>
        ))}
      </ol>
      <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
        The same lines work over a socket: <code>npm run -s instruments</code>; real instruments that speak them can be in their place (see
        docs/instruments.md).
      </p>
    </section>
  );
}
