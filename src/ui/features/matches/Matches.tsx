"use client";
import type { StoredDocument } from "@/core/kernel/document";
import { ownKnob, supplyEmfV } from "@/core/physics/power/supplies";
import "../../kit/theme/screens.css";
import "../../kit/theme/matches.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { adoptSetup } from "@/core/cutters/search/adopt";
import { jobOf } from "@/core/cutters/search/job";
import type { SearchJob } from "@/core/cutters/search/readyWire";
import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES } from "@/core/cutters/search/search";
import type { DesignVerdict } from "@/core/cutters/solve/evaluate";
import { type Holdings, holdingsOf } from "@/core/drawer/holdings";
import type { Item } from "@/core/drawer/items";
import { type MatchMark, matchCell } from "@/core/drawer/matches";
import { nearestSetup } from "@/core/drawer/nearest";
import { MATCH_PAGE, type MatchPlace, matchPage, matchPages } from "@/core/drawer/pages";
import { resolveFoam } from "@/core/materials/foams";
import { choiceWords, controlSentence, supplySentence, wireWords } from "../../cutter/words";
import { useQueryParameter } from "../../kit/address";
import { api, type DrawerRow } from "../../kit/api";
import { leaveForDesk } from "../../kit/handover";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { slugOf } from "../../kit/slug";
import { Tile } from "../../kit/Tile";
import { useEngine } from "../../kit/useEngine";
import { type Units, useUnits } from "../../kit/useUnits";
import { MatchTable } from "./MatchTable";

/** What a refused pair does at its best. */
const AT_BEST: Readonly<Record<DesignVerdict, string>> = {
  clean: "cuts cleanly",
  wide: "cuts wide",
  drags: "drags",
  "too-cold": "stays too cold",
  "short-wire": "is too short",
  smokes: "smokes",
  overload: "asks too much of the supply",
};

/** What drives a wire, with its setting: "through PWM at 31 %", "set to 12.5 V", "with no control". */
function drivenWords(design: Design, show: Units["show"]): string {
  if (design.control.kind !== "direct") return `through ${controlSentence(design, show)}`;
  return ownKnob(design.supply) ? `set to ${show("voltage", supplyEmfV(design.supply))}` : "with no control";
}

/** A cell as the address names it: its wire and its supply. */
const cellName = (wire: { name: string }, supply: { name: string }) => `${slugOf(wire.name)}*${slugOf(supply.name)}`;

/** Which cell of a page an address names, as row and column; null where it names none. */
function cellPlace({ wires, supplies }: Holdings, name: string): { w: number; s: number } | null {
  const [wire, supply] = name.split("*");
  const w = wires.findIndex((each) => slugOf(each.name) === wire);
  const s = supplies.findIndex((each) => slugOf(each.name) === supply);
  return w < 0 || s < 0 ? null : { w, s };
}

/** A question with its answer: what is shown, opened and put on the desk is always of one piece. */
interface Evaluated {
  cutter: StoredDocument<Design>;
  job: SearchJob;
  holdings: Holdings;
  marks: MatchMark[][];
}

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

/** Page of the matrix by its word in the address, from nought. */
const pageOf = (word: string) => Math.max(0, Math.min(100_000, Number.parseInt(word || "1", 10) || 1) - 1);

/** Jobs that a purchase is tried on, and parts of a drawer it is tried beside. */
const MOST_JOBS = 40;
const MOST_TRIED = 100;

/** Turns the pages of one side of the matrix. */
function PageSteps({
  words,
  page,
  pages,
  count,
  size,
  onTurn,
}: {
  words: string;
  page: number;
  pages: number;
  count: number;
  size: number;
  onTurn: (page: number) => void;
}) {
  if (pages <= 1) return null;
  return (
    <span style={{ display: "inline-flex", gap: 6, alignItems: "center" }}>
      <Button size="small" disabled={page === 0} aria-label={`${words}: earlier`} onClick={() => onTurn(page - 1)}>
        earlier
      </Button>
      <span>
        {words}{" "}
        <span className="num">
          {page * size + 1} to {Math.min(count, (page + 1) * size)} of {count}
        </span>
      </span>
      <Button size="small" disabled={page + 1 >= pages} aria-label={`${words}: later`} onClick={() => onTurn(page + 1)}>
        later
      </Button>
    </span>
  );
}

/**
 * What can I cut with what I have; and what is the one thing to buy.
 * @param given one page of the matrix, worked out with the page so that it is at once; the others are asked of the worker
 */
