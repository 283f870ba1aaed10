"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useEffect, useMemo, useRef, useState } from "react";
import { acceptedFrom, movedFigures, withCalibration } from "@/core/calibration/accept";
import { CALIBRATION, HARDLY_BELIEVED, type LearntFigure } from "@/core/calibration/fit";
import type { Lessons } from "@/core/calibration/learn";
import { teachingCuts } from "@/core/calibration/measured";
import type { Design } from "@/core/cutters/design/schema";
import { calibrationOf, evaluateDesign, knobOf, settable, settingForHeat } from "@/core/cutters/solve/evaluate";
import type { LogEntry } from "@/core/log/entries";
import { resolveFoam } from "@/core/materials/foams";
import { knobWords } from "@/core/sheets/buildSheet";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

const NAMES: Readonly<Record<LearntFigure["name"], string>> = {
  heatShare: "Heat that opens the kerf",
  collapseShiftK: "Foam gives way at",
  densityShare: "Density",
  dragShare: "Drag",
  clearanceShare: "Room next to the wire",
  extraOhm: "Ohms outside the wire",
};
/** Spreads of a figure that hold nine in ten. */
const NINE_IN_TEN = 1.645;

/** Bands are drawn on a scale this many times the band before, so that a shifted one fits. */
const DRAWN_TIMES = 2;

