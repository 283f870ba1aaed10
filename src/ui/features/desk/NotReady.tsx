"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useMemo } from "react";
import { useStore } from "zustand";
import { blocksOf } from "@/core/cutters/solve/readiness";
import { useUnits } from "../../kit/useUnits";
import type { DeskStore } from "./deskStore";
import { evaluationOf } from "./evaluationOf";

export interface NotReadyProps {
  requested: boolean;
  store: DeskStore;
  blocked: boolean;
  onMark: () => void;
  onClose: () => void;
}

/** What keeps a set-up from being switched on, each with its smallest cure. */
export function NotReady({ store, blocked, onMark, onClose }: NotReadyProps) {
  const { system } = useUnits();
  const design = useStore(store, ({ document }) => document);
  const blocks = useMemo(() => blocksOf(design, system, evaluationOf(design)), [design, system]);
  return (
    <Dialog open onClose={onClose} aria-labelledby="ready-title">
      <DialogTitle id="ready-title">{blocks.length > 0 ? "Not ready" : "Cured"}</DialogTitle>
      <DialogContent>
        {blocks.length === 0 && <p role="status">Nothing keeps it from being ready any more.</p>}
        {blocks.map(({ caution, cure }) => (
          <div key={caution.code} data-block={caution.code} style={{ borderLeft: "5px solid var(--ember)", paddingLeft: 12, marginBottom: 14 }}>
            <p style={{ margin: "0 0 6px" }}>
              {caution.words(system)}{" "}
              <span style={{ fontSize: 13.5, color: "var(--graphite-soft)" }}>
                ({caution.basis}: {caution.source})
              </span>
            </p>
            {cure ? (
              <Button variant="outlined" size="small" onClick={() => store.change(cure.design)}>
                {cure.words}
              </Button>
            ) : caution.code === "safety-unanswered" ? null : (
              <em>No single change takes this away: change wire and supply together.</em>
            )}
          </div>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={blocked} onClick={onMark}>
          Mark ready
        </Button>
      </DialogActions>
    </Dialog>
  );
}
