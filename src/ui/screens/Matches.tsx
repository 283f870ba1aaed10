"use client";
import "../theme/screens.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { memo, useCallback, useDeferredValue, useMemo, useState } from "react";
import { adoptSetup } from "@/core/design/adopt";
import type { DesignVerdict } from "@/core/design/evaluate";
import type { Design } from "@/core/design/schema";
import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES } from "@/core/design/search";
import type { Candidate, Refusal } from "@/core/design/setups";
import type { Item } from "@/core/drawer/items";
import { type Holdings, holdingsOf, jobOf, type MatchCell } from "@/core/drawer/matches";
import type { CutterRow, DrawerRow } from "../api";
import { Tile } from "../choosers/Tile";
import { leaveForDesk } from "../hooks/handover";
import { useEngine } from "../hooks/useEngine";
import { useUnits } from "../hooks/useUnits";
import { Rail, RailSwitches } from "../parts/Rail";
import { ShortcutsDialog } from "../parts/Shortcuts";
import { VerdictMark } from "../parts/VerdictMark";
import { controlSentence, supplySentence, wireWords } from "../parts/words";

/** The drawing of a cut that a refusal would leave behind. */
const MARK: Readonly<Record<Refusal["code"], DesignVerdict>> = {
  mismatch: "too-cold",
  "short-wire": "short-wire",
  bows: "drags",
  "too-cold": "too-cold",
  "too-hot": "smokes",
  wide: "wide",
  smokes: "smokes",
  "no-fuse": "overload",
  overload: "overload",
  touch: "overload",
  glows: "smokes",
};
const WORDS: Readonly<Record<Refusal["code"], string>> = {
  mismatch: "does not fit",
  "short-wire": "too little left",
  bows: "bows too far",
  "too-cold": "too cold",
  "too-hot": "too hot",
  wide: "cuts wide",
  smokes: "smokes",
  "no-fuse": "leads too thin",
  overload: "overloads it",
  touch: "shock hazard",
  glows: "glows",
};

/** The setting that gets the best cut, as short as a cell allows. */
function settingWords({ control, supply, setting }: Pick<Candidate, "control" | "supply" | "setting">): string {
  switch (control.kind) {
    case "pwm":
      return `PWM ${Math.round(control.duty * 100)} %`;
    case "phase":
      return `dimmer ${Math.round(control.delay_deg)}°`;
    case "buck":
      return `buck ${control.voltage_V.toFixed(1)} V`;
    case "rheostat":
      return `${control.ohm.toFixed(1)} ohm`;
    case "tap":
      return `tap ${Math.round(control.fraction * 100)} %`;
    case "clip":
      return "clip";
    case "direct":
      return supply.kind === "bench" && setting !== null ? `${setting.toFixed(1)} V` : "as it is";
  }
}

interface Opened {
  anchor: HTMLElement;
  w: number;
  s: number;
}

const Cell = memo(function Cell({
  cell,
  label,
  w,
  s,
  onOpen,
}: {
  cell: MatchCell | undefined;
  label: string;
  w: number;
  s: number;
  onOpen: (opened: Opened) => void;
}) {
  if (!cell) return <td aria-label={`${label}: being worked out`} />;
  const { candidate, refusal } = cell;
  return (
    <td data-clean={candidate !== null}>
      <button type="button" className="match-cell" onClick={(event) => onOpen({ anchor: event.currentTarget, w, s })}>
        <span className="visually-hidden">{label}: </span>
        <span className="match-head">
          <VerdictMark verdict={candidate ? "clean" : refusal ? MARK[refusal.code] : "too-cold"} />
          {candidate && (
            <span className="num">
              {candidate.score.toFixed(0)}
              <span className="visually-hidden"> points</span>
            </span>
          )}
        </span>
        <span className="match-words">{candidate ? settingWords(candidate) : refusal ? WORDS[refusal.code] : "does not fit"}</span>
      </button>
    </td>
  );
});

