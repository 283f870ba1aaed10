"use client";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { DIAGNOSIS, diagnose, type Remedy } from "@/core/diagnosis/diagnosis";
import type { Diagnosis, TestCut } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** What went wrong with the last cut: the likeliest cause, one change for it, and what became of changes tried before. */
export function DiagnosisPanel({
  design,
  cut,
  past,
  onTry,
  onOutcome,
}: {
  design: Design;
  cut: TestCut;
  past: readonly { id: string; entry: Diagnosis }[];
  onTry: (remedy: Remedy) => void;
  onOutcome: (id: string, outcome: Diagnosis["outcome"]) => void;
}) {
  const { system } = useUnits();
  const { remedies } = useMemo(
    () =>
      diagnose(
        design,
        cut,
        past.map(({ entry }) => entry),
        system,
      ),
    [design, cut, past, system],
  );
  const open = past.filter(({ entry }) => entry.outcome === "untried");
  return (
    <section aria-label="What went wrong" style={{ marginTop: 12 }}>
      <h3 className="log-heading">
        The last cut: {FACE_WORDS[cut.face].name}{" "}
        <Why of="diagnosis" relation={DIAGNOSIS} inputs={`Read off the cut of ${cut.at.slice(0, 16).replace("T", " ")}.`} />
      </h3>
      {open.map(({ id, entry }) => (
        <div key={id} className="diagnosis" data-open-diagnosis>
          <p style={{ margin: 0 }}>
            You tried: <strong>{entry.change}</strong>. Did it help?
          </p>
          <div style={{ display: "flex", gap: 8 }}>
            <Button variant="outlined" onClick={() => onOutcome(id, "helped")}>
              It helped
            </Button>
            <Button variant="outlined" onClick={() => onOutcome(id, "no help")}>
              It did not
            </Button>
          </div>
        </div>
      ))}
      {remedies.length === 0 ? (
        <p style={{ margin: 0 }}>
          {FACE_WORDS[cut.face].name}, {FACE_WORDS[cut.face].means}: nothing to change.
        </p>
      ) : (
        <ol className="remedies">
          {remedies.map((remedy, i) => (
            <li key={remedy.cause} data-cause={remedy.cause}>
              {i === 0 && <FaceDrawing face={cut.face} />}
              <div>
                <strong>{remedy.cause}</strong>: {remedy.reading}.
                {remedy.before && <em> {remedy.before === "helped" ? "This helped before." : "Tried before without help."}</em>}
                <div>
                  <Button size="small" variant={i === 0 ? "contained" : "outlined"} onClick={() => onTry(remedy)} sx={{ textAlign: "left", mt: 0.5 }}>
                    Try: {remedy.change}
                  </Button>
                </div>
              </div>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
