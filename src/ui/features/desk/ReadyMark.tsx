"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useStore } from "zustand";
import { unansweredSafety } from "@/core/cutters/solve/safety";
import { later } from "../../kit/later";
import type { DeskStore } from "./deskStore";
import { evaluationOf } from "./evaluationOf";
import type { NotReadyProps } from "./NotReady";

const NotReady = later<NotReadyProps>(
  () => import("./NotReady").then((module) => module.NotReady),
  ({ requested }) => requested,
);

/** Says whether the set-up may be switched on, and refuses where a hazard remains: which, why, and the smallest cure. */
export function ReadyMark({ store }: { store: DeskStore }) {
  const [requested, setRequested] = useState(false);
  const ready = useStore(store, ({ document }) => document.ready === true);
  const withdrawn = useStore(store, ({ document }) => document.readyWithdrawn === true);
  const blocked = useStore(store, ({ document }) => evaluationOf(document).cautions.some((caution) => caution.blocks) || unansweredSafety(document).length > 0);
  const mark = () => {
    if (blocked) {
      setRequested(true);
      return;
    }
    store.change({ ...store.getState().document, ready: ready ? undefined : true, readyWithdrawn: undefined });
    setRequested(false);
  };
  return (
    <>
      {withdrawn && (
        <Alert severity="info" role="status" sx={{ py: 0 }}>
          It was called ready, and is so no more: nobody is on record for its safety answers. Answer them on the wiring page, then mark it ready again.
        </Alert>
      )}
      <Button size="small" variant={ready ? "contained" : "outlined"} aria-pressed={ready} onClick={mark}>
        {ready ? "Ready" : "Mark ready"}
      </Button>
      <NotReady requested={requested} store={store} blocked={blocked} onMark={mark} onClose={() => setRequested(false)} />
    </>
  );
}