const signed = (value: number, decimals: number, unit: string) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(decimals)} ${unit}`;
const percent = (share: number) => `${Math.round(100 * share)} %`;

/** A learnt figure in words: where it is, and how sure it was and is. */
function figureWords({ name, value, before, after }: LearntFigure): { value: string; before: string; after: string } {
  if (name === "collapseShiftK")
    return { value: signed(value, 1, "K"), before: `±${(NINE_IN_TEN * before).toFixed(0)} K`, after: `±${(NINE_IN_TEN * after).toFixed(1)} K` };
  if (name === "extraOhm")
    return { value: signed(value, 2, "ohm"), before: `±${(NINE_IN_TEN * before).toFixed(2)} ohm`, after: `±${(NINE_IN_TEN * after).toFixed(2)} ohm` };
  return { value: percent(value), before: `±${percent(NINE_IN_TEN * before)}`, after: `±${percent(NINE_IN_TEN * after)}` };
}

/** A figure's band before and after as two bars on one scale: the narrower, the surer. Drawing units: 120 x 14. */
function BandBars({ figure }: { figure: LearntFigure }) {
  const half = (spread: number) => (58 / DRAWN_TIMES) * Math.min(DRAWN_TIMES, spread / figure.before);
  const middle = figure.name === "collapseShiftK" || figure.name === "extraOhm" ? figure.value : Math.log(figure.value);
  const at = 60 + Math.max(-56, Math.min(56, (58 * middle) / (DRAWN_TIMES * NINE_IN_TEN * figure.before)));
  return (
    <svg viewBox="0 0 120 16" width={120} height={16} role="img" aria-label={`sure to ${percent(figure.after / figure.before)} of the band before`}>
      <path d={`M${60 - half(figure.before)} 4H${60 + half(figure.before)}`} stroke="var(--line)" strokeWidth={4} />
      <path d={`M${Math.max(1, at - half(figure.after))} 11H${Math.min(119, at + half(figure.after))}`} stroke="var(--cool)" strokeWidth={5} />
      <path d="M60 0V16" stroke="var(--graphite-soft)" strokeWidth={1} />
    </svg>
  );
}

/** What the kept cuts say about this cutter and foam; taken up only when the maker says so. */
export function CalibrationPanel({ design, entries, onAccept }: { design: Design; entries: readonly LogEntry[]; onAccept: (next: Design) => void }) {
  const { show, system } = useUnits();
  const cuts = useMemo(() => teachingCuts(design, entries), [design, entries]);
  const [lessons, setLessons] = useState<{ of: string; evaluation: Lessons } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const engine = useRef<EngineClient<"learn"> | null>(null);
  useEffect(() => {
    const mine = new EngineClient("learn");
    engine.current = mine;
    return () => mine.close();
  }, []);
  const accepted = calibrationOf(design);
  const key = `${cuts.length} ${cuts[0]?.at ?? ""} ${design.job.foam.family} ${design.job.foam.density_kg_m3}`;
  /** How often a person has said that a cut is right: said twice, it counts. */
  const [confirmed, setConfirmed] = useState<Readonly<Record<number, number>>>({});
  const confirm = (cut: number) => {
    const next = { ...confirmed, [cut]: (confirmed[cut] ?? 0) + 1 };
    setConfirmed(next);
    if (next[cut] === 2) learn(next);
  };
  const learn = (said = confirmed) => {
    const trusted = Object.keys(said)
      .map(Number)
      .filter((cut) => said[cut] === 2);
    setBusy(true);
    setFault(null);
    engine.current
      ?.submit({ design, cuts, trusted })
      .then((evaluation) => setLessons({ of: key, evaluation }))
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      })
      .finally(() => setBusy(false));
  };
  const shown = lessons?.of === key ? lessons.evaluation : null;
  const proposed = shown ? withCalibration(design, acceptedFrom(shown.fit, design.job.foam, shown.cuts, new Date(0).toISOString())) : null;
  const moved = proposed ? movedFigures(design, proposed) : [];
  const foam = resolveFoam(design.job.foam).name;
  const setting = (wPerM: number, feedMmS: number) => {
    const tried: Design = { ...design, job: { ...design.job, feed_mm_s: feedMmS } };
    const knob = knobOf(tried);
    const wish = knob ? settingForHeat(tried, wPerM) : null;
    return knob && wish !== null ? knobWords(knob.kind, settable(knob, wish), system) : show("heat", wPerM);
  };
  return (
    <section aria-label="What the cuts teach">
      {accepted && (
        <p data-calibrated style={{ borderLeft: "3px solid var(--cool)", paddingLeft: 10, margin: "0 0 10px" }}>
          {foam} is calibrated from {accepted.cuts} {accepted.cuts === 1 ? "cut" : "cuts"}, accepted {accepted.at.slice(0, 10)}: every figure on the desk counts
          it.{" "}
          <Button size="small" onClick={() => onAccept(withCalibration(design, null))}>
            Forget it
          </Button>
        </p>
      )}
      <p style={{ margin: "0 0 8px" }}>
        {cuts.length === 0
          ? `No kept cut of ${foam} or near it has a kerf, a bow or a current measured yet: one is enough to begin.`
          : `${cuts.length} kept ${cuts.length === 1 ? "cut" : "cuts"} of ${foam} or near it can teach.`}{" "}
        <Why of="calibration" relation={CALIBRATION} inputs={`${cuts.length} cuts.`} />
      </p>
      <Button variant="outlined" disabled={cuts.length === 0 || busy} onClick={() => learn()}>
        {busy ? "Computing..." : "What do these cuts teach?"}
      </Button>
      {fault && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {fault}
        </Alert>
      )}
      {shown && proposed && (
        <div role="status" style={{ marginTop: 14 }}>
          <div className="two-up log-columns" style={{ gridTemplateColumns: "minmax(0, 1.7fr) minmax(0, 1fr)" }}>
            <div>
              <table className="plain-table">
                <thead>
                  <tr>
                    <th>Estimate</th>
                    <th>Learnt, of what was believed</th>
                    <th>Sure before</th>
                    <th>Sure now</th>
                    <th>
                      <span className="visually-hidden">Drawn</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {shown.fit.figures.map((figure) => {
                    const words = figureWords(figure);
                    return (
                      <tr key={figure.name} data-learnt={figure.name}>
                        <td>{NAMES[figure.name]}</td>
                        <td className="num">{words.value}</td>
                        <td className="num">{words.before}</td>
                        <td className="num">{words.after}</td>
                        <td>
                          <BandBars figure={figure} />
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
            <div>
              <h2 className="log-heading" style={{ marginTop: 0 }}>
                Against what was measured
              </h2>
              <ul style={{ fontSize: 15, paddingLeft: 18, margin: 0 }}>
                {shown.unsettled.map(({ at, measuredAtMm, settlesAfterMm }) => (
                  <li key={at} data-unsettled>
                    The kerf of {at.slice(0, 10)} was measured after {show("length", measuredAtMm)} of cut, and settles after {show("length", settlesAfterMm)}:{" "}
                    <strong>left out.</strong>
                  </li>
                ))}
                {shown.fit.residuals.map((row) => (
                  <li key={`${row.cut}-${row.what}`}>
                    {row.what === "lag" ? "bow" : row.what} measured{" "}
                    <span className="num">{row.what === "current" ? show("current", row.measured) : show("kerf", row.measured * 1000)}</span>, fits{" "}
                    <span className="num">{row.what === "current" ? show("current", row.fitted) : show("kerf", row.fitted * 1000)}</span>
                    {row.weight < HARDLY_BELIEVED && (
                      <>
                        : <strong>the other cuts contradict it, so it is left out.</strong> Measure it again.{" "}
                        <Button size="small" onClick={() => confirm(row.cut)}>
                          {confirmed[row.cut] === 1 ? "Measured twice: count it" : "It is right"}
                        </Button>
                      </>
                    )}
                  </li>
                ))}
              </ul>
            </div>
          </div>
          <h2 className="log-heading">What moves on the desk</h2>
          <dl className="moved" data-moved>
            {moved.map((figure) => (
              <div key={figure.id}>
                <dt>{figure.label}</dt>
                <dd className="num">
                  {show(figure.quantity, figure.before)} to <strong>{show(figure.quantity, figure.after)}</strong>
                </dd>
              </div>
            ))}
          </dl>
          {shown.next && (
            <p data-next-cut>
              <strong>Next cut that would teach most:</strong> {setting(shown.next.powerWPerM, shown.next.feedMPerS * 1000)} at{" "}
              {show("feed", shown.next.feedMPerS * 1000)}, and measure its {shown.next.measure}: the doubt of this job falls from {percent(shown.next.before)}{" "}
              to {percent(shown.next.after)}.
            </p>
          )}
          <Button
            variant="contained"
            onClick={() => onAccept(withCalibration(design, acceptedFrom(shown.fit, design.job.foam, shown.cuts, new Date().toISOString())))}
            sx={{ mt: 1 }}
          >
            Accept this calibration
          </Button>
          <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
            Nothing on the desk moves until you accept; Undo, or Forget it, brings the estimates back. The wire would be at{" "}
            {show("temperature", evaluateDesign(proposed).cut.wireC)} in this cut.
          </p>
        </div>
      )}
    </section>
  );
}
