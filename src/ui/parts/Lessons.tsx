"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useState } from "react";
import type { Calibration, LearntFigure } from "@/core/calibration/fit";
import type { Design } from "@/core/design/schema";
import type { TestCut } from "@/core/log/entries";
import { useUnits } from "../hooks/useUnits";

const NAMES: Readonly<Record<LearntFigure["name"], string>> = {
  heatShare: "Heat that reaches the foam",
  collapseShiftK: "Foam gives way",
  densityShare: "Density",
  dragShare: "Drag",
};

/** One figure in words: how far it moved, and how sure it was before and is now. */
function figureWords({ name, value, before, after }: LearntFigure): string {
  if (name === "collapseShiftK")
    return `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)} K, sure to ±${after.toFixed(1)} K (before ±${before.toFixed(1)} K)`;
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  return `${percent(value)} of what was believed, sure to ±${percent(after)} (before ±${percent(before)})`;
}

/** What the kept cuts say about this cutter and foam. It tells; the desk's own figures stay as they are. */
export function Lessons({ design, cuts }: { design: Design; cuts: readonly TestCut[] }) {
  const { show } = useUnits();
  const [fit, setFit] = useState<{ of: number; answer: Calibration } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  // Cuts of the foam on the desk that were measured, with the heat reckoned for them at the time.
  const usable = cuts.filter(
    (cut) =>
      cut.kerf_mm !== undefined &&
      cut.heat_W_per_m !== undefined &&
      cut.foam.family === design.job.foam.family &&
      cut.foam.density_kg_m3 === design.job.foam.density_kg_m3,
  );
  const learn = async () => {
    try {
      // The fitting package is only fetched by those who ask.
      const { calibrate } = await import("@/core/calibration/fit");
      const answer = calibrate(
        usable.map((cut) => ({
          wire: cut.wire,
          foam: cut.foam,
          ambientC: design.ambient_C,
          feedMPerS: cut.feed_mm_s / 1000,
          powerWPerM: cut.heat_W_per_m as number,
          kerfM: (cut.kerf_mm as number) / 1000,
        })),
      );
      setFit({ of: usable.length, answer });
      setFault(null);
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  return (
    <section aria-label="What the cuts teach" style={{ marginTop: 18 }}>
      <Button variant="outlined" disabled={usable.length === 0} onClick={() => void learn()}>
        What do these cuts teach?
      </Button>
      {usable.length === 0 && <p style={{ fontSize: 15 }}>A kept cut of this foam with its kerf measured is needed.</p>}
      {fault && <Alert severity="error">{fault}</Alert>}
      {fit && (
        <div role="status">
          <dl className="part-figures" style={{ maxWidth: 640, gridTemplateColumns: "auto 1fr auto" }}>
            {fit.answer.figures.map((figure) => (
              <div key={figure.name} style={{ display: "contents" }}>
                <dt>{NAMES[figure.name]}</dt>
                <dd className="num" data-learnt={figure.name}>
                  {figureWords(figure)}
                </dd>
                <dd />
              </div>
            ))}
          </dl>
          <ul style={{ fontSize: 15, paddingLeft: 18 }}>
            {fit.answer.residuals.map((row) => (
              <li key={`${row.cut}-${row.what}`}>
                measured {show("kerf", row.measuredM * 1000)}, fits {show("kerf", row.fittedM * 1000)}
                {row.weight < 0.5 ? ": hardly believed, look at it again" : ""}
              </li>
            ))}
          </ul>
          <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
            From {fit.of} {fit.of === 1 ? "cut" : "cuts"}; an estimate that moves only as far as the cuts pull it. The desk's own figures are not changed by it.
          </p>
        </div>
      )}
    </section>
  );
}
