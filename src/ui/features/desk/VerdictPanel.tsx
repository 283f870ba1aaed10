"use client";
import Button from "@mui/material/Button";
import { memo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { describeCure } from "@/core/cutters/solve/cureWords";
import { describeVerdict, VERDICT_WORD } from "@/core/cutters/solve/describe";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { VerdictMark } from "../../cutter/VerdictMark";
import type { DeferredOf } from "../../kit/useDeferredEvaluation";
import { useUnits } from "../../kit/useUnits";

/** The verdict in the sentence's voice, with the smallest cures as buttons that say what they change. */
export const VerdictPanel = memo(function VerdictPanel({
  design,
  evaluation,
  deferred,
  onChange,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  deferred: DeferredOf;
  onChange: (next: Design) => void;
}) {
  const { system } = useUnits();
  const words = describeVerdict(design, evaluation, system);
  // Cures solve the design many times over: they come a moment after the figures.
  const settled = deferred.of === design;
  const { cures } = deferred;
  return (
    <section className="verdict" aria-label="Verdict">
      <div role="status" style={{ display: "flex", gap: 12, alignItems: "baseline" }}>
        <VerdictMark verdict={evaluation.verdict} />
        <div>
          <h2 data-verdict={evaluation.verdict}>{words.headline}</h2>
          {words.detail}
        </div>
      </div>
      {cures.length > 0 && (
        <div className="cures">
          <span style={{ alignSelf: "center" }}>Smallest cures:</span>
          {cures.map((cure) => (
            <Button key={cure.knob} variant="outlined" size="small" onClick={() => onChange(cure.design)} disabled={!settled}>
              {describeCure(cure, system)}
              {cure.leaves !== "clean" && `, then: ${VERDICT_WORD[cure.leaves].toLowerCase()}`}
            </Button>
          ))}
        </div>
      )}
      {cures.length === 0 && evaluation.verdict !== "clean" && settled && (
        <p style={{ margin: "8px 0 0" }}>No single change cures this: change the wire and the supply together.</p>
      )}
    </section>
  );
});
