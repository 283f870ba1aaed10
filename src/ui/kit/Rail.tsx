"use client";
import ButtonBase from "@mui/material/ButtonBase";
import { useColorScheme } from "@mui/material/styles";
import Link from "next/link";
import { type MouseEvent, type ReactNode, useEffect, useState } from "react";
import type { DocumentId } from "@/core/kernel/documentIds";
import { ROLE_WORDS } from "@/core/workshop/roles";
import { api } from "./api";
import { later } from "./later";
import { useMember } from "./useMember";
import { useUnits } from "./useUnits";

const LogWaits = later<object>(
  () => import("./LogWaits").then((module) => module.LogWaits),
  () => true,
);

const PassphraseDialog = later<{ name: string; open: boolean; onClose: () => void }>(
  () => import("./PassphraseDialog").then((module) => module.PassphraseDialog),
  ({ open }) => open,
);

const itemClass = "rail-item";

const UNIT_WORDS = { metric: "mm·N", inch: "in·lbf" } as const;

export function RailButton({
  onClick,
  children,
  label,
  mark,
  current,
}: {
  onClick: () => void;
  children: ReactNode;
  label?: string;
  mark?: string | undefined;
  current?: boolean;
}) {
  return (
    <ButtonBase onClick={onClick} aria-label={label} className={itemClass} aria-current={current ? "page" : undefined}>
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
    <div className="rail-switches">
      <ButtonBase
        aria-label={`${UNIT_WORDS[system]}: units, switch to ${system === "metric" ? "inches and pounds" : "millimetres and newtons"}`}
        onClick={() => setSystem(system === "metric" ? "inch" : "metric")}
      >
        <span className="num">{UNIT_WORDS[system]}</span>
      </ButtonBase>
      <ButtonBase onClick={() => setMode(dark ? "light" : "dark")}>{dark ? "Light" : "Dark"}</ButtonBase>
      <ButtonBase onClick={onShortcuts} aria-label="Shortcuts: ?">
        ?
      </ButtonBase>
    </div>
  );
}

/** The places that are not about one open cutter, in the order of the work. */
const PLACES = [
  { id: "drawer", words: "Drawer", href: "/drawer", needs: "look" },
  { id: "cutters", words: "Cutters", href: "/cutters", needs: "look" },
  { id: "plans", words: "Plans", href: "/plans", needs: "look" },
  { id: "rigs", words: "Rigs", href: "/rigs", needs: "look" },
  { id: "matches", words: "Matches", href: "/matches", needs: "look" },
  { id: "compare", words: "Compare", href: "/compare", needs: "look" },
  { id: "backups", words: "Backups", href: "/backups", needs: "keep" },
  { id: "members", words: "Members", href: "/members", needs: "keep" },
] as const;

/** The work order as words, down the left. */
export function Rail({ children, current }: { children?: ReactNode; current: (typeof PLACES)[number]["id"] | DocumentId | "desk" }) {
  // On a small screen the places fold away, so that the work itself is on the first screen.
  const [open, setOpen] = useState(false);
  const { name, role, may } = useMember();
  const [passphrase, setPassphrase] = useState(false);
  const fold = (event: MouseEvent) => (event.target as Element).closest(".rail-item") && setOpen(false);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: a key on them arrives as a click
    <nav className="rail" aria-label="Work order" data-open={open} onClick={fold}>
      <Link href="/cutters" className="wordmark" aria-label="Upwind Rod, all cutters">
        Upwind Rod
      </Link>
      <ButtonBase className="rail-fold" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Close" : "Places"}
      </ButtonBase>
      {PLACES.filter(({ needs }) => may(needs)).map((place) => (
        <Link key={place.id} href={place.href} aria-current={current === place.id ? "page" : undefined} className={itemClass}>
          {place.words}
        </Link>
      ))}
      {children}
      <LogWaits />
      {name !== null && (
        <p className="rail-member">
          <span title={`${name}: ${ROLE_WORDS[role]}`}>{name}</span>
          <ButtonBase onClick={() => setPassphrase(true)}>Passphrase</ButtonBase>
          <ButtonBase onClick={() => void api.access.signOut().finally(() => window.location.assign("/sign-in"))}>Sign out</ButtonBase>
        </p>
      )}
      {name !== null && <PassphraseDialog name={name} open={passphrase} onClose={() => setPassphrase(false)} />}
    </nav>
  );
}
