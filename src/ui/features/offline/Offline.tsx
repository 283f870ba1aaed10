"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/sheet.css";
import "../../kit/theme/plans.css";
import "../../kit/theme/log.css";
import "../../kit/theme/access.css";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { feedMmPerS, press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { foamNamed, resolveFoam } from "@/core/materials/foams";
import { scheduleOf } from "@/core/pace/pacer";
import type { ScreenEnd } from "@/core/pace/twoEnds";
import { settingFor } from "@/core/sheets/buildSheet";
import { distinctFoams } from "@/core/sheets/settingCard";
import { LogWaits } from "../../kit/LogWaits";
import { type LastSeen, lastSeen } from "../../kit/lastSeen";
import { logQueue } from "../../kit/logQueue";
import { PageTitle } from "../../kit/PageTitle";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { BigStopwatch } from "../log/BigStopwatch";
import { useLocalDrive } from "../second/drive";
import { PacerFace } from "../second/PacerFace";

const MOST_FOAMS = 6;

/** What still works while the workshop's computer does not answer: the set-up card last seen, the stopwatch, the pace last called, and entries that wait for the log. */
export function Offline() {
  // Read once the page has loaded: the server knows nothing of this browser.
  const [held, setHeld] = useState<LastSeen | null>(null);
  const [pacing, setPacing] = useState(false);
  useEffect(() => setHeld(lastSeen()), []);
  const { cutter, pace } = held ?? {};
  if (pacing && pace) return <LastPace pace={pace} onClose={() => setPacing(false)} />;
  return (
    <main className="plain-page" style={{ maxWidth: 760 }}>
      <PageTitle parts={["Offline"]} />
      <p className="plain-page-name">Upwind Rod</p>
      <h1>The workshop's computer does not answer</h1>
      <p>What you saw last is here; what you log waits in this browser and is stored once it is back.</p>
      <Button variant="outlined" href="/" sx={{ minHeight: 44 }}>
        Try again
      </Button>
      <LogWaits />
      {cutter && <LastCard design={cutter.design} at={cutter.at} />}
      {cutter && <Timed cutter={cutter} />}
      {pace && (
        <section>
          <h2>
            {pace.name}, {pace.face}
          </h2>
          <Button variant="contained" sx={{ minHeight: 48 }} onClick={() => setPacing(true)}>
            Pacer
          </Button>
        </section>
      )}
      {held && !cutter && !pace && <p>Nothing was opened in this browser yet: open a cutter, or a plan's pacer, while the computer answers.</p>}
    </main>
  );
}

function LastCard({ design, at }: { design: Design; at: string }) {
  const { system } = useUnits();
  const rows = useMemo(() => {
    const foams = distinctFoams([foamNamed(design.job.foam), ...(design.calibrations ?? []).map(({ foam }) => foamNamed(foam))], MOST_FOAMS);
    return foams.map((foam) => settingFor(design, foam, system));
  }, [design, system]);
  return (
    <section data-testid="last-card">
      <h2>{design.name}: set-up card</h2>
      <table className="plain-table">
        <thead>
          <tr>
            <th scope="col">Foam</th>
            <th scope="col">Knob</th>
            <th scope="col">Feed</th>
            <th scope="col">Kerf</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.foam}>
              <th scope="row">{row.foam}</th>
              <td className="num">{row.setting ?? "not cleanly"}</td>
              <td className="num">{row.feed}</td>
              <td className="num">{row.kerf}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="plain-page-small">As it was on {new Date(at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}.</p>
    </section>
  );
}

function Timed({ cutter: { id, design } }: { cutter: NonNullable<LastSeen["cutter"]> }) {
  const { show } = useUnits();
  const [watch, setWatch] = useState<Stopwatch>(RESET);
  const [lapMm, setLapMm] = useState(100);
  const [note, setNote] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const read = feedMmPerS(watch, lapMm);
  const keep = async () => {
    if (id === null) return;
    const entry = {
      kind: "run" as const,
      at: new Date().toISOString(),
      foam: foamNamed(design.job.foam),
      width_mm: design.job.width_mm,
      setting: "",
      feed_mm_s: tidy(Math.min(100, Math.max(0.1, read?.feed ?? design.job.feed_mm_s))),
      pieces: 1,
      note: note.slice(0, 500),
    };
    try {
      const row = await logQueue.keep(id, entry);
      setSaid(row ? "It is in the log." : "It waits in this browser.");
      setNote("");
      setWatch(RESET);
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  return (
    <section>
      <h2>Stopwatch</h2>
      <BigStopwatch
        watch={watch}
        onAction={(action) => setWatch(action === "press" ? press(watch, performance.now()) : action === "stop" ? stop(watch, performance.now()) : RESET)}
        lapMm={lapMm}
        onLap={setLapMm}
      />
      {id !== null && (
        <div className="phrase-form" style={{ marginTop: 10 }}>
          <TextField size="small" label="Note for the log" value={note} onChange={(event) => setNote(event.target.value.slice(0, 500))} />
          <Button variant="contained" onClick={() => void keep()} sx={{ minHeight: 44 }}>
            Keep a piece cut in {resolveFoam(foamNamed(design.job.foam)).name} at {show("feed", read?.feed ?? design.job.feed_mm_s)}
          </Button>
        </div>
      )}
      {said && <p role="status">{said}</p>}
    </section>
  );
}

function LastPace({ pace, onClose }: { pace: NonNullable<LastSeen["pace"]>; onClose: () => void }) {
  const schedule = useMemo(() => scheduleOf(pace.rows, pace.parts), [pace]);
  const drive = useLocalDrive(`offline ${pace.name} ${pace.face}`);
  const [end, setEnd] = useState<ScreenEnd>("root");
  return (
    <PacerFace
      title={`${pace.name}, ${pace.face}`}
      label={`Pacer, ${pace.face}`}
      schedule={schedule}
      parts={pace.parts}
      drive={drive}
      end={end}
      onEnd={setEnd}
      back={onClose}
      onTick={drive.seen}
    />
  );
}
