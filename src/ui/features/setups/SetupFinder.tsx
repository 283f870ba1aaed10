"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useCallback, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { adoptSetup } from "@/core/cutters/search/adopt";
import { jobOf } from "@/core/cutters/search/job";
import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES } from "@/core/cutters/search/search";
import type { Candidate } from "@/core/cutters/search/setups";
import { holdingsOf } from "@/core/drawer/holdings";
import { alloyById } from "@/core/materials/alloys";
import { resolveFoam } from "@/core/materials/foams";
import { resolveWire } from "@/core/physics/heat/wire";
import { atPlate, ownKnob } from "@/core/physics/power/supplies";
import type { UnitSystem } from "@/core/units/units";
import type { SearchInput } from "@/workers/engine/protocol";
import { controlSentence, gaugeWords, supplySentence, wireWords } from "../../cutter/words";
import { api, type DrawerRow } from "../../kit/api";
import { Tile, TileRow } from "../../kit/Tile";
import { useEngine } from "../../kit/useEngine";
import { useOnArrival } from "../../kit/useOnArrival";
import { useUnits } from "../../kit/useUnits";

/** What the maker holds fast while searching. */
interface Held {
  alloy: string | null;
  /** only what is in the drawer */
  drawer: boolean;
  wire: boolean;
  supply: boolean;
  control: boolean;
}

const FREE: Held = { alloy: null, drawer: false, wire: false, supply: false, control: false };
const SHOWN = 24;

function inputOf(design: Design, held: Held, drawer: readonly DrawerRow[], units: UnitSystem): SearchInput {
  const { wire, supply } = design;
  const own = holdingsOf(drawer);
  const { length_mm, ...spec } = wire;
  return {
    job: jobOf(design, units),
    wires: held.wire ? [spec] : held.drawer ? own.wires.map((each) => each.spec) : CATALOGUE_WIRES,
    // A bench supply on the desk is at its knobs; the search may turn them up to its plate.
    supplies: held.supply ? [atPlate(supply)] : held.drawer ? own.supplies.map((each) => each.supply) : CATALOGUE_SUPPLIES,
    controls: held.control ? [design.control.kind] : held.drawer ? own.controls.map((each) => each.kind) : CATALOGUE_CONTROLS,
  };
}

const MARGIN_WORDS: Record<keyof Candidate["margins"], string> = {
  supply: "supply",
  fuse: "fuse",
  drag: "drag",
  kerf: "kerf",
  fumes: "fumes",
  ignition: "ignition",
  lag: "bow",
  tension: "pull",
  knob: "fineness of the knob",
};

const MARGIN_NAMES = Object.keys(MARGIN_WORDS) as (keyof Candidate["margins"])[];

/** The margins as short bars: the shortest is what would go wrong first. */
function Margins({ margins }: { margins: Candidate["margins"] }) {
  const rows = MARGIN_NAMES.map((name) => [name, margins[name]] as const);
  const words = rows.map(([name, margin]) => `${MARGIN_WORDS[name]} ${Math.round(margin * 100)} %`).join(", ");
  const least = Math.min(...rows.map(([, margin]) => margin));
  return (
    <svg width={118} height={40} role="img" aria-label={`In hand: ${words}`}>
      <title>{words}</title>
      <path d="M0 33.500H118" stroke="var(--line)" />
      {rows.map(([name, margin], i) => (
        <g key={name}>
          <rect
            x={3 + i * 13}
            y={33 - 30 * margin}
            width={8}
            height={Math.max(1, 30 * margin)}
            fill={margin === least ? "var(--graphite)" : "var(--paper)"}
            stroke="var(--graphite)"
            strokeWidth={1}
          />
        </g>
      ))}
    </svg>
  );
}

export interface FinderProps {
  open: boolean;
  onClose: () => void;
  design: Design;
  onTake: (next: Design) => void;
}

