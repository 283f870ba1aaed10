"use client";
import Button from "@mui/material/Button";
import type { SaveState } from "./documentStore";
import { useMember } from "./useMember";

const clock = (iso: string) => new Date(iso).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" });

/** Says whether the design is safe on disk. */
export function SavedMark({ save, onRetry }: { save: SaveState; onRetry: () => void }) {
  const { role } = useMember();
  if (role === "look" && save.kind !== "unkept")
    return (
      <span role="status" data-save="looking" style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
        looking: nothing is kept
      </span>
    );
  const words = {
    saved: () => (save.kind === "saved" && save.at ? `saved ${clock(save.at)}` : "saved"),
    changed: () => "saving…",
    saving: () => "saving…",
    failed: () => (save.kind === "failed" ? `not saved: ${save.message}` : ""),
    unkept: () => "demo: nothing is kept",
  }[save.kind]();
  return (
    <span
      role="status"
      data-save={save.kind}
      suppressHydrationWarning
      style={{ fontSize: 14, color: save.kind === "failed" ? "var(--ember)" : "var(--graphite-soft)" }}
    >
      {words}
      {save.kind === "failed" && (
        <Button size="small" onClick={onRetry}>
          Try again
        </Button>
      )}
    </span>
  );
}
