"use client";
import TextField from "@mui/material/TextField";
import { useState } from "react";

/** A plain number without units people would mix up. */
export function CountField({
  label,
  value,
  min,
  max,
  unit,
  whole,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  unit: string;
  whole?: boolean;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const number = text === null ? value : Number(text.replace(",", "."));
  const bad = text !== null && (text.trim() === "" || !(number >= min && number <= max) || (whole === true && !Number.isInteger(number)));
  return (
    <TextField
      label={label}
      size="small"
      fullWidth
      value={text ?? String(value)}
      error={bad}
      helperText={bad ? `${label.toLowerCase()} must be a ${whole ? "whole " : ""}number from ${min} to ${max}` : unit}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value.replace(",", "."));
        if (event.target.value.trim() !== "" && next >= min && next <= max && (!whole || Number.isInteger(next))) onChange(next);
      }}
      onBlur={() => setText(null)}
      slotProps={{ htmlInput: { className: "num", inputMode: "decimal" } }}
    />
  );
}
