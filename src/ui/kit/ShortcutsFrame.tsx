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

export interface ShortcutsProps {
  open: boolean;
  onClose: () => void;
  rows: readonly Shortcut[];
}

/** The list of shortcuts, with the version at its foot. */
export function ShortcutsFrame({ open, onClose, rows }: ShortcutsProps) {
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
