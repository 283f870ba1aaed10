"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import { requireExportable, templatesDrawing } from "@/core/plans/outputs/templates";
import { PAPERS_MM, type Paper, SHEET, tile } from "@/core/plans/outputs/tiles";
import { evaluatePanels, type PanelEvaluation } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { CountField } from "../../kit/CountField";
import { Tile, TileRow } from "../../kit/Tile";

const PAPER_WORDS: Readonly<Record<Paper, string>> = { a4: "A4", a3: "A3", letter: "Letter" };

function sheetsOf(drawing: OutDrawing, paper: Paper, scale: number): string {
  try {
    return `${tile(drawing, paper, scale).tiles.length} sheets`;
  } catch (error) {
    if (error instanceof CoreError) return error.message;
    throw error;
  }
}

function refusalOf(panels: readonly PanelEvaluation[]): string | null {
  try {
    requireExportable(panels);
    return null;
  } catch (error) {
    if (error instanceof CoreError) return error.message;
    throw error;
  }
}

/** Templates as files and on paper at full size. */
export function OutView({
  id,
  plan,
  design,
  onMade,
}: {
  id: string;
  plan: Plan;
  design: Design | null;
  /** Notes what the files are made from, the first panel's answer, and saves the plan; false where it could not be saved. */
  onMade: (first: PlanEvaluation) => Promise<boolean>;
}) {
  const panels = useMemo(() => evaluatePanels(plan, design, false), [plan, design]);
  const drawing = useMemo(() => templatesDrawing(panels), [panels]);
  const first = panels[0] as PanelEvaluation;
  const refused = refusalOf(panels);
  const [paper, setPaper] = useState<Paper>("a4");
  const [ruler, setRuler] = useState(100);
  const link = (query: string) => `/api/plans/${id}/templates?${query}`;
  const get = (words: string, query: string, primary = false) => (
    <Button
      key={query}
      variant={primary ? "contained" : "outlined"}
      href={link(query)}
      disabled={refused !== null}
      onClick={(event) => {
        // The server makes it of what is kept: that comes first.
        event.preventDefault();
        void onMade(first.evaluation).then((saved) => saved && window.location.assign(link(query)));
      }}
    >
      {words}
    </Button>
  );
  return (
    <div className="plan-out">
      {refused && (
        <Alert severity="error" role="alert">
          No template is given out: {refused}.
        </Alert>
      )}
      <h2>On paper, at full size</h2>
      <TileRow>
        {(Object.keys(PAPERS_MM) as Paper[]).map((each) => (
          <Tile key={each} chosen={paper === each} onClick={() => setPaper(each)}>
            {PAPER_WORDS[each]}: {sheetsOf(drawing, each, 100 / ruler)}
          </Tile>
        ))}
      </TileRow>
      <p>Sheets overlap by {SHEET.overlapMm} mm: crosses lie on crosses. Print without fitting to the page, then measure the ruler at the foot of a sheet.</p>
      <div style={{ maxWidth: 320 }}>
        <CountField label="The printed ruler measures" value={ruler} min={90} max={110} unit="mm; it should be 100" onChange={setRuler} />
      </div>
      <p>{get("Templates as PDF", `as=pdf&paper=${paper}&ruler_mm=${ruler}`, true)}</p>
      <h2>As files, in millimetres</h2>
      <div className="plan-acts">
        {get("SVG", "as=svg")}
        {get("DXF", "as=dxf")}
        {get("Root's coordinates", "as=coordinates&end=root")}
        {panels.map(
          (panel, i) =>
            panel.plan.tip &&
            get(panels.length === 1 ? "Tip's coordinates" : `Coordinates of panel ${i + 1}'s tip`, `as=coordinates&end=tip${i === 0 ? "" : `&panel=${i + 1}`}`),
        )}
        <Button variant="outlined" href={`/api/plans/${id}/file`}>
          The plan itself
        </Button>
      </div>
      {plan.made && (
        <p>
          Last made {new Date(plan.made.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}, for kerfs of{" "}
          <span className="num">{plan.made.rootKerf_mm.toFixed(2)}</span> and <span className="num">{plan.made.tipKerf_mm.toFixed(2)} mm</span>.
        </p>
      )}
    </div>
  );
}
