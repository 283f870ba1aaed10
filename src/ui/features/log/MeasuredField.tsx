"use client";
import TextField from "@mui/material/TextField";

/** A figure that may have been measured: empty where it was not. Its fault is next to it. */
export function MeasuredField({
  label,
  value,
  fault,
  hint,
  onChange,
}: {
  label: string;
  value: string;
  fault: string | undefined;
  hint?: string;
  onChange: (text: string) => void;
}) {
  return (
    <TextField
      size="small"
      label={label}
      value={value}
      error={fault !== undefined}
      helperText={fault ?? hint ?? " "}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ htmlInput: { className: "num", autoComplete: "off" } }}
    />
  );
}
