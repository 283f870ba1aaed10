"use client";
import TextField from "@mui/material/TextField";
import { useEffect, useId, useRef, useState } from "react";
import { parseQuantity } from "@/core/units/parseQuantity";
import { formatQuantity, type Quantity } from "@/core/units/units";
import { useUnits } from "../hooks/useUnits";
import { trim } from "./words";

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

/** A figure typed with or without its unit. A good value takes effect as it is typed; a bad one is named beside the field and nothing is lost. */
export function QuantityField({ quantity, label, value, range, onChange, decimals, autoFocus, hint }: Props) {
  const { system } = useUnits();
  const shown = trim(formatQuantity(quantity, value, system, decimals));
  const [text, setText] = useState(shown);
  const [error, setError] = useState<string | null>(null);
  const typing = useRef(false);
  const id = useId();
  useEffect(() => {
    if (typing.current) return;
    setText(shown);
    setError(null);
  }, [shown]);

  const take = (next: string) => {
    typing.current = true;
    setText(next);
    const parsed = parseQuantity(quantity, next, system, range);
    if (parsed.ok) {
      setError(null);
      onChange(parsed.value, parsed.gauge);
    } else setError(parsed.message);
  };

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
      onBlur={() => {
        typing.current = false;
        if (!error) setText(shown);
      }}
      slotProps={{ htmlInput: { className: "num", inputMode: "text" } }}
    />
  );
}
