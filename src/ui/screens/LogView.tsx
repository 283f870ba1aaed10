"use client";
import "../theme/sheet.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useCallback, useEffect, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { DesignAnswer } from "@/core/design/evaluate";
import { LIMITS } from "@/core/design/limits";
import type { Design } from "@/core/design/schema";
import { fileStem } from "@/core/fileStem";
import { entriesToCsv } from "@/core/log/csv";
import { FACES, type Face, type TestCut } from "@/core/log/entries";
import { elapsedS, feedMmPerS, press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { parseQuantity } from "@/core/units/parseQuantity";
import { ApiError, api, type LogRow } from "../api";
import { Tile, TileRow } from "../choosers/Tile";
import { tidy } from "../choosers/tidy";
import { useUnits } from "../hooks/useUnits";
import { FACE_WORDS, FaceDrawing } from "../instruments/FaceDrawing";
import { downloadText } from "../parts/download";
import { Lessons } from "../parts/Lessons";
import { QuantityField } from "../parts/QuantityField";
import { controlSentence, supplySentence } from "../parts/words";

/** A big stopwatch: the space bar, or a tap, starts it and marks each lap; S or its button stops it. */
function BigStopwatch({
  watch,
  onChange,
  lapMm,
  onLap,
}: {
  watch: Stopwatch;
  onChange: (next: Stopwatch) => void;
  lapMm: number;
  onLap: (mm: number) => void;
}) {
  const { show } = useUnits();
  const [now, setNow] = useState(0);
  const running = watch.startedMs !== null && watch.stoppedMs === null;
  useEffect(() => {
    if (!running) return;
    let frame = requestAnimationFrame(function tick() {
      setNow(performance.now());
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [running]);
  const go = () => {
    setNow(performance.now());
    onChange(press(watch, performance.now()));
  };
  // On another button the space bar presses that button.
  useHotkeys("space", go, {
    preventDefault: true,
    ignoreEventWhen: (event) => event.target instanceof HTMLButtonElement && !event.target.classList.contains("stopwatch"),
  });
  const read = feedMmPerS(watch, lapMm);
  return (
    <section aria-label="Stopwatch">
      <button
        type="button"
        className="stopwatch"
        onClick={go}
        onKeyDown={(event) => event.key === " " && event.preventDefault()}
        onKeyUp={(event) => event.key === " " && event.preventDefault()}
      >
        <span className="num" data-figure="stopwatch">
          {elapsedS(watch, now).toFixed(1)} s
        </span>
        <span className="stopwatch-words">
          {running ? `lap ${watch.lapsMs.length + 1}: press at each mark` : "press, or the space bar, as the wire enters"}
        </span>
      </button>
      <div style={{ display: "flex", gap: 10, alignItems: "center", marginTop: 8, flexWrap: "wrap" }}>
        <Button variant="outlined" disabled={!running} onClick={() => onChange(stop(watch, performance.now()))}>
          Stop
        </Button>
        <Button disabled={watch.startedMs === null} onClick={() => onChange(RESET)}>
          Reset
        </Button>
        <TileRow>
          {[25.4, 25, 50, 100].map((mm) => (
            <Tile key={mm} chosen={lapMm === mm} onClick={() => onLap(mm)}>
              {mm === 25.4 ? "an inch" : show("length", mm)}
            </Tile>
          ))}
        </TileRow>
      </div>
      <p role="status" style={{ minHeight: 22 }}>
        {read && (
          <>
            <strong className="num">{show("feed", read.feed)}</strong> over {read.laps} {read.laps === 1 ? "lap" : "laps"}
            {read.laps > 2 ? `, even to ${Math.round(read.spread * 100)} %` : ""}
          </>
        )}
      </p>
    </section>
  );
}

/** Test cuts really made: timed, measured, judged and kept; with the tension checks, the cutter's log. */
export function LogView({ design, answer, id }: { design: Design; answer: DesignAnswer; id: string | null }) {
  const { show, system } = useUnits();
  const [log, setLog] = useState<LogRow[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [watch, setWatch] = useState<Stopwatch>(RESET);
  const [lapMm, setLapMm] = useState(system === "metric" ? 25 : 25.4);
  const [feed, setFeed] = useState(design.job.feed_mm_s);
  const [face, setFace] = useState<Face>("matt");
  const [kerf, setKerf] = useState("");
  const [note, setNote] = useState("");
  const [kerfFault, setKerfFault] = useState<string | null>(null);
  const say = useCallback((error: Error) => setFault(error.message), []);
  useEffect(() => {
    if (id) api.log.list(id).then(setLog, say);
  }, [id, say]);
  const take = (next: Stopwatch) => {
    setWatch(next);
    const read = feedMmPerS(next, lapMm);
    if (read) setFeed(tidy(Math.max(LIMITS.feed_mm_s.min, Math.min(LIMITS.feed_mm_s.max, read.feed))));
  };
  const keep = async () => {
    if (!id) return;
    const measured = kerf.trim() === "" ? null : parseQuantity("kerf", kerf, system, LIMITS.kerf_mm);
    if (measured && !measured.ok) {
      setKerfFault(measured.message);
      return;
    }
    setKerfFault(null);
    const { length_mm, ...wire } = design.wire;
    const cut: TestCut = {
      kind: "test-cut",
      at: new Date().toISOString(),
      foam: { family: design.job.foam.family, density_kg_m3: design.job.foam.density_kg_m3 },
      width_mm: design.job.width_mm,
      wire,
      wire_length_mm: length_mm,
      setting: `${supplySentence(design, show)}, ${controlSentence(design, show)}`.slice(0, 60),
      ...(answer.cut.powerWPerM >= LIMITS.power_W_per_m.min && answer.cut.powerWPerM <= LIMITS.power_W_per_m.max
        ? { heat_W_per_m: Number(answer.cut.powerWPerM.toPrecision(5)) }
        : {}),
      feed_mm_s: feed,
      ...(measured ? { kerf_mm: tidy(measured.value) } : {}),
      face,
      note: note.trim(),
    };
    try {
      const row = await api.log.add(id, cut);
      setLog((all) => [row, ...all]);
      setWatch(RESET);
      setKerf("");
      setNote("");
      setFault(null);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
    }
  };
  const all = log.map((row) => ({ cutter: design.name, entry: row.entry }));
  return (
    <main className="sheet-frame">
      {!id && <p>Keep a copy of this cutter first: its log is kept with it.</p>}
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)}>
          {fault}
        </Alert>
      )}
      <div className="two-up" style={{ display: "grid", gridTemplateColumns: "minmax(320px, 460px) minmax(0, 1fr)", gap: 30 }}>
        <section aria-label="Test cut">
          <h2 style={{ fontSize: 21, margin: "0 0 8px" }}>Test cut</h2>
          <BigStopwatch watch={watch} onChange={take} lapMm={lapMm} onLap={setLapMm} />
          <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px 12px" }}>
            <QuantityField quantity="feed" label="Feed" value={feed} range={LIMITS.feed_mm_s} onChange={(next) => setFeed(tidy(next))} />
            <TextField
              size="small"
              label="Kerf by calliper"
              value={kerf}
              error={kerfFault !== null}
              helperText={kerfFault ?? "if you measured it"}
              onChange={(event) => setKerf(event.target.value)}
            />
          </div>
          <fieldset style={{ border: 0, padding: 0, margin: "4px 0 10px" }}>
            <legend style={{ padding: 0, marginBottom: 4 }}>The cut face</legend>
            <TileRow>
              {FACES.map((each) => (
                <Tile key={each} chosen={face === each} onClick={() => setFace(each)}>
                  <FaceDrawing face={each} />
                  <div style={{ fontSize: 13 }}>
                    {FACE_WORDS[each].name}: {FACE_WORDS[each].means}
                  </div>
                </Tile>
              ))}
            </TileRow>
          </fieldset>
          <TextField size="small" label="Note" fullWidth value={note} onChange={(event) => setNote(event.target.value.slice(0, 500))} />
          <Button variant="contained" disabled={!id} sx={{ mt: 1 }} onClick={() => void keep()}>
            Keep this cut
          </Button>
        </section>
        <section aria-label="Log">
          <div style={{ display: "flex", gap: 10, alignItems: "baseline" }}>
            <h2 style={{ fontSize: 21, margin: 0, flex: 1 }}>Log</h2>
            <Button disabled={all.length === 0} onClick={() => downloadText(`${fileStem(design.name)}-log.csv`, "text/csv", entriesToCsv(all))}>
              CSV out
            </Button>
          </div>
          {id && log.length === 0 && (
            <p>Nothing yet. Time a cut as wide as the job, look at its face, keep it: settings that nobody wrote down are settings lost.</p>
          )}
          <ul className="log-rows">
            {log.map(({ id: entryId, entry }) => (
              <li key={entryId} data-entry={entry.kind}>
                <span className="num">{entry.at.slice(0, 16).replace("T", " ")}</span>
                {entry.kind === "test-cut" ? (
                  <>
                    <FaceDrawing face={entry.face} />
                    <span>
                      <strong className="num">{show("feed", entry.feed_mm_s)}</strong> in {entry.foam.family.toUpperCase()} {entry.foam.density_kg_m3},{" "}
                      {show("length", entry.width_mm)} wide; {entry.setting}
                      {entry.kerf_mm === undefined ? "" : `; kerf ${show("kerf", entry.kerf_mm)}`}; {FACE_WORDS[entry.face].name}
                      {entry.note && <em>: {entry.note}</em>}
                    </span>
                  </>
                ) : (
                  <>
                    <span />
                    <span>
                      tension <strong className="num">{show("force", entry.tension_N, 1)}</strong> {entry.hot ? "hot" : "cold"}, by {entry.how}
                    </span>
                  </>
                )}
                <Button
                  size="small"
                  onClick={() => {
                    if (id) api.log.remove(id, entryId).then(() => setLog((rows) => rows.filter((row) => row.id !== entryId)), say);
                  }}
                >
                  Strike out
                </Button>
              </li>
            ))}
          </ul>
          <Lessons design={design} cuts={log.flatMap(({ entry }) => (entry.kind === "test-cut" ? [entry] : []))} />
        </section>
      </div>
    </main>
  );
}