/** Ranked set-ups for the open job, from the whole catalogue or with parts of the desk held fast. */
export function SetupFinder({ open, onClose, design, onTake }: FinderProps) {
  const { show, system } = useUnits();
  const [held, setHeld] = useState<Held>(FREE);
  const [drawer, setDrawer] = useState<readonly DrawerRow[]>([]);
  const [drawerFault, setDrawerFault] = useState<string | null>(null);
  const say = useCallback((error: Error) => setDrawerFault(error.message), []);
  const look = useCallback(async (signal: AbortSignal) => setDrawer(open ? await api.drawer.list(signal) : []), [open]);
  useOnArrival(look, say);
  const run = useMemo(() => (open ? inputOf(design, held, drawer, system) : null), [open, design, held, drawer, system]);
  const { result, fault: searchFault } = useEngine("search", run);
  const fault = searchFault ?? drawerFault;
  const shown = useMemo(() => {
    const all = result?.candidates ?? [];
    const school = held.alloy ? result?.schools.find((each) => each.alloy === held.alloy) : undefined;
    const saved = held.alloy ? all.filter((candidate) => candidate.wire.alloy === held.alloy) : all;
    return (saved.length === 0 && school?.best ? [school.best] : saved).slice(0, SHOWN);
  }, [result, held.alloy]);
  const topReasons = useMemo(() => {
    const counts = new Map<string, number>();
    for (const { reason, count } of result?.rejected ?? []) {
      const short = reason.replace(/[:(;].*/, "").trim();
      counts.set(short, (counts.get(short) ?? 0) + count);
    }
    return [...counts].sort((a, b) => b[1] - a[1]).slice(0, 6);
  }, [result]);
  const hold = (key: "wire" | "supply" | "control", words: string) => (
    <Tile chosen={held[key]} onClick={() => setHeld({ ...held, [key]: !held[key], alloy: null })}>
      keep {words}
    </Tile>
  );

  return (
    <Dialog open={open} onClose={onClose} maxWidth="lg" fullWidth aria-labelledby="finder-title">
      <DialogTitle id="finder-title">
        Set-ups for {resolveFoam(design.job.foam).name}, {show("length", design.job.width_mm)} wide at {show("feed", design.job.feed_mm_s)}
      </DialogTitle>
      <DialogContent>
        <TileRow>
          <Tile chosen={held.drawer} onClick={() => setHeld({ ...held, drawer: !held.drawer, alloy: null })}>
            only what is in my drawer
          </Tile>
          {hold("wire", wireWords(design, show))}
          {hold("supply", supplySentence(design, show))}
          {hold("control", controlSentence(design, show))}
        </TileRow>
        {fault && <p role="alert">The search could not be done: {fault}</p>}
        {!result && !fault && <p role="status">Searching…</p>}
        {result && (
          <>
            {result.schools.length > 1 && (
              <>
                <h3 style={{ fontSize: 17, margin: "18px 0 6px" }}>Keeping to one school of wire</h3>
                <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(250px, 1fr))", gap: 6 }}>
                  {result.schools.map((school) => (
                    <Tile
                      key={school.alloy}
                      chosen={held.alloy === school.alloy}
                      onClick={() => setHeld({ ...held, alloy: held.alloy === school.alloy ? null : school.alloy })}
                    >
                      <strong>{alloyById(school.alloy)?.shortName ?? school.alloy}</strong>{" "}
                      <span style={{ fontSize: 14 }}>
                        {school.best ? (
                          <>
                            <span className="num">{school.best.score.toFixed(0)}</span> points: {school.words}
                          </>
                        ) : (
                          school.words
                        )}
                      </span>
                    </Tile>
                  ))}
                </div>
              </>
            )}
            <p style={{ margin: "16px 0 4px", fontSize: 15 }} role="status">
              {shown.length === 0
                ? "Nothing held this way can do the job."
                : `${result.works.toLocaleString("en")} set-ups work of ${result.tried.toLocaleString("en")} tried; the best wires are below, each with its best supply and control.`}
            </p>
            <ol className="setups">
              {shown.map((candidate, i) => (
                <li key={`${JSON.stringify(candidate.wire)}${JSON.stringify(candidate.supply)}${candidate.control.kind}`}>
                  <span className="num" style={{ fontSize: 22, fontWeight: 600 }}>
                    {candidate.score.toFixed(0)}
                  </span>
                  <div>
                    <div style={{ fontSize: 17 }}>
                      <strong>{wireWords(candidate, show)}</strong>{" "}
                      <span style={{ fontSize: 14 }}>({gaugeWords(resolveWire(candidate.wire).diameterM * 1000)})</span>, from{" "}
                      {supplySentence({ supply: candidate.supply } as Pick<Design, "supply">, show)}
                      {candidate.control.kind === "direct" ? "" : ` through ${controlSentence({ control: candidate.control }, show)}`}
                      {ownKnob(candidate.supply) && candidate.setting !== null && candidate.control.kind === "direct"
                        ? `, turned to ${show("voltage", candidate.setting)}`
                        : ""}
                    </div>
                    <div style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
                      kerf {show("kerf", candidate.cut.kerfM * 1000)}, {show("heat", candidate.cut.powerWPerM)}, {show("current", candidate.currentA)} and{" "}
                      {show("voltage", candidate.voltsV)} on the wire, fuse {candidate.fuseA} A; {candidate.reasons.slice(1).join("; ")}.
                    </div>
                  </div>
                  <Margins margins={candidate.margins} />
                  <Button variant={i === 0 ? "contained" : "outlined"} onClick={() => onTake(adoptSetup(design, candidate))}>
                    Put on the desk
                  </Button>
                </li>
              ))}
            </ol>
            {topReasons.length > 0 && (
              <>
                <h3 style={{ fontSize: 17, margin: "18px 0 6px" }}>Why the others fail</h3>
                <ul style={{ margin: 0, fontSize: 15 }}>
                  {topReasons.map(([reason, count]) => (
                    <li key={reason}>
                      <span className="num">{count}</span>: {reason}
                    </li>
                  ))}
                </ul>
              </>
            )}
            <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
              Points, of a hundred: the smallest margin counts most, the mean of all next; extra parts, heat thrown away, mains-side work and dear wire are
              taken off (this project's judgement). Bars, left to right: {Object.values(MARGIN_WORDS).join(", ")}; the darkest is the smallest.
            </p>
          </>
        )}
      </DialogContent>
    </Dialog>
  );
}
