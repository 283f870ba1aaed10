"use client";
import TextField from "@mui/material/TextField";
import { useId } from "react";
import { trim } from "@/core/units/trim";
import { formatQuantity, type Quantity } from "@/core/units/units";
import { useTypedQuantity } from "./useTypedQuantity";
import { useUnits } from "./useUnits";

/** A figure that may be left open: empty represents not known. */
export function OptionalQuantity({
  quantity,
  label,
  value,
  range,
  hint,
  onChange,
}: {
  quantity: Quantity;
  label: string;
  value: number | undefined;
  range: { min: number; max: number };
  hint: string;
  onChange: (canonical: number | undefined) => void;
}) {
  const { system } = useUnits();
  const shown = value === undefined ? "" : trim(formatQuantity(quantity, value, system));
  const { text, error, take, leave } = useTypedQuantity({
    quantity,
    shown,
    range,
    onValue: ({ value: typed }) => onChange(typed),
    onEmpty: () => onChange(undefined),
  });
  const id = useId();
  return (
    <TextField
      id={id}
      label={label}
      value={text}
      size="small"
      fullWidth
      autoComplete="off"
      error={error !== null}
      helperText={error ?? hint}
      onChange={(event) => take(event.target.value)}
      onBlur={leave}
      slotProps={{ htmlInput: { className: "num" } }}
    />
  );
}
