"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { acceptedFrom, movedFigures, withCalibration } from "@/core/calibration/accept";
import { CALIBRATION, HARDLY_BELIEVED, type LearntFigure } from "@/core/calibration/fit";
import type { Lessons } from "@/core/calibration/learn";
import type { Design } from "@/core/cutters/design/schema";
import { calibrationOf, evaluateDesign, knobOf, settable, settingForHeat } from "@/core/cutters/solve/evaluate";
import type { LogEntry } from "@/core/log/entries";
import { resolveFoam } from "@/core/materials/foams";
import { knobWords } from "@/core/sheets/buildSheet";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { useLessons } from "./useLessons";

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

/** Each learnt figure, and how sure it was and is. */
function LearntTable({ lessons }: { lessons: Lessons }) {
  return (
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
        {lessons.fit.figures.map((figure) => {
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
  );
}

/** Measured figures against the fitted ones. A reading that the others contradict is left out, until a person has confirmed it twice. */
function Residuals({ lessons, confirmed, confirm }: { lessons: Lessons } & Pick<ReturnType<typeof useLessons>, "confirmed" | "confirm">) {
  const { show } = useUnits();
  return (
    <>
      <h2 className="log-heading" style={{ marginTop: 0 }}>
        Against what was measured
      </h2>
      <ul style={{ fontSize: 15, paddingLeft: 18, margin: 0 }}>
        {lessons.unsettled.map(({ at, measuredAtMm, settlesAfterMm }) => (
          <li key={at} data-unsettled>
            The kerf of {at.slice(0, 10)} was measured after {show("length", measuredAtMm)} of cut, and settles after {show("length", settlesAfterMm)}:{" "}
            <strong>left out.</strong>
          </li>
        ))}
        {lessons.fit.residuals.map((row) => (
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
    </>
  );
}

/** A cut's setting in the knob's own unit; its heat where the cutter has no knob. */
function useSettingWords(design: Design) {
  const { show, system } = useUnits();
  return (wPerM: number, feedMmS: number) => {
    const tried: Design = { ...design, job: { ...design.job, feed_mm_s: feedMmS } };
    const knob = knobOf(tried);
    const wish = knob ? settingForHeat(tried, wPerM) : null;
    return knob && wish !== null ? knobWords(knob.kind, settable(knob, wish), system) : show("heat", wPerM);
  };
}

/** What the lessons would move on the desk, the cut that would teach most, and accepting them. */
function Proposal({ design, lessons, onAccept }: { design: Design; lessons: Lessons; onAccept: (next: Design) => void }) {
  const { show } = useUnits();
  const setting = useSettingWords(design);
  const accepted = (at: string) => withCalibration(design, acceptedFrom(lessons.fit, design.job.foam, lessons.cuts, at));
  const proposed = accepted(new Date(0).toISOString());
  const moved = movedFigures(design, proposed);
  const { next } = lessons;
  return (
    <>
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
      {next && (
        <p data-next-cut>
          <strong>Next cut that would teach most:</strong> {setting(next.powerWPerM, next.feedMPerS * 1000)} at {show("feed", next.feedMPerS * 1000)}, and
          measure its {next.measure}: the doubt of this job falls from {percent(next.before)} to {percent(next.after)}.
        </p>
      )}
      <Button variant="contained" onClick={() => onAccept(accepted(new Date().toISOString()))} sx={{ mt: 1 }}>
        Accept this calibration
      </Button>
      <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
        Nothing on the desk moves until you accept; Undo, or Forget it, brings the estimates back. The wire would be at{" "}
        {show("temperature", evaluateDesign(proposed).cut.wireC)} in this cut.
      </p>
    </>
  );
}

/** What the logged cuts say about this cutter and foam; taken up only when the maker says so. */
export function CalibrationPanel({ design, entries, onAccept }: { design: Design; entries: readonly LogEntry[]; onAccept: (next: Design) => void }) {
  const { cuts, lessons, fault, busy, learn, confirmed, confirm } = useLessons(design, entries);
  const accepted = calibrationOf(design);
  const foam = resolveFoam(design.job.foam).name;
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
          ? `No logged cut of ${foam} or near it has a kerf, a bow or a current measured yet: one is enough to begin.`
          : `${cuts.length} logged ${cuts.length === 1 ? "cut" : "cuts"} of ${foam} or near it can teach.`}{" "}
        <Why of="calibration" relation={CALIBRATION} inputs={`${cuts.length} cuts.`} />
      </p>
      <Button variant="outlined" disabled={cuts.length === 0 || busy} onClick={learn}>
        {busy ? "Computing..." : "What do these cuts teach?"}
      </Button>
      {fault && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {fault}
        </Alert>
      )}
      {lessons && (
        <div role="status" style={{ marginTop: 14 }}>
          <div className="two-up log-columns" style={{ gridTemplateColumns: "minmax(0, 1.7fr) minmax(0, 1fr)" }}>
            <div>
              <LearntTable lessons={lessons} />
            </div>
            <div>
              <Residuals lessons={lessons} confirmed={confirmed} confirm={confirm} />
            </div>
          </div>
          <Proposal design={design} lessons={lessons} onAccept={onAccept} />
        </div>
      )}
    </section>
  );
}
