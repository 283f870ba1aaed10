"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { Point } from "@/core/geometry/points";
import { programLines } from "@/core/motion/program/lines";
import { readProgram } from "@/core/motion/program/reader";
import type { RigSurroundings } from "@/core/rigs/around";
import { endWords } from "@/core/rigs/evaluation";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { machineTimesS, passedAt, secondsLeft } from "@/core/rigs/frame/out";
import type { Show } from "@/core/rigs/record";
import type { RigDocument } from "@/core/rigs/rig";
import { useQueryParameter } from "../../../kit/address";
import { FileButton } from "../../../kit/FileButton";
import { HOTKEYS } from "../../../kit/hotkeys";
import { useAwake } from "../../../kit/useAwake";
import { SecondKey } from "../../second/SecondKey";
import { RunKeys, useUnchanged } from "./RunKeys";
import { RunNotes, RunStateLine, WireQuestionPanel } from "./RunNotes";
import { RunPicture } from "./RunPicture";
import { RunPractice } from "./RunPractice";
import { canStop, isBusy, type KeyId, keysOf, WIRE_QUESTION, wireQuestion } from "./runScreen";
import { type Chosen, useRetractPath, useRunProgram, wireAt } from "./useRunProgram";
import { useSerialRun } from "./useSerialRun";
import { PRESENT_S, type RunPort, useServerRun } from "./useServerRun";

/** With the heat on again before it moves on, s. */
const WARM_S = 4;
/** Reported places that are drawn at most; beyond that every other one is dropped. */
const MOST_DRAWN = 1500;
const LEAD_OUT = "out of the foam, along the kerf";

interface Props {
  id: string;
  document: RigDocument;
  rig: FrameRig;
  around: RigSurroundings;
  feedMmS: number;
  show: Show;
}

