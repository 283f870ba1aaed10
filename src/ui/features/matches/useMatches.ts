import { useRouter } from "next/navigation";
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { jobOf } from "@/core/cutters/search/job";
import type { SearchJob } from "@/core/cutters/search/readyWire";
import { type Holdings, holdingsOf } from "@/core/drawer/holdings";
import { type MatchMark, matchCell } from "@/core/drawer/matches";
import { nearestSetup } from "@/core/drawer/nearest";
import { type MatchPlace, matchPage, matchPages } from "@/core/drawer/pages";
import type { StoredDocument } from "@/core/kernel/document";
import { useQueryParameter } from "../../kit/address";
import { api, type DrawerRow } from "../../kit/api";
import { leaveForDesk } from "../../kit/handover";
import { useEngine } from "../../kit/useEngine";
import { useUnits } from "../../kit/useUnits";
import { cellName, cellPlace, offersOf, pageOf } from "./matchAddress";

/** Jobs that a purchase is tried on, and parts of a drawer it is tried together with. */
const MOST_JOBS = 40;
const MOST_TRIED = 100;

/** A question with its result: what is shown, opened and put on the desk always belongs together. */
interface Evaluated {
  cutter: StoredDocument<Design>;
  job: SearchJob;
  holdings: Holdings;
  marks: MatchMark[][];
}

export interface MatchesProps {
  names: { id: string; name: string }[];
  cutter: StoredDocument<Design> | null;
  drawer: DrawerRow[];
  given: MatchMark[][];
  givenAt: MatchPlace;
}

/** The matrix of wires and supplies for a job: its page, the cell that is open, and the one thing to buy. */
export function useMatches({ cutter, drawer, given, givenAt }: Omit<MatchesProps, "names">) {
  const { system } = useUnits();
  const router = useRouter();
  const [wiresPage, setWiresPage] = useQueryParameter("wires");
  const [suppliesPage, setSuppliesPage] = useQueryParameter("supplies");
  const turn = { wires: setWiresPage, supplies: setSuppliesPage };
  const place = useMemo<MatchPlace>(() => ({ wires: pageOf(wiresPage), supplies: pageOf(suppliesPage) }), [wiresPage, suppliesPage]);
  const [buy, setBuy] = useQueryParameter("buy");
  const buyable = buy === "too";
  const [cellAsked, setCell] = useQueryParameter("cell");
  const [asking, setAsking] = useState(false);
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
  const evaluation = useMemo<Evaluated | null>(() => {
    if (!cutter || !job) return null;
    if (atFirst) return { cutter, job, holdings, marks: given };
    return matches.current && matches.result ? { cutter, job, holdings, marks: matches.result } : null;
  }, [cutter, job, atFirst, given, holdings, matches.current, matches.result]);
  // The last answer stays until the new one stands; then it is filled in in slices: hundreds of cells must not hold up a hand on the page.
  const [saved, setSaved] = useState(evaluation);
  if (evaluation && evaluation !== saved) setSaved(evaluation);
  const shown = useDeferredValue(saved);

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

  return {
    turn,
    place,
    pages,
    whole,
    buyable,
    setBuyable: (on: boolean) => setBuy(on ? "too" : ""),
    ready,
    matches,
    purchases,
    asking,
    tryPurchases: () => {
      setAsking(true);
      api.cutters.list(MOST_JOBS).then(setJobs, (error: Error) => setFault(error.message));
    },
    fault,
    shown,
    design: (shown?.cutter ?? cutter)?.document,
    count,
    anchor,
    onOpen,
    close: () => setCell(""),
    open: shown && wire && supply && cell ? { shown, wire, supply, cell, nearest } : null,
    setCutter,
  };
}

export type MatchesState = ReturnType<typeof useMatches>;
