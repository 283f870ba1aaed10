"use client";
import Button from "@mui/material/Button";
import { useDeferredValue, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { describeCure, findCures } from "@/core/cutters/solve/cures";
import { describeVerdict, VERDICT_WORD } from "@/core/cutters/solve/describe";
import type { DesignAnswer } from "@/core/cutters/solve/evaluate";
import { VerdictMark } from "../../cutter/VerdictMark";
import { useUnits } from "../../kit/useUnits";

/** The verdict in the sentence's voice, with the smallest cures as buttons that say what they change. */
export function VerdictPanel({ design, answer, onChange }: { design: Design; answer: DesignAnswer; onChange: (next: Design) => void }) {
  const { system } = useUnits();
  const words = describeVerdict(design, answer, system);
  // Cures solve the design many times over: they may come a moment after the figures.
  const settled = useDeferredValue(design);
  const cures = useMemo(() => findCures(settled), [settled]);
  return (
    <section className="verdict" aria-label="Verdict">
      <div role="status" style={{ display: "flex", gap: 12, alignItems: "baseline" }}>
        <VerdictMark verdict={answer.verdict} />
        <div>
          <h2 data-verdict={answer.verdict}>{words.headline}</h2>
          {words.detail}
        </div>
      </div>
      {cures.length > 0 && (
        <div className="cures">
          <span style={{ alignSelf: "center" }}>Smallest cures:</span>
          {cures.map((cure) => (
            <Button key={cure.knob} variant="outlined" size="small" onClick={() => onChange(cure.design)} disabled={settled !== design}>
              {describeCure(cure, system)}
              {cure.leaves !== "clean" && `, then: ${VERDICT_WORD[cure.leaves].toLowerCase()}`}
            </Button>
          ))}
        </div>
      )}
      {cures.length === 0 && answer.verdict !== "clean" && settled === design && (
        <p style={{ margin: "8px 0 0" }}>No single change cures this: change the wire and the supply together.</p>
      )}
    </section>
  );
}
