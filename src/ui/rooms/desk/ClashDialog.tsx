"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useStore } from "zustand";
import { useUnits } from "../../kit/useUnits";
import type { DeskStore } from "./deskStore";
import { partWords } from "./partWords";

/** Two tabs changed the same part of a cutter: both versions, and which to keep. */
export function ClashDialog({ store }: { store: DeskStore }) {
  const conflict = useStore(store, (state) => state.conflict);
  const { show } = useUnits();
  return (
    <Dialog open={conflict !== null} aria-labelledby="clash-title">
      <DialogTitle id="clash-title">Changed in two places</DialogTitle>
      <DialogContent>
        Another tab saved a different <strong>{conflict?.clashes.join(", ")}</strong> of this cutter while you changed it here. Whatever only one of you changed
        is kept either way.
        {conflict && (
          <table className="plain-table" style={{ marginTop: 12 }}>
            <thead>
              <tr>
                <th scope="col" />
                <th scope="col">here</th>
                <th scope="col">in the other tab</th>
              </tr>
            </thead>
            <tbody>
              {conflict.clashes.map((label) => (
                <tr key={label} data-clash={label}>
                  <th scope="row" style={{ fontWeight: 400 }}>
                    {label}
                  </th>
                  <td>{partWords(conflict.withMine, label, show)}</td>
                  <td>{partWords(conflict.merged, label, show)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => void store.resolve("theirs")}>Take the other tab's</Button>
        <Button onClick={() => void store.resolve("mine")}>Keep mine</Button>
        <Button variant="contained" onClick={() => void store.resolve("both")}>
          Keep both, mine as a new cutter
        </Button>
      </DialogActions>
    </Dialog>
  );
}
