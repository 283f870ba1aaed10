"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignAnswer } from "@/core/cutters/solve/evaluate";
import { blocksOf } from "@/core/cutters/solve/readiness";
import { useUnits } from "../../kit/useUnits";

/** Says whether the set-up may be switched on, and refuses where a hazard stands: which, why, and the smallest cure. */
export function ReadyMark({ design, answer, onChange }: { design: Design; answer: DesignAnswer; onChange: (next: Design) => void }) {
  const { system } = useUnits();
  const [asked, setAsked] = useState(false);
  const blocked = answer.cautions.some((caution) => caution.blocks);
  const blocks = useMemo(() => (asked ? blocksOf(design, system, answer) : []), [asked, design, answer, system]);
  const mark = () => {
    if (blocked) {
      setAsked(true);
      return;
    }
    onChange({ ...design, ready: design.ready ? undefined : true });
    setAsked(false);
  };
  return (
    <>
      <Button size="small" variant={design.ready ? "contained" : "outlined"} aria-pressed={design.ready === true} onClick={mark}>
        {design.ready ? "Ready" : "Mark ready"}
      </Button>
      <Dialog open={asked} onClose={() => setAsked(false)} aria-labelledby="ready-title">
        <DialogTitle id="ready-title">{blocks.length > 0 ? "Not ready" : "Cured"}</DialogTitle>
        <DialogContent>
          {blocks.length === 0 && <p role="status">Nothing keeps it from being ready any more.</p>}
          {blocks.map(({ caution, cure }) => (
            <div key={caution.code} data-block={caution.code} style={{ borderLeft: "5px solid var(--ember)", paddingLeft: 12, marginBottom: 14 }}>
              <p style={{ margin: "0 0 6px" }}>
                {caution.words(system)}{" "}
                <span style={{ fontSize: 13.5, color: "var(--graphite-soft)" }}>
                  ({caution.standing}: {caution.source})
                </span>
              </p>
              {cure ? (
                <Button variant="outlined" size="small" onClick={() => onChange(cure.design)}>
                  {cure.words}
                </Button>
              ) : (
                <em>No single change takes this away: change wire and supply together.</em>
              )}
            </div>
          ))}
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsked(false)}>Close</Button>
          <Button variant="contained" disabled={blocked} onClick={mark}>
            Mark ready
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
