"use client";
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
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { adoptSetup } from "@/core/cutters/search/adopt";
import type { DesignVerdict } from "@/core/cutters/solve/evaluate";
import { MATCH_PAGE } from "@/core/drawer/pages";
import { resolveFoam } from "@/core/materials/foams";
import { choiceWords, controlSentence, supplySentence, wireWords } from "../../cutter/words";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { Tile } from "../../kit/Tile";
import { type Units, useUnits } from "../../kit/useUnits";
import { MatchTable } from "./MatchTable";
import { type MatchesProps, type MatchesState, useMatches } from "./useMatches";

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

/** Every part on offer tried on all jobs: the one purchase that betters them most. */
function OneThingToBuy({ asking, purchases, tryPurchases }: MatchesState) {
  const { show } = useUnits();
  return (
    <section style={{ marginTop: 22 }}>
      <h2 style={{ fontSize: 21, margin: "0 0 6px" }}>The one thing to buy</h2>
      {!asking && (
        <Button variant="outlined" onClick={tryPurchases}>
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
            {purchase.opens.length > 0 ? ` opens ${purchase.opens.join(", ")}` : " opens no new job"}; <span className="num">{purchase.gain.toFixed(0)}</span>{" "}
            points better in all.
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The open cell: what its wire does on its supply, and putting that on the desk. */
function CellPopover({ anchor, open, close, setCutter }: MatchesState) {
  const { show } = useUnits();
  if (!open) return null;
  const { shown, wire, supply, cell, nearest } = open;
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      onClose={close}
      slotProps={{ paper: { sx: { p: 2, maxWidth: 420 }, role: "dialog", "aria-label": "This match" } }}
    >
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
    </Popover>
  );
}

/**
 * What can I cut with what I have; and what is the one thing to buy.
 * @param props.given one page of the matrix, worked out with the page so that it is there at once; the others come from the worker
 */
export function Matches({ names, ...props }: MatchesProps) {
  const { show } = useUnits();
  const router = useRouter();
  const [shortcuts, setShortcuts] = useState(false);
  const state = useMatches(props);
  const { cutter } = props;
  const { turn, place, pages, whole, buyable, setBuyable, ready, matches, fault, shown, design, count, onOpen } = state;
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
          <Tile chosen={buyable} onClick={() => setBuyable(!buyable)}>
            with what I could buy
          </Tile>
        </div>
        {design && (
          <p style={{ margin: "8px 0 12px" }}>
            {resolveFoam(design.job.foam).name}, {show("length", design.job.width_mm)} wide at {show("feed", design.job.feed_mm_s)},{" "}
            {show("length", design.wire.length_mm)} between posts.{" "}
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
        {names.length > 0 && <OneThingToBuy {...state} />}
      </main>
      <CellPopover {...state} />
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
