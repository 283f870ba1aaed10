"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { facesOf } from "@/core/motion/carriages";
import { programLines } from "@/core/motion/lines";
import { FULL_HEAT } from "@/core/motion/machine";
import { type ReadProgram, readProgram } from "@/core/motion/reader";
import { CONTROLLER_FAULTS, type ControllerFault } from "@/core/motion/standIn";
import type { Around } from "@/core/rigs/around";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { frameOut, passedAt, secondsLeft } from "@/core/rigs/frame/out";
import { machineOf } from "@/core/rigs/frame/path";
import type { Show } from "@/core/rigs/record";
import type { RigDocument } from "@/core/rigs/rig";
import { useQuestion } from "../../../kit/address";
import type { RunTold } from "../../../kit/api";
import { FileButton } from "../../../kit/FileButton";
import { HOTKEYS } from "../../../kit/hotkeys";
import { Tile, TileRow } from "../../../kit/Tile";
import { useAwake } from "../../../kit/useAwake";
import { SecondKey } from "../../second/SecondKey";
import { useFrameProgram } from "../useFrameProgram";
import { type RunKey, RunKeys, useStood } from "./RunKeys";
import { RunPicture } from "./RunPicture";
import { useSerialRun } from "./useSerialRun";
import { PRESENT_S, type RunPort, useServerRun } from "./useServerRun";

type Run = NonNullable<RunTold["run"]>;

const PHASE_WORDS: Readonly<Record<Run["phase"], string>> = {
  ready: "Ready",
  homing: "Homing",
  running: "Running",
  holding: "Slowing down",
  held: "Held, heat off",
  resuming: "Warming up",
  stopped: "Stopped, heat off",
  fault: "Fault, heat off",
  refused: "Refused",
  done: "Done",
  lost: "No controller",
};
const FAULT_WORDS: Readonly<Record<ControllerFault, string>> = {
  limit: "a limit switch is pressed",
  steps: "steps are lost",
  noise: "noise on the switch lead",
  silent: "it falls silent",
  disconnect: "the lead is pulled",
};
/** With the heat on again before it moves on, s. */
const WARM_S = 4;
/** Last seconds in which it is asked for a touch. */
const ASK_S = 45;
/** Places reported that are drawn at most; then every other one is let go. */
const MOST_DRAWN = 1500;
const SPEEDS = [1, 10, 50] as const;

interface Chosen {
  name: string;
  text: string;
  read: ReadProgram;
}

const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;
const PLAN = "the plan's own path";

