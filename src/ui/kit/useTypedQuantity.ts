import { useEffect, useRef, useState } from "react";
import { type ParsedQuantity, parseQuantity } from "@/core/units/parseQuantity";
import type { Quantity } from "@/core/units/units";
import { useUnits } from "./useUnits";

/**
 * A figure as it is being typed: what is in the field, what is wrong with it, and what to do on each key and on leaving.
 * @param shown how the present value reads when nobody types
 * @param onEmpty called for an emptied field where that is a good answer; without it an empty field is an error like any other
 */
export function useTypedQuantity({
  quantity,
  shown,
  range,
  onValue,
  onEmpty,
}: {
  quantity: Quantity;
  shown: string;
  range: { min: number; max: number };
  onValue: (parsed: Extract<ParsedQuantity, { ok: true }>) => void;
  onEmpty?: () => void;
}) {
  const { system } = useUnits();
  const [text, setText] = useState(shown);
  const [error, setError] = useState<string | null>(null);
  const typing = useRef(false);
  useEffect(() => {
    if (typing.current) return;
    setText(shown);
    setError(null);
  }, [shown]);
  const take = (next: string) => {
    typing.current = true;
    setText(next);
    if (onEmpty && next.trim() === "") {
      setError(null);
      onEmpty();
      return;
    }
    const parsed = parseQuantity(quantity, next, system, range);
    setError(parsed.ok ? null : parsed.message);
    if (parsed.ok) onValue(parsed);
  };
  const leave = () => {
    typing.current = false;
    if (!error) setText(shown);
  };
  return { text, error, take, leave };
}