export function Matches({
  names,
  cutter,
  drawer,
  given,
  givenAt,
}: {
  names: { id: string; name: string }[];
  cutter: StoredDocument<Design> | null;
  drawer: DrawerRow[];
  given: MatchMark[][];
  givenAt: MatchPlace;
}) {
  const { show, system } = useUnits();
  const router = useRouter();
  const [wiresPage, setWiresPage] = useQueryParameter("wires");
  const [suppliesPage, setSuppliesPage] = useQueryParameter("supplies");
  const turn = { wires: setWiresPage, supplies: setSuppliesPage };
  const place = useMemo<MatchPlace>(() => ({ wires: pageOf(wiresPage), supplies: pageOf(suppliesPage) }), [wiresPage, suppliesPage]);
  const [buy, setBuy] = useQueryParameter("buy");
  const buyable = buy === "too";
  const [cellAsked, setCell] = useQueryParameter("cell");
  const [asking, setAsking] = useState(false);
  const [shortcuts, setShortcuts] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const owned = useMemo(() => holdingsOf(drawer), [drawer]);
  const whole = useMemo(() => (buyable ? holdingsOf(drawer, true) : owned), [drawer, buyable, owned]);
  const holdings = useMemo(() => matchPage(whole, place), [whole, place]);
  const pages = matchPages(whole);
  const job = useMemo(() => (cutter ? jobOf(cutter.document) : null), [cutter]);
  const ready = job !== null && holdings.wires.length > 0 && holdings.supplies.length > 0;
  const atFirst = place.wires === givenAt.wires && place.supplies === givenAt.supplies && !buyable;
  // The first question goes to the worker too, though its answer came with the page: the next one then finds it started and warm.
  const matches = useEngine("matches", ready ? { job, holdings } : null);
  const [jobs, setJobs] = useState<StoredDocument<Design>[] | null>(null);
  const purchases = useEngine(
    "oneThing",
    jobs
      ? {
          jobs: jobs.map((row) => ({ name: row.document.name, job: jobOf(row.document) })),
          // Of a drawer of hundreds the first hundred each way represent the rest: this tries every part on every job.
          holdings: { ...owned, wires: owned.wires.slice(0, MOST_TRIED), supplies: owned.supplies.slice(0, MOST_TRIED) },
          offers: offersOf(drawer),
        }
      : null,
  );
  const run = () => {
    setAsking(true);
    api.cutters.list(MOST_JOBS).then(setJobs, (error: Error) => setFault(error.message));
  };
  const evaluation = useMemo<Evaluated | null>(() => {
    if (!cutter || !job) return null;
    if (atFirst) return { cutter, job, holdings, marks: given };
    return matches.current && matches.result ? { cutter, job, holdings, marks: matches.result } : null;
  }, [cutter, job, atFirst, given, holdings, matches.current, matches.result]);
  // The last answer stays until the new one stands; then it is filled in in slices: hundreds of cells must not hold up a hand on the page.
  const [saved, setSaved] = useState(evaluation);
  if (evaluation && evaluation !== saved) setSaved(evaluation);
  const shown = useDeferredValue(saved);
  const requested = (shown?.cutter ?? cutter)?.document;
  const opened = useMemo(() => (shown && cellAsked ? cellPlace(shown.holdings, cellAsked) : null), [shown, cellAsked]);
  // The cell is there only once the table is.
  const [anchor, setAnchor] = useState<Element | null>(null);
  useEffect(() => {
    setAnchor(opened && document.querySelector(`.match-table tbody tr:nth-child(${opened.w + 1}) td:nth-of-type(${opened.s + 1})`));
  }, [opened]);
  const onOpen = useCallback(
    (w: number, s: number) => {
      const [wire, supply] = [shown?.holdings.wires[w], shown?.holdings.supplies[s]];
      if (wire && supply) setCell(cellName(wire, supply));
    },
    [shown, setCell],
  );
  const count = useMemo(() => {
    const all = shown?.marks.flat() ?? [];
    return { all: all.length, clean: all.filter((mark) => "score" in mark).length };
  }, [shown]);
  const wire = opened ? shown?.holdings.wires[opened.w] : undefined;
  const supply = opened ? shown?.holdings.supplies[opened.s] : undefined;
  const cell = shown && wire && supply ? matchCell({ ...shown.job, units: system }, shown.holdings, wire, supply) : null;
  // Turned through every control's range: some milliseconds, and only for a cell that is open.
  const nearest = useMemo(
    () => (shown && wire && supply && cell?.candidate === null ? nearestSetup(shown.cutter.document, shown.job, wire, supply, shown.holdings.controls) : null),
    [shown, wire, supply, cell?.candidate],
  );
  const setCutter = (id: string, design: Design, words: string) => {
    if (leaveForDesk(id, { design, words })) router.push(`/cutters/${id}`);
    else setFault("This browser keeps nothing between pages, so the set-up cannot be handed to the desk. Open the desk and use Set-ups there.");
  };

  return (
    <div className="shed">
      <PageTitle parts={["Matches"]} />
      <Rail current="matches">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main style={{ maxWidth: "none" }}>
        <div style={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ margin: 0, fontSize: 30 }}>Matches</h1>
          {names.length > 0 && (
            <TextField
              select
              size="small"
              label="Job of"
              value={cutter?.id ?? ""}
              onChange={(event) => router.push(`/matches?cutter=${event.target.value}`)}
              sx={{ minWidth: 200 }}
            >
              {names.map((row) => (
                <MenuItem key={row.id} value={row.id}>
                  {row.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Tile chosen={buyable} onClick={() => setBuy(buyable ? "" : "too")}>
            with what I could buy
          </Tile>
        </div>
        {requested && (
          <p style={{ margin: "8px 0 12px" }}>
            {resolveFoam(requested.job.foam).name}, {show("length", requested.job.width_mm)} wide at {show("feed", requested.job.feed_mm_s)},{" "}
            {show("length", requested.wire.length_mm)} between posts.{" "}
            {shown && ready && (
              <span role="status">
                {count.clean === 0
                  ? pages.wires * pages.supplies > 1
                    ? "Nothing on this page cuts it cleanly."
                    : "Nothing in the drawer cuts it cleanly."
                  : `${count.clean} of ${count.all} pairs of wire and supply cut it cleanly${pages.wires * pages.supplies > 1 ? " on this page" : ""}.`}
              </span>
            )}
          </p>
        )}
        {fault && <Alert severity="error">{fault}</Alert>}
        {matches.fault && <Alert severity="error">The matches could not be worked out: {matches.fault}</Alert>}
        {names.length === 0 && (
          <p>
            There is no job yet. <Link href="/start">Say what is to be cut</Link>, or <Link href="/cutters">make a cutter</Link>.
          </p>
        )}
        {names.length > 0 && !ready && (
          <p>
            The drawer needs at least one wire and one supply: <Link href="/drawer">put in what you have</Link>.
          </p>
        )}
        {ready && pages.wires * pages.supplies > 1 && (
          <div style={{ display: "flex", gap: 18, flexWrap: "wrap", alignItems: "center", marginBottom: 8 }}>
            {(["wires", "supplies"] as const).map((side) => (
              <PageSteps
                key={side}
                words={side === "wires" ? "Wires" : "Supplies"}
                page={Math.min(place[side], pages[side] - 1)}
                pages={pages[side]}
                count={whole[side].length}
                size={MATCH_PAGE[side]}
                onTurn={(page) => turn[side](page === 0 ? "" : String(page + 1))}
              />
            ))}
          </div>
        )}
        {ready && shown && <MatchTable holdings={shown.holdings} marks={shown.marks} onOpen={onOpen} />}
        {names.length > 0 && (
          <section style={{ marginTop: 22 }}>
            <h2 style={{ fontSize: 21, margin: "0 0 6px" }}>The one thing to buy</h2>
            {!asking && (
              <Button variant="outlined" onClick={run}>
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
                        : `a ${choiceWords("control", purchase.name)}`}
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
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setCell("")}
        slotProps={{ paper: { sx: { p: 2, maxWidth: 420 }, role: "dialog", "aria-label": "This match" } }}
      >
        {shown && wire && supply && cell && (
          <>
            <strong>
              {wire.name} on {supply.name}
            </strong>
            {cell.candidate ? (
              <>
                <p>
                  Clean, {cell.candidate.score.toFixed(0)} points, {drivenWords(adoptSetup(shown.cutter.document, cell.candidate), show)}:{" "}
                  {cell.candidate.reasons.join("; ")}. Fuse {cell.candidate.fuseA} A.
                </p>
                <Button
                  variant="contained"
                  onClick={() => {
                    const { candidate } = cell;
                    if (candidate) setCutter(shown.cutter.id, adoptSetup(shown.cutter.document, candidate), `${wire.name} on ${supply.name} put on the desk.`);
                  }}
                >
                  Put on the desk
                </Button>
              </>
            ) : (
              <>
                <p>
                  Not clean: {cell.refusal?.reason ?? "none of the controls at hand fits this supply"}.
                  {nearest && ` At its best, ${drivenWords(nearest.design, show)}, it ${AT_BEST[nearest.verdict]}.`}
                </p>
                {nearest && (
                  <Button variant="outlined" onClick={() => setCutter(shown.cutter.id, nearest.design, `${wire.name} on ${supply.name} put on the desk.`)}>
                    Put on the desk all the same
                  </Button>
                )}
              </>
            )}
          </>
        )}
      </Popover>
      <ShortcutsDialog
        open={shortcuts}
        onClose={() => setShortcuts(false)}
        rows={[
          { keys: "arrows", does: "from cell to cell" },
          { keys: "Home, End", does: "first and last supply" },
          { keys: "Enter", does: "open a cell" },
          { keys: "Esc", does: "close it" },
        ]}
      />
    </div>
  );
}
