"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { OFFCUT, offcutOf } from "@/core/cutters/solve/offcut";
import { foamOf } from "@/core/drawer/things";
import { FACES, type Face, type TestCut } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";
import { MAX_PHOTO_BYTES, PHOTO_TYPES } from "@/core/log/photo";
import { feedMmPerS, press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { foamNamed } from "@/core/materials/foams";
import { LIMITS, type LimitName } from "@/core/units/limits";
import { parseQuantity } from "@/core/units/parseQuantity";
import type { Quantity } from "@/core/units/units";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import { controlSentence, supplySentence } from "../../cutter/words";
import { useQueryParameter } from "../../kit/address";
import { ApiError, api, type DrawerRow, type InstrumentReadings } from "../../kit/api";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { SecondKey } from "../second/SecondKey";
import { useSecond } from "../second/useSecond";
import { BigStopwatch, type StopwatchAction } from "./BigStopwatch";
import { MeasuredField } from "./MeasuredField";

/** Figures that may be measured at a cut, as they are typed. */
const MEASURES = {
  kerf: { label: "Kerf by calliper", quantity: "kerf", range: "kerf_mm", key: "kerf_mm" },
  at: { label: "Kerf measured after", quantity: "length", range: "width_mm", key: "kerf_at_mm" },
  lag: { label: "Bow by rule", quantity: "kerf", range: "lag_mm", key: "lag_mm" },
  current: { label: "Amps while cutting", quantity: "current", range: "drivingCurrent_A", key: "current_A" },
  volts: { label: "Volts on the wire", quantity: "voltage", range: "voltage_V", key: "volts_V" },
} as const satisfies Record<string, { label: string; quantity: Quantity; range: LimitName; key: keyof TestCut }>;
type Measure = keyof typeof MEASURES;
const NONE: Record<Measure, string> = { kerf: "", at: "", lag: "", current: "", volts: "" };

/** A test cut really made at the cutter: timed, measured, judged and kept. */
export function TestCutForm({
  design,
  evaluation,
  id,
  drawer,
  onSaved,
  beside,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  id: string | null;
  drawer: readonly DrawerRow[];
  onSaved: (cut: TestCut) => Promise<void>;
  /** Stands under the faces: what went wrong with the last cut. */
  beside: ReactNode;
}) {
  const { show, system } = useUnits();
  const [ownWatch, setWatch] = useState<Stopwatch>(RESET);
  const [lapMm, setLapMm] = useState(system === "metric" ? 25 : 25.4);
  const [feed, setFeed] = useState(design.job.feed_mm_s);
  /** null until it was looked at: a face nobody chose is none. */
  const [face, setFace] = useState<Face | null>(null);
  const [unjudged, setUnjudged] = useState(false);
  const [texts, setTexts] = useState(NONE);
  const [faults, setFaults] = useState<Partial<Record<Measure, string>>>({});
  const [widthMm, setWidthMm] = useState(design.job.width_mm);
  /** As the knob says; null while it is as the desk has it. */
  const [setting, setSetting] = useState<string | null>(null);
  const [block, setBlock] = useState("");
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState<File | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [wired, setWired] = useState<InstrumentReadings | null>(null);
  const picture = useRef<HTMLInputElement>(null);
  useEffect(() => {
    api.instruments().then(
      (readings) => setWired(readings.wired.length > 0 ? readings : null),
      (error: Error) => setFault(error.message),
    );
  }, []);
  const blocks = drawer.flatMap(({ item }) => (item.kind === "foam" && item.owned && item.family === design.job.foam.family ? [item] : []));
  const chosen = blocks.find((item) => item.name === block);
  const asSet = `${supplySentence(design, show)}, ${controlSentence(design, show)}`;
  const course = useMemo(() => heatCourseOf(design, evaluation), [design, evaluation]);
  const offcut = offcutOf(design, evaluation, widthMm, course, system);
  // On a second screen the watch is one for both; its times in this page's steady clock.
  const [ticket, setTicket] = useQueryParameter("second");
  const second = useSecond(ticket || null);
  const together = ticket !== "" && !second.over;
  const shared = second.view?.stopwatch;
  const steadyMs = useRef(Date.now() - performance.now());
  const offset = second.offsetMs === null ? null : second.offsetMs + steadyMs.current;
  const farWatch = useMemo(
    (): Stopwatch | null =>
      shared && offset !== null
        ? {
            startedMs: shared.startedMs === null ? null : shared.startedMs - offset,
            lapsMs: shared.lapsMs.map((each) => each - offset),
            stoppedMs: shared.stoppedMs === null ? null : shared.stoppedMs - offset,
          }
        : null,
    [shared, offset],
  );
  const watch = together && farWatch ? farWatch : ownWatch;
  const takeTime = (action: StopwatchAction) => {
    if (together) void second.act({ do: action });
    else {
      const now = performance.now();
      setWatch(action === "press" ? press(ownWatch, now) : action === "stop" ? stop(ownWatch, now) : RESET);
    }
  };
  useEffect(() => {
    const read = feedMmPerS(watch, lapMm);
    if (read) setFeed(tidy(Math.max(LIMITS.feed_mm_s.min, Math.min(LIMITS.feed_mm_s.max, read.feed))));
  }, [watch, lapMm]);
  const readInstruments = async () => {
    const readings = await api.instruments();
    setWired(readings);
    const { current_A, volts_V } = readings.figures;
    setTexts((all) => ({
      ...all,
      ...(current_A === undefined ? {} : { current: show("current", current_A) }),
      ...(volts_V === undefined ? {} : { volts: show("voltage", volts_V, 2) }),
    }));
    setFault(readings.troubles.length > 0 ? readings.troubles.join(" ") : null);
  };
  const choosePhoto = (file: File | undefined) => {
    if (!file) return;
    if (file.size > MAX_PHOTO_BYTES) setFault(`The picture has ${(file.size / 1048576).toFixed(1)} MB; at most ${MAX_PHOTO_BYTES / 1048576} MB are kept.`);
    else if (!PHOTO_TYPES.includes(file.type as (typeof PHOTO_TYPES)[number])) setFault("A picture must be JPEG, PNG or WebP.");
    else {
      setFault(null);
      setPhoto(file);
    }
  };
  const keep = async () => {
    if (!id) return;
    const measured: Partial<Record<Measure, number>> = {};
    const wrong: Partial<Record<Measure, string>> = {};
    for (const name of Object.keys(MEASURES) as Measure[]) {
      if (texts[name].trim() === "") continue;
      const { quantity, range } = MEASURES[name];
      const parsed = parseQuantity(quantity, texts[name], system, LIMITS[range]);
      if (parsed.ok) measured[name] = tidy(parsed.value);
      else wrong[name] = parsed.message;
    }
    setFaults(wrong);
    setUnjudged(face === null);
    if (face === null || Object.keys(wrong).length > 0) return;
    const { length_mm, ...wire } = design.wire;
    const { supply, control, leads } = design;
    const heat = evaluation.cut.powerWPerM;
    const density = chosen ? foamOf(chosen) : null;
    try {
      const photoId = photo ? await api.log.addPhoto(id, photo) : undefined;
      await onSaved({
        kind: "test-cut",
        at: new Date().toISOString(),
        foam: density
          ? { ...foamNamed(design.job.foam), density_kg_m3: tidy(density.densityKgM3), ...(density.weighed ? { weighed: true } : {}) }
          : { ...foamNamed(design.job.foam), ...(design.job.foam.weighed ? { weighed: true } : {}) },
        ...(chosen ? { block: chosen.name } : {}),
        width_mm: widthMm,
        wire,
        wire_length_mm: length_mm,
        supply,
        control,
        ...(leads ? { leads } : {}),
        ambient_C: design.ambient_C,
        tension_N: design.tension.hot_N,
        setting: (setting ?? asSet).trim().slice(0, 60),
        ...(measured.volts === undefined ? {} : { volts_V: measured.volts }),
        ...(measured.current === undefined ? {} : { current_A: measured.current }),
        ...(heat >= LIMITS.power_W_per_m.min && heat <= LIMITS.power_W_per_m.max ? { heat_W_per_m: Number(heat.toPrecision(5)) } : {}),
        feed_mm_s: feed,
        ...(measured.kerf === undefined ? {} : { kerf_mm: measured.kerf }),
        ...(measured.kerf === undefined || measured.at === undefined ? {} : { kerf_at_mm: measured.at }),
        ...(measured.lag === undefined ? {} : { lag_mm: measured.lag }),
        face,
        ...(photoId === undefined ? {} : { photo: photoId }),
        note: note.trim(),
      });
      takeTime("reset");
      setTexts(NONE);
      setNote("");
      setSetting(null);
      setFace(null);
      setPhoto(null);
      setFault(null);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
    }
  };
  return (
    <section aria-label="Test cut" className="two-up log-columns">
      <div>
        <BigStopwatch watch={watch} onAction={takeTime} lapMm={lapMm} onLap={setLapMm}>
          <SecondKey
            about={() => ({ kind: "stopwatch", name: design.name })}
            ticket={together ? ticket : null}
            onTicket={(next) => setTicket(next ?? "", "replace")}
            joined="Pressed on either, it runs on both."
          />
        </BigStopwatch>
        <div className="cut-fields">
          <QuantityField quantity="feed" label="Feed" value={feed} range={LIMITS.feed_mm_s} onChange={(next) => setFeed(tidy(next))} />
          {(Object.keys(MEASURES) as Measure[]).map((name) => (
            <MeasuredField
              key={name}
              label={MEASURES[name].label}
              value={texts[name]}
              fault={faults[name]}
              hint={name === "at" && course.entry?.settlesM ? `of cut; it settles after ${show("length", course.entry.settlesM * 1000)}` : "if measured"}
              onChange={(text) => setTexts((all) => ({ ...all, [name]: text }))}
            />
          ))}
          <TextField
            select
            size="small"
            label="Block"
            value={chosen ? block : ""}
            onChange={(event) => setBlock(event.target.value)}
            helperText={chosen ? "as weighed in the drawer" : "the desk's foam"}
          >
            <MenuItem value="">the desk's {show("density", design.job.foam.density_kg_m3)}</MenuItem>
            {blocks.map((item) => (
              <MenuItem key={item.name} value={item.name}>
                {item.name}
              </MenuItem>
            ))}
          </TextField>
          <QuantityField quantity="length" label="Foam's width" value={widthMm} range={LIMITS.width_mm} onChange={(next) => setWidthMm(tidy(next))} />
          <TextField
            size="small"
            label="Setting, as the knob says"
            sx={{ gridColumn: "span 2" }}
            value={setting ?? asSet.slice(0, 60)}
            onChange={(event) => setSetting(event.target.value.slice(0, 60))}
          />
          <TextField size="small" label="Note" sx={{ gridColumn: "1 / -1" }} value={note} onChange={(event) => setNote(event.target.value.slice(0, 500))} />
        </div>
        {offcut && (
          <p data-caution="offcut" style={{ borderLeft: "5px solid var(--straw)", paddingLeft: 10, margin: "4px 0" }}>
            {offcut.words} <Why of="offcut" relation={OFFCUT} inputs={`${show("length", widthMm)} in place of ${show("length", design.job.width_mm)}.`} />
          </p>
        )}
        {fault && (
          <p role="alert" style={{ color: "var(--ember)", margin: "4px 0" }}>
            {fault}
          </p>
        )}
        <div style={{ display: "flex", gap: 10, flexWrap: "wrap", alignItems: "center", marginTop: 6 }}>
          <Button variant="contained" disabled={!id} onClick={() => void keep()} sx={{ minHeight: 48 }}>
            Keep this cut
          </Button>
          <Button variant="outlined" onClick={() => picture.current?.click()}>
            {photo ? `Picture: ${photo.name.slice(0, 24)}` : "Add a picture"}
          </Button>
          {photo && <Button onClick={() => setPhoto(null)}>Without it</Button>}
          {wired && (
            <Button variant="outlined" onClick={() => void readInstruments()}>
              Read the instruments
            </Button>
          )}
          <input
            ref={picture}
            type="file"
            hidden
            accept={PHOTO_TYPES.join(",")}
            aria-label="Picture of the cut"
            onChange={(event) => {
              choosePhoto(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </div>
      </div>
      <div>
        <fieldset style={{ border: 0, padding: 0, margin: "0 0 10px" }}>
          <legend style={{ padding: 0, marginBottom: 4 }}>
            {face ? (
              <>
                The cut face: <strong>{FACE_WORDS[face].name}</strong>, {FACE_WORDS[face].means}
              </>
            ) : (
              "How does the cut face look?"
            )}
            {unjudged && face === null && (
              <span role="alert" style={{ color: "var(--ember)" }}>
                {" "}
                choose one: it is what the cut is kept for
              </span>
            )}
          </legend>
          <div className="faces">
            <TileRow>
              {FACES.map((each) => (
                <Tile key={each} chosen={face === each} onClick={() => setFace(each)} width={88}>
                  <FaceDrawing face={each} />
                  <div style={{ fontSize: 13, lineHeight: 1.2 }}>{FACE_WORDS[each].name}</div>
                </Tile>
              ))}
            </TileRow>
          </div>
        </fieldset>
        {beside}
      </div>
    </section>
  );
}
