"use client";
import TextField from "@mui/material/TextField";
import { useEffect, useId, useRef, useState } from "react";
import { parseQuantity } from "@/core/units/parseQuantity";
import { formatQuantity, type Quantity } from "@/core/units/units";
import { useUnits } from "../hooks/useUnits";
import { trim } from "./words";

/** A figure that may be left open: empty stands for not known. */
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
    if (next.trim() === "") {
      setError(null);
      onChange(undefined);
      return;
    }
    const parsed = parseQuantity(quantity, next, system, range);
    if (parsed.ok) {
      setError(null);
      onChange(parsed.value);
    } else setError(parsed.message);
  };
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
      onBlur={() => {
        typing.current = false;
        if (!error) setText(shown);
      }}
      slotProps={{ htmlInput: { className: "num" } }}
    />
  );
}
