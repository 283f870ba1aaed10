"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { ReactNode } from "react";
import type { Conflict } from "./documentStore";

export interface ConflictFrameProps<T> {
  /** what one is called: "cutter" */
  one: string;
  conflict: Conflict<T> | null;
  onResolve: (choice: "mine" | "theirs" | "both") => Promise<void>;
  children: (conflict: Conflict<T>) => ReactNode;
}

/** Two tabs changed the same part of a document: both versions in the words of its kind, and which to keep. */
export function ConflictFrame<T>({ one, conflict, onResolve, children }: ConflictFrameProps<T>) {
  return (
    <Dialog open={conflict !== null} aria-labelledby="clash-title">
      <DialogTitle id="clash-title">Changed in two places</DialogTitle>
      <DialogContent>
        {conflict?.current.changedBy ?? "Another tab"} saved a different <strong>{conflict?.clashes.join(", ")}</strong> of this {one} while you changed it
        here. Parts that only one of you changed stay as changed.
        {conflict && children(conflict)}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => void onResolve("theirs")}>
          {conflict?.current.changedBy ? `Take ${conflict.current.changedBy}'s` : "Take the other tab's"}
        </Button>
        <Button onClick={() => void onResolve("mine")}>Keep mine</Button>
        <Button variant="contained" onClick={() => void onResolve("both")}>
          Keep both, mine as a new {one}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
