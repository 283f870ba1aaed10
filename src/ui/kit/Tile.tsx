"use client";
import ButtonBase from "@mui/material/ButtonBase";
import type { ReactNode } from "react";

/** A choice in a chooser: pressed or not, said in shape and to a screen reader as well as in colour. Its words are its name. */
export function Tile({ chosen, onClick, children, width }: { chosen: boolean; onClick: () => void; children: ReactNode; width?: number }) {
  return (
    <ButtonBase
      aria-pressed={chosen}
      onClick={onClick}
      sx={{
        display: "block",
        textAlign: "left",
        p: 1,
        width,
        minHeight: 44,
        font: "inherit",
        borderRadius: "3px",
        border: chosen ? "2px solid var(--graphite)" : "1px solid var(--line)",
        m: chosen ? 0 : "1px",
        background: chosen ? "var(--paper)" : "transparent",
        "&:hover": { background: "var(--paper)" },
      }}
    >
      {children}
    </ButtonBase>
  );
}

/** @param onScreenOnly left out on paper */
export function TileRow({ children, onScreenOnly = false }: { children: ReactNode; onScreenOnly?: boolean }) {
  return <div className={`tile-row${onScreenOnly ? " not-printed" : ""}`}>{children}</div>;
}
