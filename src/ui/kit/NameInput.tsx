"use client";
import { useState } from "react";

/** A document's name, changed in place. */
export function NameInput({ label, name: saved, onName }: { label: string; name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(saved);
  const [editing, setEditing] = useState(false);
  const shown = editing ? text : saved;
  const blank = editing && text.trim() === "";
  return (
    <div style={{ flex: 1, minWidth: 180 }}>
      <input
        aria-label={label}
        aria-invalid={blank}
        value={shown}
        maxLength={80}
        onFocus={() => {
          setText(saved);
          setEditing(true);
        }}
        onBlur={() => setEditing(false)}
        onChange={(event) => {
          setText(event.target.value);
          const name = event.target.value.trim();
          if (name) onName(name);
        }}
        style={{
          font: "inherit",
          fontSize: 24,
          fontWeight: 700,
          color: "inherit",
          background: "none",
          border: 0,
          borderBottom: "1px solid var(--line)",
          width: "100%",
          padding: "2px 0",
          textOverflow: "ellipsis",
        }}
      />
      {blank && <div role="alert">a name has 1 to 80 characters; the old one stays until you type one</div>}
    </div>
  );
}
