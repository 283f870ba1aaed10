"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { OFFCUT } from "@/core/cutters/solve/offcut";
import { CUT_FACES } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";
import { PHOTO_TYPES } from "@/core/log/photo";
import { feedMmPerS } from "@/core/log/stopwatch";
import { LIMITS } from "@/core/units/limits";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { SecondKey } from "../second/SecondKey";
import { BigStopwatch } from "./BigStopwatch";
import { MeasuredField } from "./MeasuredField";
import { MEASURE_NAMES, MEASURES } from "./testCutDraft";
import { useCutWatch } from "./useCutWatch";
import { type TestCutProps, useTestCut } from "./useTestCut";

type TestCutState = ReturnType<typeof useTestCut>;

/** Feed, what was measured, the block and the setting. */
function CutFields({ cut, design }: { cut: TestCutState; design: TestCutProps["design"] }) {
  const { show } = useUnits();
  const { draft, change, blocks, chosen, asSet, settlesM } = cut;
  return (
    <div className="cut-fields">
      <QuantityField quantity="feed" label="Feed" value={draft.feedMmPerS} range={LIMITS.feed_mm_s} onChange={(next) => change({ feedMmPerS: tidy(next) })} />
      {MEASURE_NAMES.map((name) => (
        <MeasuredField
          key={name}
          label={MEASURES[name].label}
          value={draft.texts[name]}
          fault={draft.faults[name]}
          hint={name === "at" && settlesM ? `of cut; it settles after ${show("length", settlesM * 1000)}` : "if measured"}
          onChange={(text) => change({ texts: { ...draft.texts, [name]: text } })}
        />
      ))}
      <TextField
        select
        size="small"
        label="Block"
        value={chosen ? draft.block : ""}
        onChange={(event) => change({ block: event.target.value })}
        helperText={chosen ? "as weighed in the drawer" : "the desk's foam"}
      >
        <MenuItem value="">the desk's {show("density", design.job.foam.density_kg_m3)}</MenuItem>
        {blocks.map((item) => (
          <MenuItem key={item.name} value={item.name}>
            {item.name}
          </MenuItem>
        ))}
      </TextField>
      <QuantityField
        quantity="length"
        label="Foam's width"
        value={draft.widthMm}
        range={LIMITS.width_mm}
        onChange={(next) => change({ widthMm: tidy(next) })}
      />
      <TextField
        size="small"
        label="Setting, as the knob says"
        sx={{ gridColumn: "span 2" }}
        value={draft.setting ?? asSet.slice(0, 60)}
        onChange={(event) => change({ setting: event.target.value.slice(0, 60) })}
      />
      <TextField
        size="small"
        label="Note"
        sx={{ gridColumn: "1 / -1" }}
        value={draft.note}
        onChange={(event) => change({ note: event.target.value.slice(0, 500) })}
      />
    </div>
  );
}

/** How the cut face looks: one of the named faces, chosen by a person. */
function FaceChooser({ draft, change }: Pick<TestCutState, "draft" | "change">) {
  const { face, unjudged } = draft;
  return (
    <fieldset className="face-chooser">
      <legend>
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
            choose one: it is what the cut is logged for
          </span>
        )}
      </legend>
      <div className="faces">
        <TileRow>
          {CUT_FACES.map((each) => (
            <Tile key={each} chosen={face === each} onClick={() => change({ face: each })} width={88}>
              <FaceDrawing face={each} />
              <div style={{ fontSize: 13, lineHeight: 1.2 }}>{FACE_WORDS[each].name}</div>
            </Tile>
          ))}
        </TileRow>
      </div>
    </fieldset>
  );
}

/** The keys under the form: log the cut, add a picture, read the instruments. */
function CutKeys({ cut, disabled, onStored }: { cut: TestCutState; disabled: boolean; onStored: () => void }) {
  const picture = useRef<HTMLInputElement>(null);
  const { photo } = cut.draft;
  return (
    <div className="cut-keys">
      <Button
        variant="contained"
        disabled={disabled}
        onClick={() =>
          void cut.store().then((stored) => {
            if (stored) onStored();
          })
        }
        sx={{ minHeight: 48 }}
      >
        Log this cut
      </Button>
      <Button variant="outlined" onClick={() => picture.current?.click()}>
        {photo ? `Picture: ${photo.name.slice(0, 24)}` : "Add a picture"}
      </Button>
      {photo && <Button onClick={() => cut.change({ photo: null })}>Without it</Button>}
      {cut.wired && (
        <Button variant="outlined" onClick={() => void cut.readInstruments()}>
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
          cut.choosePhoto(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </div>
  );
}

/** A test cut really made at the cutter: timed, measured, judged and logged. @param note what is shown under the faces, such as what went wrong with the last cut */
export function TestCutForm({ note, ...props }: TestCutProps & { note: ReactNode }) {
  const { design, id } = props;
  const { show, system } = useUnits();
  const cut = useTestCut(props);
  const { watch, takeTime, ticket, setTicket } = useCutWatch();
  const [lapMm, setLapMm] = useState(system === "metric" ? 25 : 25.4);
  const { change, offcut, fault } = cut;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the watch sets the feed, and nothing else does it again
  useEffect(() => {
    const read = feedMmPerS(watch, lapMm);
    if (read) change({ feedMmPerS: tidy(Math.max(LIMITS.feed_mm_s.min, Math.min(LIMITS.feed_mm_s.max, read.feed))) });
  }, [watch, lapMm]);
  return (
    <section aria-label="Test cut" className="two-up log-columns">
      <div>
        <BigStopwatch watch={watch} onAction={takeTime} lapMm={lapMm} onLap={setLapMm}>
          <SecondKey
            about={() => ({ kind: "stopwatch", name: design.name })}
            ticket={ticket}
            onTicket={setTicket}
            joined="Pressed on either, it runs on both."
          />
        </BigStopwatch>
        <CutFields cut={cut} design={design} />
        {offcut && (
          <p data-caution="offcut" className="offcut-caution">
            {offcut.words}{" "}
            <Why of="offcut" relation={OFFCUT} inputs={`${show("length", cut.draft.widthMm)} in place of ${show("length", design.job.width_mm)}.`} />
          </p>
        )}
        {fault && (
          <p role="alert" className="form-fault">
            {fault}
          </p>
        )}
        <CutKeys cut={cut} disabled={!id} onStored={() => takeTime("reset")} />
      </div>
      <div>
        <FaceChooser draft={cut.draft} change={change} />
        {note}
      </div>
    </section>
  );
}