/** A program run on the controller: streamed, watched, held, stopped, and led out of the foam. */
export function RigRun({
  id,
  document,
  rig,
  around,
  feedMmS,
  show,
}: {
  id: string;
  document: RigDocument;
  rig: FrameRig;
  around: Around;
  feedMmS: number;
  show: Show;
}) {
  const [via, setVia] = useState<"app" | "serial">("app");
  const server = useServerRun(id, via === "app", JSON.stringify(rig));
  const serial = useSerialRun(document, rig, via === "serial");
  const port: RunPort = via === "app" ? server : serial;
  const own = useFrameProgram(rig, around);
  const [ticket, setTicket] = useQuestion("second");
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
      setRefused(`${file.name} is not followed: ${error.message}`);
    }
  };
  const run = port.told?.run ?? null;
  // The way out is a program too; what it leads is drawn over what was cut, which stays in mind.
  const [leaving, setLeaving] = useState<Chosen | null>(null);
  const shown = leaving ?? chosen;
  const phase = run?.phase ?? "lost";
  const mine = run !== null && (run.rig === null || run.rig === id);
  const busy = ["running", "holding", "held", "resuming", "fault"].includes(phase);
  useAwake(busy);
  const stood = useMemo((): Point | null => {
    const at = run?.at;
    if (!at) return null;
    const [x, y, u, v] = machine.axes.map((axis) => at[axis]);
    if (x === undefined || y === undefined) return null;
    if (u === undefined || v === undefined || !machine.stand) return [x, y];
    return facesOf(machine.stand, [[x, y]], [[u, v]]).root[0] as Point;
  }, [run?.at, machine]);
  const heat = run?.heat ?? 0;
  const begun = run !== null && run.lines > 0 && phase !== "ready" && phase !== "homing";
  const lines = useMemo(() => (shown ? programLines(shown.text).length : 0), [shown]);
  // Of another program than the one that is shown it is not known how far along this one's way it came.
  const cutTo = shown && begun && run.lines === lines ? passedAt(shown.read, phase === "done" ? Number.POSITIVE_INFINITY : run.line) : 0;
  const drawn = useRef<Point[]>([]);
  useEffect(() => {
    if (!stood || phase !== "running" || heat === 0) return;
    drawn.current = [...(drawn.current.length >= MOST_DRAWN ? drawn.current.filter((_, i) => i % 2 === 0) : drawn.current), stood];
  }, [stood, phase, heat]);
  // Out of it by hand: the person says so, of the run that was stopped.
  const [freed, setFreed] = useState<number | null>(null);
  const inFoam = begun && !leaving && freed !== run.line && ["stopped", "refused", "lost", "fault", "held"].includes(phase);
  // A run that did not come to its end, such as one whose computer died: the log says so.
  const [sure, setSure] = useState(false);
  const inDoubt = port.told?.cutOff !== null && port.told?.cutOff !== undefined && !sure && !busy;
  // The way out is along what this very program cut: of another, such as one opened before a reload, nothing is known here.
  const known = chosen !== null && run !== null && run.program === chosen.name && run.lines === programLines(chosen.text).length;
  const found = useMemo((): ReturnType<typeof frameOut> | "unknown" => {
    if (!inFoam || !run || run.line === 0) return null;
    if (!known || !chosen) return "unknown";
    try {
      return frameOut(rig, span, chosen.read, run.line, stood, feedMmS);
    } catch (error) {
      if (error instanceof CoreError) return "unknown";
      throw error;
    }
  }, [inFoam, known, chosen, run, rig, span, stood, feedMmS]);
  const out = found === "unknown" ? null : found;
  // Until it is known that nothing was cut, nobody homes.
  const stuck = inFoam && found !== null;
  // Until it is answered it is not asked again.
  const [starting, setStarting] = useState(false);
  const begin = (program: string, text: string) => {
    setStarting(true);
    void port.start(program, text).finally(() => setStarting(false));
  };
  const start = () => {
    if (!chosen) return;
    drawn.current = [];
    setLeaving(null);
    setFreed(null);
    begin(chosen.name, chosen.text);
  };
  const free = () => {
    setFreed(run?.line ?? null);
    setSure(true);
  };
  const leadOut = () => {
    if (!out) return;
    setLeaving({ name: "out of the foam", text: out.text, read: readProgram(out.text, machine) });
    begin("out of the foam, along the kerf", out.text);
  };
  const calm = useStood(phase);
  const holdOrGo = () => {
    if (phase === "held" && calm) void port.act({ act: "resume", warm_s: WARM_S });
    else if (phase === "running" || phase === "resuming") void port.act({ act: "hold" });
  };
  const stops = busy || phase === "homing";
  const stop = () => {
    if (stops) void port.act({ act: "stop" });
  };
  const keysNow = (): RunKey[] => {
    if (phase === "fault") return [{ word: "It is free: clear", act: () => void port.act({ act: "clear" }) }];
    if (phase === "held") return [{ word: "Go on", small: "space", act: holdOrGo, starts: true }];
    if (busy) return [{ word: "Hold", small: "space", act: holdOrGo, disabled: phase === "holding", atOnce: true }];
    if (inDoubt) return [{ word: "The wire is out of the foam", small: port.told?.cutOff ?? "", act: () => setSure(true) }];
    if (stuck)
      return [
        {
          word: "Lead it out",
          small: out ? `along its kerf, ${clock(out.timeS)}` : "its way is not known here",
          act: leadOut,
          disabled: phase === "lost" || !out || starting,
          starts: true,
        },
        { word: "It is out", small: "by hand", act: free, disabled: starting },
      ];
    return [
      phase === "lost" && via === "app"
        ? { word: "Connect again", act: () => void port.again() }
        : { word: "Home", act: () => void port.act({ act: "home" }), disabled: phase === "homing" || phase === "lost" || starting },
      {
        word: "Start",
        small: chosen ? chosen.name : "no program",
        act: start,
        disabled: !chosen || starting || phase === "homing" || (phase === "lost" && via === "serial"),
        starts: true,
      },
    ];
  };
  const keys = keysNow();
  // A key that is kept down says no more than one that is pressed.
  useHotkeys("space, h", holdOrGo, { ...HOTKEYS, ignoreEventWhen: ({ repeat }) => repeat }, [phase, calm]);
  useHotkeys("s, escape", stop, HOTKEYS, [phase]);
  const wired = port.told?.wired ?? true;
  const [speed, setSpeed] = useState<number>(1);
  const left = shown && run && begun ? secondsLeft(shown.read, run.line) : null;

  if (!wired && via === "app")
    return (
      <div className="run">
        <p className="rig-says">No controller is wired to this app.</p>
        <p>
          Start it with <code className="num">UPWIND_CONTROLLER=127.0.0.1:5030</code>, the address where yours listens, or where{" "}
          <code>npm run -s instruments</code> says its stand-in does. docs/controller.md has the lines that are spoken.
        </p>
        <SerialChoice via={via} onVia={setVia} serial={serial.available} />
      </div>
    );
  return (
    <div className="run" data-testid="run" data-phase={phase}>
      {own.fault && !opened && <Alert severity="warning">No path: {own.fault}</Alert>}
      {refused && (
        <Alert severity="error" role="alert" onClose={() => setRefused(null)}>
          {refused}
        </Alert>
      )}
      {port.fault && (
        <Alert severity="error" role="alert">
          {port.fault}
        </Alert>
      )}
      {!shown && !own.fault && (
        // The picture's room is kept for it: what is pressed below does not move away under the hand when it comes.
        <p className="rig-drawing run-picture run-picture-to-come" data-testid="run-picture-to-come">
          The path is being worked out.
        </p>
      )}
      {shown && (
        <RunPicture
          block={own.program?.block ?? []}
          parts={opened ? [] : (own.program?.parts ?? [])}
          way={shown.read.path}
          far={shown.read.tip}
          cutTo={cutTo}
          at={stood}
          drawn={drawn.current}
          out={out && !leaving ? out.near : null}
          hot={heat > 0}
        />
      )}
      <div className="run-state" aria-live="polite">
        <strong data-testid="run-phase">{PHASE_WORDS[phase]}</strong>
        {run && begun && (
          <>
            <span className="num">
              line {run.line} of {run.lines}
            </span>
            {left !== null && busy && <span className="num">{clock(left)} left</span>}
          </>
        )}
        <span className="run-heat" data-hot={heat > 0}>
          <i style={{ width: `${Math.min(100, (100 * heat) / FULL_HEAT)}%` }} />
          <b className="num">{heat > 0 ? `heat S ${Math.round(heat)}` : "heat off"}</b>
        </span>
        {busy && phase !== "held" && phase !== "fault" && (
          <span className="num" title="A touch or a key says that someone is there">
            someone here for {clock(port.presentS)}
          </span>
        )}
      </div>
      {run?.reason && <p className="plan-note plan-note-caution">{sentence(run.reason)}</p>}
      {run?.unwatched && <p className="plan-note plan-note-caution">Nobody was there: it was held and the heat went off.</p>}
      {run?.unlogged && <p className="plan-note plan-note-danger">What was done could not be put into the log: write it down.</p>}
      {port.told?.trouble && phase === "lost" && !run?.reason && <p className="plan-note plan-note-danger">{port.told.trouble}</p>}
      {busy && port.presentS < ASK_S && <p className="run-here">Touch the screen or a key: in {Math.ceil(port.presentS)} s the heat goes off.</p>}
      {!mine && run?.program && <p className="plan-note">Another frame's run stands on this controller.</p>}
      <RunKeys keys={keys} stop={stops ? stop : null} />
      {inDoubt && (
        <div className="run-out" data-testid="run-doubt">
          <strong>The last run did not come to its end.</strong> The wire may still be in the foam: homed now it would be drawn cold through the part. Bring it
          out by hand: heat on at the cutting setting, five seconds, both ends drawn back together along the cut; or heat off, one end unhooked, the wire pulled
          out endwise.
        </div>
      )}
      {inFoam && (
        <div className="run-out" data-testid="run-out">
          {stuck && <strong>The wire is in the foam.</strong>}{" "}
          {out
            ? `It came in ${show("length", out.lengthMm)} ago along its own kerf: led back that way, warm and no faster than it cut, it takes nothing more off. Homed now it would be drawn cold through the part.`
            : found === null
              ? "It has cut nothing yet."
              : "Which way it came is not known here: bring it out by hand before it is homed."}{" "}
          <p>
            By hand: leave the block where it is, heat on at the cutting setting, five seconds, both ends drawn back together along the cut. Or heat off, unhook
            one end and pull the wire out endwise.
          </p>
        </div>
      )}
      {phase === "lost" && begun && <p className="plan-note">The log has what was done until then. Home before anything else: where it stands is not known.</p>}
      <div className="plan-acts">
        <FileButton variant="text" label="Another program" accept=".ngc,.nc,.txt,text/plain" onFile={(file) => void open(file)}>
          Another program
        </FileButton>
        {opened && (
          <Button size="small" onClick={() => setOpened(null)} disabled={busy}>
            The plan's own path
          </Button>
        )}
        {via === "app" && (
          <SecondKey
            about={() => ({ kind: "stop", name: document.name, rig: id })}
            ticket={ticket || null}
            onTicket={(next) => setTicket(next ?? "", "replace")}
            joined="Its stop key takes the heat off as this page's own does. It does not count as somebody being there."
          />
        )}
        <SerialChoice via={via} onVia={setVia} serial={serial.available} disabled={busy} />
        {via === "serial" && serial.connect}
      </div>
      {run?.practice && (
        <details className="run-practice">
          <summary>A stand-in, for practice: make it misbehave</summary>
          <TileRow>
            {CONTROLLER_FAULTS.map((fault) => (
              <FaultTile key={fault} fault={fault} port={port} />
            ))}
          </TileRow>
          <TileRow>
            {SPEEDS.map((times) => (
              <Tile
                key={times}
                chosen={speed === times}
                onClick={() => {
                  setSpeed(times);
                  void port.act({ act: "speed", times });
                }}
              >
                {times === 1 ? "as fast as life" : `${times} times as fast`}
              </Tile>
            ))}
          </TileRow>
        </details>
      )}
      <details>
        <summary>What a real controller must do by itself</summary>
        <ul>
          <li>Take the heat off when nothing is heard for two seconds: a watchdog relay in the wire's lead that must be kept up.</li>
          <li>Take it off on hold, on a switch, on the emergency stop, and when it starts.</li>
          <li>Leave it off until it is told, after any of these.</li>
        </ul>
        <p>
          This page holds the run and takes the heat off after {PRESENT_S / 60} minutes without a touch or a key, and within three seconds of being closed. Keep
          it in front: hidden, the browser slows it down.
        </p>
      </details>
    </div>
  );
}

const sentence = (words: string) => `${words[0]?.toUpperCase() ?? ""}${words.slice(1)}.`.replace("..", ".");

function FaultTile({ fault, port }: { fault: ControllerFault; port: RunPort }) {
  const [on, setOn] = useState(false);
  const once = fault === "steps" || fault === "disconnect";
  return (
    <Tile
      chosen={on}
      onClick={() => {
        setOn(!on && !once);
        void port.act({ act: "misbehave", fault, on: once || !on });
      }}
    >
      {FAULT_WORDS[fault]}
    </Tile>
  );
}

function SerialChoice({
  via,
  onVia,
  serial,
  disabled = false,
}: {
  via: "app" | "serial";
  onVia: (via: "app" | "serial") => void;
  serial: boolean;
  disabled?: boolean;
}) {
  if (!serial) return null;
  return (
    <Button size="small" disabled={disabled} onClick={() => onVia(via === "app" ? "serial" : "app")}>
      {via === "app" ? "A serial port of this computer" : "The app's own controller"}
    </Button>
  );
}
