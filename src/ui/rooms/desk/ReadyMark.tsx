"use client";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useStore } from "zustand";
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
  const blocked = useStore(store, ({ document }) => answerOf(document).cautions.some((caution) => caution.blocks));
  const mark = () => {
    if (blocked) {
      setAsked(true);
      return;
    }
    store.change({ ...store.getState().document, ready: ready ? undefined : true });
    setAsked(false);
  };
  return (
    <>
      <Button size="small" variant={ready ? "contained" : "outlined"} aria-pressed={ready} onClick={mark}>
        {ready ? "Ready" : "Mark ready"}
      </Button>
      <NotReady asked={asked} store={store} blocked={blocked} onMark={mark} onClose={() => setAsked(false)} />
    </>
  );
}
