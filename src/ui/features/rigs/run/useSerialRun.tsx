"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { readProgram } from "@/core/motion/program/reader";
import { type FrameRig, wordsOf } from "@/core/rigs/frame/fields";
import { machineOf } from "@/core/rigs/frame/path";
import type { RigDocument } from "@/core/rigs/rig";
import { api, type RunView } from "../../../kit/api";
import { type SerialPort, SerialRun, type SerialRunSettings } from "./serialRun";
import { PRESENT_S, type RunPort, useRunPresence } from "./useServerRun";

interface Serial {
  requestPort(): Promise<SerialPort>;
}
const serialOf = (): Serial | null => (typeof navigator !== "undefined" && "serial" in navigator ? (navigator as unknown as { serial: Serial }).serial : null);

const BAUD = { least: 1200, most: 4_000_000, usual: 115_200 };
const PULSE_MS = 250;
const NOTHING: RunView = { wired: true, trouble: null, brokenOff: null, stopped: null, run: null };

/** A controller on a serial port of this computer: the page itself speaks to it, so when the page dies only the controller's own watchdog switches the heat off. */
export function useSerialRun(document: RigDocument, rig: FrameRig, on: boolean): RunPort & { available: boolean; connect: ReactNode } {
  const [available, setAvailable] = useState(false);
  useEffect(() => setAvailable(serialOf() !== null), []);
  const [view, setView] = useState<RunView>(NOTHING);
  const [fault, setFault] = useState<string | null>(null);
  const [baud, setBaud] = useState(String(BAUD.usual));
  const { presentS, present } = useRunPresence();
  const settings = useMemo((): SerialRunSettings => {
    const machine = machineOf(rig, Math.max(1, rig.apart_mm - rig.toBlock_mm));
    return {
      name: document.name,
      cutter: document.cutter?.id ?? null,
      words: wordsOf(rig),
      watchdogS: rig.watchdog_s,
      presenceMs: 1000,
      check: (text) => void readProgram(text, machine),
      log: api.log,
      now: () => performance.now(),
    };
  }, [document, rig]);
  const run = useRef<SerialRun | null>(null);
  run.current ??= new SerialRun(settings, () => run.current && setView(run.current.view));
  useEffect(() => run.current?.update(settings), [settings]);
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => run.current?.pulse(present()), PULSE_MS);
    const away = () => void run.current?.close();
    window.addEventListener("pagehide", away);
    return () => {
      clearInterval(timer);
      window.removeEventListener("pagehide", away);
      away();
    };
  }, [on, present]);
  const attempt = async (work: () => unknown) => {
    setFault(null);
    try {
      await work();
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  const connect = () =>
    attempt(async () => {
      const baudRate = Number(baud);
      if (!Number.isInteger(baudRate) || baudRate < BAUD.least || baudRate > BAUD.most)
        throw new Error(`The speed must be a whole number from ${BAUD.least} to ${BAUD.most} baud.`);
      const port = await serialOf()?.requestPort();
      if (port) await run.current?.open(port, baudRate);
    });
  return {
    available,
    view,
    fault,
    presentS,
    mine: true,
    start: (program, text) => attempt(() => run.current?.start(program, text)),
    again: async () => undefined,
    act: (command) => attempt(() => run.current?.act(command)),
    freed: () => attempt(() => run.current?.act({ act: "freed", rig: "", page: "" })),
    stoppedText: async () => run.current?.text ?? null,
    connect: (
      <>
        <TextField
          size="small"
          label="Speed, baud"
          value={baud}
          onChange={(event) => setBaud(event.target.value.slice(0, 8))}
          sx={{ width: 130 }}
          slotProps={{ htmlInput: { className: "num", inputMode: "numeric" } }}
        />
        <Button variant="outlined" onClick={() => void connect()}>
          Choose its port
        </Button>
        <p>
          A person who has touched nothing for {PRESENT_S / 60} minutes counts as gone. When this page is hidden or left, the wire goes cold first and the port
          is closed.
        </p>
      </>
    ),
  };
}
