"use client";
import { usePresence } from "./changes";

/** Who else has this document open, at its head. */
export function Presence({ at }: { at: string | null }) {
  const others = usePresence(at);
  if (others.length === 0) return null;
  const named = [...new Set(others.flatMap(({ by }) => by ?? []))];
  const unnamed = others.filter(({ by }) => by === null).length;
  const words = [...named, ...(unnamed === 0 ? [] : [unnamed === 1 ? "another page" : `${unnamed} other pages`])];
  return (
    <span role="status" className="row-by" data-testid="presence" style={{ fontSize: 14 }}>
      {words.join(" and ")} {named.length + unnamed > 1 ? "have" : "has"} this open too
    </span>
  );
}
