"use client";
import ButtonBase from "@mui/material/ButtonBase";
import { useColorScheme } from "@mui/material/styles";
import Link from "next/link";
import { type ReactNode, useEffect, useState } from "react";
import { useUnits } from "../hooks/useUnits";

const itemClass = "rail-item";

const UNIT_WORDS = { metric: "mm · N", inch: "in · lbf" } as const;

export function RailButton({ onClick, children, label, mark }: { onClick: () => void; children: ReactNode; label?: string; mark?: string }) {
  return (
    <ButtonBase onClick={onClick} aria-label={label} className={itemClass}>
      {children}
      {mark && <span style={{ marginLeft: 6, color: "var(--ember)", fontWeight: 700 }}>{mark}</span>}
    </ButtonBase>
  );
}

/** Units and light, remembered. */
export function RailSwitches({ onShortcuts }: { onShortcuts: () => void }) {
  const { system, setSystem } = useUnits();
  const { mode, systemMode, setMode } = useColorScheme();
  const [mounted, setMounted] = useState(false);
  useEffect(() => setMounted(true), []);
  const dark = mounted && (mode === "dark" || (mode === "system" && systemMode === "dark"));
  return (
    <>
      <RailButton
        label={`${UNIT_WORDS[system]}: units, switch to ${system === "metric" ? "inches and pounds" : "millimetres and newtons"}`}
        onClick={() => setSystem(system === "metric" ? "inch" : "metric")}
      >
        <span className="num" style={{ fontSize: 14 }}>
          {UNIT_WORDS[system]}
        </span>
      </RailButton>
      <RailButton onClick={() => setMode(dark ? "light" : "dark")}>{dark ? "Light" : "Dark"}</RailButton>
      <RailButton onClick={onShortcuts}>Shortcuts</RailButton>
    </>
  );
}

/** The places that are not about one open cutter, in the order of the work. */
const PLACES = [
  { id: "drawer", words: "Drawer", href: "/drawer" },
  { id: "cutters", words: "Cutters", href: "/cutters" },
  { id: "matches", words: "Matches", href: "/matches" },
  { id: "compare", words: "Compare", href: "/compare" },
] as const;

/** The work order as words, down the left. */
export function Rail({ children, current }: { children?: ReactNode; current: (typeof PLACES)[number]["id"] | "desk" }) {
  return (
    <nav className="rail" aria-label="Work order">
      <Link href="/cutters" className="wordmark" aria-label="Upwind Rod, all cutters">
        Upwind Rod
      </Link>
      {PLACES.map((place) => (
        <Link key={place.id} href={place.href} aria-current={current === place.id ? "page" : undefined} className={itemClass}>
          {place.words}
        </Link>
      ))}
      {children}
    </nav>
  );
}
