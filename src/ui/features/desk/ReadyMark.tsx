"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useStore } from "zustand";
import { unansweredSafety } from "@/core/cutters/solve/safety";
import { later } from "../../kit/later";
import { answerOf } from "./answerOf";
import type { DeskStore } from "./deskStore";
import type { NotReadyProps } from "./NotReady";

const NotReady = later<NotReadyProps>(
  () => import("./NotReady").then((module) => module.NotReady),
  ({ asked }) => asked,
);

/** Says whether the set-up may be switched on, and refuses where a hazard stands: which, why, and the smallest cure. */
export function ReadyMark({ store }: { store: DeskStore }) {
  const [asked, setAsked] = useState(false);
  const ready = useStore(store, ({ document }) => document.ready === true);
  const withdrawn = useStore(store, ({ document }) => document.readyWithdrawn === true);
  const blocked = useStore(store, ({ document }) => answerOf(document).cautions.some((caution) => caution.blocks) || unansweredSafety(document).length > 0);
  const mark = () => {
    if (blocked) {
      setAsked(true);
      return;
    }
    store.change({ ...store.getState().document, ready: ready ? undefined : true, readyWithdrawn: undefined });
    setAsked(false);
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
      <NotReady asked={asked} store={store} blocked={blocked} onMark={mark} onClose={() => setAsked(false)} />
    </>
  );
}
