"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { programLines } from "@/core/motion/lines";
import { Sender } from "@/core/motion/sender";
import { type FrameRig, wordsOf } from "@/core/rigs/frame/fields";
import { RunJournal } from "@/core/rigs/frame/journal";
import type { RigDocument } from "@/core/rigs/rig";
import { api, type LogRow, type RunTold } from "../../../kit/api";
import { type RunPort, usePresence } from "./useServerRun";

/** What of the browser's serial ports is used (Web Serial, a published draft); not every browser has them. */
interface Port {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
}
interface Serial {
  requestPort(): Promise<Port>;
}
const serialOf = (): Serial | null => (typeof navigator !== "undefined" && "serial" in navigator ? (navigator as unknown as { serial: Serial }).serial : null);

const TICK_MS = 50;
const BAUD = { least: 1200, most: 4_000_000, usual: 115_200 };

/** A controller on a serial port of this computer: the page itself is what speaks to it, so its own watchdog is all that takes the heat off when the page dies. */
export function useSerialRun(document: RigDocument, rig: FrameRig, on: boolean): RunPort & { available: boolean; connect: ReactNode } {
  const [available, setAvailable] = useState(false);
  useEffect(() => setAvailable(serialOf() !== null), []);
  const [told, setTold] = useState<RunTold | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [baud, setBaud] = useState(String(BAUD.usual));
  const { presentS, present } = usePresence();
  const sender = useRef<Sender | null>(null);
  const job = useRef<{ journal: RunJournal; row: LogRow } | null>(null);
  const unwatched = useRef(false);
  const unlogged = useRef(false);
  const cutter = document.cutter?.id ?? null;
  const name = document.name;

  const show = useCallback(() => {
    const state = sender.current?.told;
    const now = job.current;
    setTold({
      wired: true,
      trouble: null,
      cutOff: null,
      run: state
        ? {
            ...state,
            at: state.at && { ...state.at },
            rig: null,
            program: now?.journal.program ?? null,
            seconds: now?.journal.seconds(Date.now()) ?? 0,
            practice: false,
            unwatched: unwatched.current,
            unlogged: unlogged.current,
          }
        : null,
    });
  }, []);

  // One write after the other: each must name the revision that the one before it left.
  const keeping = useRef<Promise<void>>(Promise.resolve());
  const keep = useCallback((): Promise<void> => {
    const [now, state] = [job.current, sender.current?.told];
    if (!now || !state || !cutter) return keeping.current;
    const words = now.journal.entry(state, Date.now());
    keeping.current = keeping.current.then(async () => {
      try {
        now.row = await api.log.save(cutter, now.row, words);
        unlogged.current = false;
      } catch {
        // Told on the page as long as it lasts; the next try is in two seconds.
        unlogged.current = true;
      }
    });
    return keeping.current;
  }, [cutter]);

  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => {
      const [speaks, now] = [sender.current, job.current];
      if (!speaks) return;
      speaks.tick(Date.now());
      const { phase, heat } = speaks.told;
      if (!present() && (phase === "running" || phase === "resuming")) {
        unwatched.current = true;
        speaks.hold();
      }
      now?.journal.pass(Date.now(), (heat ?? (phase === "running" ? 1 : 0)) > 0);
      if (now?.journal.due(Date.now(), speaks.busy, unlogged.current)) void keep();
      show();
    }, TICK_MS);
    const away = () => sender.current?.stop();
    window.addEventListener("pagehide", away);
    return () => {
      clearInterval(timer);
      window.removeEventListener("pagehide", away);
      sender.current?.stop();
    };
  }, [on, keep, show, present]);

  const connect = async () => {
    setFault(null);
    const baudRate = Number(baud);
    if (!Number.isInteger(baudRate) || baudRate < BAUD.least || baudRate > BAUD.most) {
      setFault(`The speed must be a whole number from ${BAUD.least} to ${BAUD.most} baud.`);
      return;
    }
    try {
      const port = await serialOf()?.requestPort();
      if (!port) return;
      await port.open({ baudRate });
      const writer = port.writable?.getWriter();
      const reader = port.readable?.getReader();
      if (!writer || !reader) throw new Error("The port can be neither read nor written.");
      const bytes = new TextEncoder();
      const speaks: Sender = new Sender(
        {
          write: (text) => {
            writer.write(bytes.encode(text)).catch(() => speaks.lost("the port cannot be written"));
          },
          close: () => {
            void reader.cancel().catch(() => {
              // The port is gone: there is nothing left to cancel.
            });
          },
        },
        wordsOf(rig),
        Date.now(),
      );
      sender.current = speaks;
      show();
      const text = new TextDecoder();
      for (;;) {
        const { done, value } = await reader.read();
        if (done) break;
        speaks.heard(text.decode(value, { stream: true }), Date.now());
      }
      speaks.lost("the port is closed");
    } catch (error) {
      sender.current?.lost((error as Error).message);
      setFault(`The port cannot be used: ${(error as Error).message}`);
    }
    show();
  };

  return {
    available,
    told: told ?? { wired: true, trouble: null, cutOff: null, run: null },
    fault,
    presentS,
    start: async (program, text) => {
      const speaks = sender.current;
      if (!speaks || speaks.busy) return;
      if (!cutter) {
        setFault("Name the cutter that hangs in this frame: the run goes to its log.");
        return;
      }
      const lines = programLines(text);
      const journal = new RunJournal(name, program, Date.now());
      try {
        const row = await api.log.add(cutter, journal.entry({ phase: "running", reason: "", line: 0, lines: lines.length }, Date.now()));
        job.current = { journal, row };
        unwatched.current = false;
        speaks.start(lines, Date.now());
        setFault(null);
      } catch (error) {
        setFault((error as Error).message);
      }
      show();
    },
    again: async () => undefined,
    act: async (deed) => {
      const speaks = sender.current;
      if (!speaks) return;
      if (deed.act === "resume") {
        unwatched.current = false;
        speaks.resume(deed.warm_s);
      } else if (deed.act !== "misbehave" && deed.act !== "speed") speaks[deed.act]();
      show();
    },
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
      </>
    ),
  };
}
