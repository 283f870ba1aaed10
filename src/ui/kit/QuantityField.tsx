"use client";
import TextField from "@mui/material/TextField";
import { useId } from "react";
import { trim } from "@/core/units/trim";
import { formatQuantity, type Quantity } from "@/core/units/units";
import { useTypedQuantity } from "./useTypedQuantity";
import { useUnits } from "./useUnits";

interface Props {
  quantity: Quantity;
  label: string;
  /** canonical */
  value: number;
  range: { min: number; max: number };
  onChange: (canonical: number, gauge?: { awg?: number; swg?: number }) => void;
  decimals?: number;
  autoFocus?: boolean;
  hint?: string;
}

/** A figure typed with or without its unit. A good value takes effect as it is typed; a bad one is named next to the field and nothing is lost. */
export function QuantityField({ quantity, label, value, range, onChange, decimals, autoFocus, hint }: Props) {
  const { system } = useUnits();
  const shown = trim(formatQuantity(quantity, value, system, decimals));
  const { text, error, take, leave } = useTypedQuantity({ quantity, shown, range, onValue: ({ value: typed, gauge }) => onChange(typed, gauge) });
  const id = useId();
  return (
    <TextField
      id={id}
      label={label}
      value={text}
      size="small"
      fullWidth
      autoFocus={autoFocus}
      autoComplete="off"
      error={error !== null}
      helperText={error ?? hint ?? " "}
      onChange={(event) => take(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={leave}
      slotProps={{ htmlInput: { className: "num", inputMode: "text" } }}
    />
  );
}
