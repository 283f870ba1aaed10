"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useMemo, useState } from "react";
import type { CutFace } from "@/core/log/entries";
import { CUT_FACES } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";
import { foretold, guidedFeedMmS, type Measured, measuredCut } from "@/core/pace/measured";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import type { Stations } from "@/core/plans/stations";
import { logQueue } from "../../kit/logQueue";
import { OptionalQuantity } from "../../kit/OptionalQuantity";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

const SIZES = { min: 0.1, max: 3000 };
const KERFS = { min: 0.05, max: 50 };

/** The part under the calliper: foretold against measured, and kept as a test cut that its cutter learns from. */
export function MeasuredForm({ plan, evaluation, stations }: { plan: Plan; evaluation: PlanEvaluation; stations: Stations }) {
  const { show } = useUnits();
  const [measured, setMeasured] = useState<Measured>({});
  const [face, setFace] = useState<CutFace | null>(null);
  const [saved, setSaved] = useState<"no" | "yes" | string>("no");
  const [last] = plan.runs;
  const feed = (last && guidedFeedMmS(stations, last)) ?? evaluation.root.feedMmS;
  const rows = useMemo(() => foretold(plan, evaluation, feed), [plan, evaluation, feed]);
  const { cutter } = evaluation;
  if (!cutter || !plan.cutter) return null;
  const id = plan.cutter.id;
  // How the face looked is for a person to say.
  const cut = face && measuredCut(plan, evaluation, cutter.design, measured, { face, rootFeedMmS: feed, at: new Date().toISOString() });
  const keep = () =>
    void (
      cut &&
      logQueue.keep(id, cut).then(
        () => setSaved("yes"),
        (error: Error) => setSaved(error.message),
      )
    );
  const set = (next: Partial<Measured>) => {
    setSaved("no");
    setMeasured({ ...measured, ...next });
  };
  return (
    <section aria-label="The part under the calliper" data-testid="measured">
      <h2 style={{ fontSize: 18, margin: "14px 0 4px" }}>Under the calliper, at the thickest</h2>
      <table className="plain-table">
        <thead>
          <tr>
            <th scope="col">where</th>
            <th scope="col">wanted</th>
            <th scope="col">foretold at {show("feed", feed)}</th>
            <th scope="col">measured</th>
            <th scope="col">off by</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ place, wantedMm, foretoldMm }) => {
            const real = measured[place];
            return (
              <tr key={place} data-place={place}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {place}
                </th>
                <td className="num">{show("length", wantedMm, 2)}</td>
                <td className="num">{show("length", foretoldMm, 2)}</td>
                <td style={{ minWidth: 150 }}>
                  <OptionalQuantity
                    quantity="length"
                    label={`Thickness, ${place}`}
                    value={real}
                    range={SIZES}
                    hint=" "
                    onChange={(value) => set({ [place]: value })}
                  />
                </td>
                <td className="num">{real === undefined ? "" : show("kerf", real - foretoldMm)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="plan-pair">
        <OptionalQuantity
          quantity="kerf"
          label="Kerf in the offcut"
          value={measured.kerf}
          range={KERFS}
          hint="empty: computed from the root's thickness"
          onChange={(kerf) => set({ kerf })}
        />
        <OptionalQuantity
          quantity="kerf"
          label="Hook: how far the middle trailed"
          value={measured.hook}
          range={KERFS}
          hint="the mark of a stop shows it"
          onChange={(hook) => set({ hook })}
        />
      </div>
      <TileRow>
        {CUT_FACES.map((each) => (
          <Tile key={each} chosen={face === each} onClick={() => setFace(each)}>
            {FACE_WORDS[each].name}
          </Tile>
        ))}
      </TileRow>
      <p data-testid="face-finish">{face === null ? "How does its face look?" : FACE_WORDS[face].finish}</p>
      <p>
        <Button variant="outlined" disabled={cut === null || saved === "yes"} onClick={keep}>
          {saved === "yes" ? "Logged as a test cut" : "Log as a test cut"}
        </Button>{" "}
        {saved === "yes" ? (
          <Link href={`/cutters/${id}/log`}>See what it teaches</Link>
        ) : cut?.kerf_mm === undefined ? (
          ""
        ) : (
          `a kerf of ${show("kerf", cut.kerf_mm)}`
        )}
      </p>
      {saved !== "no" && saved !== "yes" && (
        <Alert severity="error" role="alert">
          It could not be kept: {saved}
        </Alert>
      )}
    </section>
  );
}
