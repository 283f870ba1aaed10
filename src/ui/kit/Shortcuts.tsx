"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { WRITTEN_BY } from "@/core/kernel/version";

/** One row of the shortcut list: what to press and what it does. */
export interface Shortcut {
  keys: string;
  does: string;
}

export const DESK_SHORTCUTS: readonly Shortcut[] = [
  { keys: "F", does: "foam" },
  { keys: "W", does: "wire" },
  { keys: "S", does: "supply" },
  { keys: "C", does: "control" },
  { keys: "T", does: "tension" },
  { keys: "V", does: "feed" },
  { keys: "P", does: "go to the working point" },
  { keys: "arrows", does: "on the working point: feed and heat, ten steps with Shift" },
  { keys: "Ctrl Z", does: "undo" },
  { keys: "Ctrl Y", does: "redo" },
  { keys: "G", does: "find set-ups for this job" },
  { keys: "D", does: "desk" },
  { keys: "N", does: "tension, frame and tuner" },
  { keys: "E", does: "bench: H heat, - and = the knob, up and down the pace, space go or stop, P stand still, R fresh block" },
  { keys: "X", does: "wiring" },
  { keys: "B", does: "build sheet" },
  { keys: "K", does: "cut and log: the space bar is its stopwatch" },
  { keys: "U", does: "millimetres or inches" },
  { keys: "L", does: "all cutters" },
  { keys: "?", does: "this list" },
];

export function ShortcutsDialog({ open, onClose, rows }: { open: boolean; onClose: () => void; rows: readonly Shortcut[] }) {
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Shortcuts</DialogTitle>
      <DialogContent>
        <dl style={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: "6px 18px", margin: 0 }}>
          {rows.map((row) => (
            <div key={row.keys} style={{ display: "contents" }}>
              <dt className="num">{row.keys}</dt>
              <dd style={{ margin: 0 }}>{row.does}</dd>
            </div>
          ))}
        </dl>
        <p className="num" style={{ margin: "16px 0 0", fontSize: 13, color: "var(--graphite-soft)" }}>
          {WRITTEN_BY}
        </p>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