/** A program run on the controller: streamed, watched, held, stopped, and led out of the foam. */
export function RigRun({ id, document, rig, around, feedMmS, show }: Props) {
  const [via, setVia] = useState<"app" | "serial">("app");
  const server = useServerRun(id, via === "app", JSON.stringify(rig));
  const serial = useSerialRun(document, rig, via === "serial");
  const port: RunPort = via === "app" ? server : serial;
  const programs = useRunProgram(rig, around, port);
  const { own, opened, chosen, machine } = programs;
  const run = port.view?.run ?? null;
  const phase = run?.phase ?? "lost";
  const busy = isBusy(phase);
  useAwake(busy);
  const out = useRetractPath(rig, programs.span, programs.stopped, port, machine, feedMmS);
  // The way out is drawn over what was cut, which stays on show.
  const [leaving, setLeaving] = useState<Chosen | null>(null);
  const shown = leaving ?? chosen;
  const at = wireAt(run?.at ?? null, machine);
  const heat = run?.heat ?? 0;
  const started = run !== null && run.lines > 0 && phase !== "ready" && phase !== "homing";
  const drawn = useRef<Point[]>([]);
  const place = at && `${at}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the place is what is drawn, once
  useEffect(() => {
    if (!at || phase !== "running" || heat === 0) return;
    drawn.current = [...(drawn.current.length >= MOST_DRAWN ? drawn.current.filter((_, i) => i % 2 === 0) : drawn.current), at];
  }, [place, phase, heat]);
  // Of another program than the one that is shown it is not known how far along this one's path it came.
  const ownLines = shown && started && run.lines === programLines(shown.text).length;
  const cutTo = ownLines ? passedAt(shown.read, phase === "done" ? Number.POSITIVE_INFINITY : run.line) : 0;
  const times = useMemo(() => shown && machineTimesS(shown.read, rig), [shown, rig]);
  // Of a program from elsewhere nobody knows how the wire trails.
  const atEnd = own.program && !opened ? endWords(own.program, show) : null;
  const question = wireQuestion(port.view, out !== null);
  // Until it is answered, a start is not sent again.
  const [starting, setStarting] = useState(false);
  const begin = (program: Chosen, leadsToDraw: boolean) => {
    setStarting(true);
    setLeaving(leadsToDraw ? program : null);
    if (!leadsToDraw) drawn.current = [];
    void port.start(program.name, program.text, leadsToDraw).finally(() => setStarting(false));
  };
  const settled = useUnchanged(phase);
  const stop = () => void port.act({ act: "stop" });
  const press: Record<KeyId, () => void> = {
    clear: () => void port.act({ act: "clear" }),
    resume: () => void port.act({ act: "resume", warm_s: WARM_S, page: "" }),
    hold: () => void port.act({ act: "hold" }),
    "take-over": () => void port.act({ act: "take-over", page: "" }),
    freed: () => void port.freed(),
    connect: () => void port.again(),
    home: () => void port.act({ act: "home" }),
    start: () => chosen && begin(chosen, false),
    "lead-out": () => out && begin({ name: LEAD_OUT, text: out.text, read: readProgram(out.text, machine) }, true),
  };
  const holdOrResume = () => {
    if (phase === "held" && settled) press.resume();
    else if (phase === "running" || phase === "resuming") press.hold();
  };
  // A key that is kept down says no more than one that is pressed.
  useHotkeys("space, h", holdOrResume, { ...HOTKEYS, ignoreEventWhen: ({ repeat }) => repeat }, [phase, settled]);
  useHotkeys("s, escape", () => canStop(phase) && stop(), HOTKEYS, [phase]);
  const keys = keysOf({
    phase,
    question,
    outS: out?.timeS ?? null,
    program: chosen?.name ?? null,
    starting,
    serial: via === "serial",
    mine: port.mine,
    mayBeHot: run !== null && run.heatOff !== "confirmed",
  });

  if (via === "app" && port.view && !port.view.wired) return <NotWired serial={serial.available} onSerial={() => setVia("serial")} />;
  return (
    <div className="run" data-testid="run" data-phase={phase}>
      {own.fault && !opened && <Alert severity="warning">No path: {own.fault}</Alert>}
      {programs.refused && (
        <Alert severity="error" role="alert" onClose={() => programs.setRefused(null)}>
          {programs.refused}
        </Alert>
      )}
      {shown ? (
        <RunPicture
          block={own.program?.block ?? []}
          parts={opened ? [] : (own.program?.parts ?? [])}
          course={shown.read.path}
          far={shown.read.tip}
          cutTo={cutTo}
          at={at}
          drawn={drawn.current}
          out={out && !leaving ? out.near : null}
          hot={heat > 0}
        />
      ) : (
        !own.fault && (
          <p className="rig-drawing run-picture run-picture-to-come" data-testid="run-picture-to-come">
            The path is being computed.
          </p>
        )
      )}
      <RunStateLine
        run={run}
        phase={phase}
        started={started}
        leftS={ownLines && times ? secondsLeft(shown.read, times, run.line) : null}
        presentS={port.presentS}
      />
      {atEnd && phase !== "done" && (
        <p data-testid="run-end" style={{ margin: "2px 0" }}>
          At the end {atEnd}.
        </p>
      )}
      <RunNotes view={port.view} fault={port.fault} phase={phase} presentS={port.presentS} mine={port.mine} />
      <WireQuestionPanel
        question={question}
        brokenOff={port.view?.brokenOff ?? null}
        stopped={port.view?.stopped ?? null}
        out={out && show("length", out.lengthMm)}
      />
      <RunKeys
        keys={keys}
        question={question === "none" ? null : WIRE_QUESTION}
        unplug={run?.heatOff === "unconfirmed"}
        onKey={(key) => press[key]()}
        onStop={stop}
        canStop={canStop(phase)}
      />
      <RunSources id={id} name={document.name} via={via} onVia={setVia} busy={busy} programs={programs} serial={serial} />
      {run?.practice && <RunPractice port={port} />}
      <WhatAControllerMustDo />
    </div>
  );
}

/** Which program is run and by which connection, and a second screen with a stop key. */
function RunSources({
  id,
  name,
  via,
  onVia,
  busy,
  programs,
  serial,
}: {
  id: string;
  name: string;
  via: "app" | "serial";
  onVia: (via: "app" | "serial") => void;
  busy: boolean;
  programs: ReturnType<typeof useRunProgram>;
  serial: ReturnType<typeof useSerialRun>;
}) {
  const [ticket, setTicket] = useQueryParameter("second");
  return (
    <div className="plan-acts">
      <FileButton variant="text" label="Another program" accept=".ngc,.nc,.txt,text/plain" onFile={(file) => void programs.open(file)}>
        Another program
      </FileButton>
      {programs.opened && (
        <Button size="small" onClick={() => programs.setOpened(null)} disabled={busy}>
          The plan's own path
        </Button>
      )}
      {via === "app" && (
        <SecondKey
          about={() => ({ kind: "stop", name: name, rig: id })}
          ticket={ticket || null}
          onTicket={(next) => setTicket(next ?? "", "replace")}
          joined="Its stop key switches the heat off as this page's own does. It does not count as somebody being there."
        />
      )}
      {serial.available && (
        <Button size="small" disabled={busy} onClick={() => onVia(via === "app" ? "serial" : "app")}>
          {via === "app" ? "A serial port of this computer" : "The app's own controller"}
        </Button>
      )}
      {via === "serial" && serial.connect}
    </div>
  );
}

function NotWired({ serial, onSerial }: { serial: boolean; onSerial: () => void }) {
  return (
    <div className="run">
      <p className="rig-says">No controller is connected to this app.</p>
      <p>
        Start the app with <code className="num">UPWIND_CONTROLLER=127.0.0.1:5030</code>, the address where your controller listens, or where{" "}
        <code>npm run -s instruments</code> says that its simulated one does. docs/controller.md has the protocol.
      </p>
      {serial && (
        <Button size="small" onClick={onSerial}>
          A serial port of this computer
        </Button>
      )}
    </div>
  );
}

function WhatAControllerMustDo() {
  return (
    <details>
      <summary>What a real controller must do on its own</summary>
      <ul>
        <li>Switch the heat off when its line is silent for two seconds. A watchdog relay in the wire's lead is the plain way.</li>
        <li>Switch it off on hold, on a limit switch, on the emergency stop, and when it starts.</li>
        <li>Leave it off after any of these, until it gets a new command for heat.</li>
      </ul>
      <p>
        This page keeps the heat on while somebody is before it. Without a touch or a key for {PRESENT_S / 60} minutes, or within three seconds of the page
        being closed, the run is held and the heat goes off. Keep the page in front: a browser slows hidden pages down.
      </p>
    </details>
  );
}
