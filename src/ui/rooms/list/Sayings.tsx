"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";

export type Said = { kind: "none" } | { kind: "error"; message: string } | { kind: "deleted"; id: string; name: string };

export interface SayingProps {
  said: Said;
  unreadable: readonly { id: string; name: string; why: string }[];
  onClose: () => void;
  onUndo: (id: string) => void;
}

/** What cannot be read, what was refused, and what was just put away and can be had back. */
export function Sayings({ said, unreadable, onClose, onUndo }: SayingProps) {
  return (
    <>
      {unreadable.map((row) => (
        <Alert key={row.id} severity="warning" sx={{ mt: 2 }}>
          <strong>{row.name}</strong> is kept but cannot be read here: {row.why}
        </Alert>
      ))}
      {said.kind === "error" && (
        <Alert severity="error" onClose={onClose} sx={{ mt: 2 }}>
          {said.message}
        </Alert>
      )}
      <Snackbar
        open={said.kind === "deleted"}
        autoHideDuration={15000}
        onClose={(_, reason) => reason !== "clickaway" && onClose()}
        message={said.kind === "deleted" ? `Put away ${said.name}` : ""}
        action={
          <Button color="inherit" onClick={() => said.kind === "deleted" && onUndo(said.id)}>
            Undo
          </Button>
        }
      />
    </>
  );
}
