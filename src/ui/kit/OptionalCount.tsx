"use client";
import TextField from "@mui/material/TextField";
import { useState } from "react";

/** A plain number that may be left open. */
export function OptionalCount({
  label,
  value,
  min,
  max,
  hint = " ",
  onChange,
}: {
  label: string;
  value: number | undefined;
  min: number;
  max: number;
  hint?: string;
  onChange: (value: number | undefined) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const typed = text ?? (value === undefined ? "" : String(value));
  const number = Number(typed.replace(",", "."));
  const bad = typed.trim() !== "" && !(number >= min && number <= max);
  return (
    <TextField
      label={label}
      size="small"
      fullWidth
      value={typed}
      error={bad}
      helperText={bad ? `${label.toLowerCase()} must be a number from ${min} to ${max}` : hint}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value.replace(",", "."));
        if (event.target.value.trim() === "") onChange(undefined);
        else if (next >= min && next <= max) onChange(next);
      }}
      onBlur={() => !bad && setText(null)}
      slotProps={{ htmlInput: { className: "num", inputMode: "decimal" } }}
    />
  );
}