/** What is on offer: the drawer's own parts marked as only to be had, and the whole catalogue. */
function offersOf(rows: readonly DrawerRow[]): Holdings {
  const wanted = holdingsOf(
    rows.filter((row) => !row.item.owned).map((row) => ({ id: row.id, item: { ...row.item, owned: false } as Item })),
    true,
  );
  return {
    wires: [...wanted.wires, ...CATALOGUE_WIRES.map((spec, i) => ({ id: `wire-${i}`, name: "", spec, lengthM: 0, pricePerM: null }))],
    supplies: [...wanted.supplies, ...CATALOGUE_SUPPLIES.map((supply, i) => ({ id: `supply-${i}`, name: "", supply, price: null }))],
    controls: [
      ...wanted.controls,
      ...CATALOGUE_CONTROLS.filter((kind) => !wanted.controls.some((control) => control.kind === kind)).map((kind) => ({ kind, price: null })),
    ],
  };
}

/** What can I cut with what I have; and what is the one thing to buy. */
export function Matches({ cutters, drawer, first }: { cutters: CutterRow[]; drawer: DrawerRow[]; first: string | undefined }) {
  const { show, system } = useUnits();
  const router = useRouter();
  const [chosen, setChosen] = useState(cutters.find((row) => row.id === first)?.id ?? cutters[0]?.id ?? "");
  const [buyable, setBuyable] = useState(false);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [asking, setAsking] = useState(false);
  const [shortcuts, setShortcuts] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const cutter = cutters.find((row) => row.id === chosen);
  const holdings = useMemo(() => holdingsOf(drawer, buyable), [drawer, buyable]);
  const ready = cutter !== undefined && holdings.wires.length > 0 && holdings.supplies.length > 0;
  const matches = useEngine("matches", ready ? { job: jobOf(cutter.design, system), holdings } : null, true);
  const purchases = useEngine(
    "oneThing",
    asking ? { jobs: cutters.map((row) => ({ name: row.design.name, job: jobOf(row.design) })), holdings: holdingsOf(drawer), offers: offersOf(drawer) } : null,
  );
  // Filled in slices: hundreds of cells must not hold up a hand on the page.
  const cells = useDeferredValue(matches.result?.cells);
  const onOpen = useCallback((next: Opened) => setOpened(next), []);
  const cell = opened ? cells?.[opened.w]?.[opened.s] : undefined;
  const clean = cells?.flat().filter((each) => each.candidate).length ?? 0;
  const put = (design: Design, id: string, candidate: Candidate, words: string) => {
    if (leaveForDesk(id, { design: adoptSetup(design, candidate), words })) router.push(`/cutters/${id}`);
    else setFault("This browser keeps nothing between pages, so the set-up cannot be handed to the desk. Open the desk and use Set-ups there.");
  };

  return (
    <div className="shed">
      <Rail current="matches">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main style={{ maxWidth: "none" }}>
        <div style={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ margin: 0, fontSize: 30 }}>Matches</h1>
          {cutters.length > 0 && (
            <TextField select size="small" label="Job of" value={chosen} onChange={(event) => setChosen(event.target.value)} sx={{ minWidth: 200 }}>
              {cutters.map((row) => (
                <MenuItem key={row.id} value={row.id}>
                  {row.design.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Tile chosen={buyable} onClick={() => setBuyable(!buyable)}>
            with what I could buy
          </Tile>
        </div>
        {cutter && (
          <p style={{ margin: "8px 0 12px" }}>
            {jobOf(cutter.design).foam.name}, {show("length", cutter.design.job.width_mm)} wide at {show("feed", cutter.design.job.feed_mm_s)},{" "}
            {show("length", cutter.design.wire.length_mm)} between posts.{" "}
            {cells && (
              <span role="status">
                {clean === 0 ? "Nothing in the drawer cuts it cleanly." : `${clean} of ${cells.flat().length} pairs of wire and supply cut it cleanly.`}
              </span>
            )}
          </p>
        )}
        {fault && <Alert severity="error">{fault}</Alert>}
        {matches.fault && <Alert severity="error">The matches could not be worked out: {matches.fault}</Alert>}
        {cutters.length === 0 && (
          <p>
            There is no job yet: <Link href="/cutters">make a cutter</Link> first.
          </p>
        )}
        {cutters.length > 0 && !ready && (
          <p>
            The drawer needs at least one wire and one supply: <Link href="/drawer">put in what you have</Link>.
          </p>
        )}
        {ready && (
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
          <section className="match-frame" tabIndex={0} aria-label="Wires against supplies, a table that scrolls">
            <table className="match-table">
              <thead>
                <tr>
                  <th scope="col">
                    <span className="visually-hidden">Wire</span>
                  </th>
                  {holdings.supplies.map((supply) => (
                    <th key={supply.id} scope="col">
                      {supply.name}
                      <div className="match-sub">{supplySentence({ supply: supply.supply } as Pick<Design, "supply">, show)}</div>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {holdings.wires.map((wire, w) => (
                  <tr key={wire.id}>
                    <th scope="row">
                      {wire.name}
                      <div className="match-sub">{wireWords({ wire: wire.spec }, show)}</div>
                    </th>
                    {holdings.supplies.map((supply, s) => (
                      <Cell key={supply.id} w={w} s={s} cell={cells?.[w]?.[s]} label={`${wire.name} on ${supply.name}`} onOpen={onOpen} />
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
        {cutters.length > 0 && (
          <section style={{ marginTop: 22 }}>
            <h2 style={{ fontSize: 21, margin: "0 0 6px" }}>The one thing to buy</h2>
            {!asking && (
              <Button variant="outlined" onClick={() => setAsking(true)}>
                Try every part on all my jobs
              </Button>
            )}
            {purchases.fault && <Alert severity="error">{purchases.fault}</Alert>}
            {asking && !purchases.result && !purchases.fault && <p role="status">Trying…</p>}
            {purchases.result?.length === 0 && <p role="status">No single part betters any job: what you have is as good as one purchase can make it.</p>}
            <ol style={{ margin: "6px 0", paddingLeft: 24 }}>
              {purchases.result?.map((purchase) => (
                <li key={JSON.stringify([purchase.wire, purchase.supply, purchase.control])} style={{ padding: "4px 0" }}>
                  <strong>
                    {purchase.name && purchase.kind !== "control" ? `${purchase.name}: ` : ""}
                    {purchase.wire
                      ? `${wireWords({ wire: purchase.wire }, show)}${purchase.wire.gauge_awg === undefined ? "" : ` (${purchase.wire.gauge_awg} AWG)`}`
                      : purchase.supply
                        ? supplySentence({ supply: purchase.supply } as Pick<Design, "supply">, show)
                        : `a ${purchase.name === "pwm" ? "PWM module" : purchase.name === "buck" ? "buck converter" : purchase.name === "phase" ? "dimmer" : purchase.name}`}
                  </strong>
                  {purchase.price === null ? "" : `, ${purchase.price}`}
                  {purchase.opens.length > 0 ? ` opens ${purchase.opens.join(", ")}` : " opens no new job"};{" "}
                  <span className="num">{purchase.gain.toFixed(0)}</span> points better in all.
                </li>
              ))}
            </ol>
          </section>
        )}
      </main>
      <Popover
        open={opened !== null}
        anchorEl={opened?.anchor}
        onClose={() => setOpened(null)}
        slotProps={{ paper: { sx: { p: 2, maxWidth: 420 }, role: "dialog", "aria-label": "This match" } }}
      >
        {opened && cell && cutter && (
          <>
            <strong>
              {holdings.wires[opened.w]?.name} on {holdings.supplies[opened.s]?.name}
            </strong>
            {cell.candidate ? (
              <>
                <p>
                  Clean, {cell.candidate.score.toFixed(0)} points,{" "}
                  {cell.candidate.control.kind === "direct"
                    ? settingWords(cell.candidate)
                    : `through ${controlSentence({ control: cell.candidate.control }, show)}`}
                  : {cell.candidate.reasons.join("; ")}. Fuse {cell.candidate.fuseA} A.
                </p>
                <Button
                  variant="contained"
                  onClick={() => {
                    const { candidate } = cell;
                    if (candidate)
                      put(cutter.design, cutter.id, candidate, `${holdings.wires[opened.w]?.name} on ${holdings.supplies[opened.s]?.name} put on the desk.`);
                  }}
                >
                  Put on the desk
                </Button>
              </>
            ) : (
              <p>Not clean: {cell.refusal?.reason ?? "none of the controls at hand fits this supply"}.</p>
            )}
          </>
        )}
      </Popover>
      <ShortcutsDialog
        open={shortcuts}
        onClose={() => setShortcuts(false)}
        rows={[
          { keys: "Tab", does: "from cell to cell" },
          { keys: "Enter", does: "open a cell" },
          { keys: "Esc", does: "close it" },
        ]}
      />
    </div>
  );
}
