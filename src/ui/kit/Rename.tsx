"use client";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";

export interface RenameProps {
  open: boolean;
  name: string;
  /** the new name, or null for the old one */
  onEnd: (next: string | null) => void;
}

/** A row's name as a field: Enter or going elsewhere keeps it, Escape does not. */
export function Rename({ name, onEnd }: RenameProps) {
  const [typed, setTyped] = useState(name);
  // Ended by a key it is left too: only the first counts.
  const over = useRef(false);
  const end = (keep: boolean) => {
    if (over.current) return;
    over.current = true;
    onEnd(keep && typed.trim() !== "" ? typed.trim() : null);
  };
  const empty = typed.trim() === "";
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        end(true);
      }}
    >
      <TextField
        label="New name"
        size="small"
        value={typed}
        autoFocus
        error={empty}
        helperText={empty ? "a name has 1 to 80 characters" : "Enter keeps it, Escape does not"}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && end(false)}
        onBlur={() => end(true)}
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
    </form>
  );
}
