"use client";
import "../../kit/theme/sheet.css";
import "../../kit/theme/log.css";
import Alert from "@mui/material/Alert";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { LOG_TABS } from "../../cutter/views";
import { useTab } from "../../kit/address";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { Tile, TileRow } from "../../kit/Tile";
import { UnreadableRows } from "../../kit/UnreadableRows";
import { CalibrationPanel } from "./CalibrationPanel";
import { DiagnosisPanel } from "./DiagnosisPanel";
import { Logbook } from "./Logbook";
import { SettingCard } from "./SettingCard";
import { TestCutForm } from "./TestCutForm";
import { useLog } from "./useLog";

/** What was really done at the cutter: test cuts, what they teach, where to set the knob, and everything dated. */
export function LogView({
  design,
  evaluation,
  id,
  onChange,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  id: string | null;
  onChange: (next: Design) => void;
}) {
  const [tab, setTab] = useTab("log", LOG_TABS);
  const desk = useLog(design, id, onChange);
  const { entries, drawer, lastCut, past, fault, setFault, notice, setNotice } = desk;
  return (
    <main className="sheet-frame">
      {!id && <p style={{ marginTop: 0 }}>Keep a copy of this cutter first: its log is stored with it.</p>}
      <TileRow onScreenOnly>
        {LOG_TABS.map((each) => (
          <Tile
            key={each}
            chosen={tab === each}
            onClick={() => {
              setTab(each);
              setNotice(null);
            }}
          >
            {each}
          </Tile>
        ))}
      </TileRow>
      <UnreadableRows rows={desk.unreadable} what="entry" />
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)} sx={{ mt: 1 }}>
          {fault}
        </Alert>
      )}
      {notice && (
        <Alert severity="info" onClose={() => setNotice(null)} sx={{ mt: 1 }}>
          {notice}
        </Alert>
      )}
      <div style={{ marginTop: 12 }}>
        {tab === "Test cut" && (
          <TestCutForm
            design={design}
            evaluation={evaluation}
            id={id}
            drawer={drawer}
            onSaved={desk.addCut}
            note={
              lastCut && id ? (
                <DiagnosisPanel design={design} cut={lastCut} past={past} onTry={(remedy) => desk.tryRemedy(lastCut, remedy)} onOutcome={desk.setOutcome} />
              ) : (
                <p style={{ marginTop: 0 }}>
                  Time a cut as wide as the job, choose how its face looks, log it. A kerf, a bow or the amps, where you have them, teach the desk. What went
                  wrong, and the one thing to change, will be here.
                </p>
              )
            }
          />
        )}
        {tab === "Calibration" && <CalibrationPanel design={design} entries={entries} onAccept={onChange} />}
        {tab === "Setting card" && (
          <SettingCard key={design.job.width_mm + design.ambient_C} design={design} entries={entries} drawer={drawer} onUse={desk.useRow} />
        )}
        {tab === "Logbook" && (
          <InstrumentBoundary name="the logbook">
            <Logbook design={design} id={id} desk={desk} />
          </InstrumentBoundary>
        )}
      </div>
    </main>
  );
}
