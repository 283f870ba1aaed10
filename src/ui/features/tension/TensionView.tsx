"use client";
import "../../kit/theme/sheet.css";
import Alert from "@mui/material/Alert";
import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { type DesignEvaluation, stiffToolOf } from "@/core/cutters/solve/evaluate";
import { frameOf } from "@/core/cutters/solve/frameModel";
import { tensionDeskOf } from "@/core/cutters/solve/tensionDesk";
import { TENSION_TABS } from "../../cutter/views";
import { useTab } from "../../kit/address";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { ChecksTab } from "./ChecksTab";
import { EndsTab } from "./EndsTab";
import { FrameEditor } from "./FrameEditor";
import { PullTab } from "./PullTab";
import { StiffToolPanel } from "./StiffToolPanel";
import { Tuner } from "./Tuner";
import { useTensionChecks } from "./useTensionChecks";

/** A loop or wand is judged by its own stiffness first; nothing else has that tab. */
const STIFF_TABS: readonly (typeof TENSION_TABS)[number][] = ["Stiffness", ...TENSION_TABS.filter((tab) => tab !== "Stiffness")];
const OTHER_TABS = TENSION_TABS.filter((tab) => tab !== "Stiffness");

/** What pulls the wire straight, hot and cold; the frame that holds it; the tuner; the ends; and when to look again. */
export function TensionView({
  design,
  evaluation,
  id,
  onChange,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  id: string | null;
  onChange: (next: Design, key: string) => void;
}) {
  const { system } = useUnits();
  const stiff = stiffToolOf(design);
  const tabs = stiff ? STIFF_TABS : OTHER_TABS;
  const [tab, setTab] = useTab("tension", tabs);
  const log = useTensionChecks(id);
  const desk = useMemo(() => tensionDeskOf(design, evaluation, system), [design, evaluation, system]);
  const frame = useMemo(() => frameOf(design, evaluation.tension.coldN, system), [design, evaluation.tension.coldN, system]);
  return (
    <main className="sheet-frame">
      <TileRow>
        {tabs.map((each) => (
          <Tile key={each} chosen={tab === each} onClick={() => setTab(each)}>
            {each}
            {each === "Checks" && log.next?.due ? " !" : ""}
          </Tile>
        ))}
      </TileRow>
      {log.fault && (
        <Alert severity="error" onClose={log.clearFault} sx={{ my: 1 }}>
          {log.fault}
        </Alert>
      )}
      <div style={{ marginTop: 14 }}>
        {tab === "Stiffness" && stiff && <StiffToolPanel evaluation={evaluation} tool={stiff} />}
        {tab === "Pull" && <PullTab design={design} evaluation={evaluation} desk={desk} frame={frame} onChange={onChange} />}
        {tab === "Frame" && <FrameEditor design={design} frame={frame} tensionN={evaluation.tension.coldN} onChange={onChange} />}
        {tab === "Tuner" && <Tuner design={design} evaluation={evaluation} rateNPerM={desk.rateNPerM} onSave={id ? log.add : null} />}
        {tab === "Ends" && <EndsTab design={design} evaluation={evaluation} desk={desk} />}
        {tab === "Checks" && <ChecksTab id={id} {...log} />}
      </div>
    </main>
  );
}
