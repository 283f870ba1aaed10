"use client";
import { type CSSProperties, type KeyboardEvent, type MouseEvent, memo, useEffect, useMemo, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { Refusal } from "@/core/cutters/search/readyWire";
import { VERDICT_WORD } from "@/core/cutters/solve/describe";
import type { DesignVerdict } from "@/core/cutters/solve/evaluate";
import type { HeldSupply, HeldWire, Holdings } from "@/core/drawer/holdings";
import type { MatchMark } from "@/core/drawer/matches";
import { controlRecord } from "@/core/physics/power/controls";
import { markBitmaps, markImages } from "../../cutter/VerdictMark";
import { supplySentence, wireWords } from "../../cutter/words";
import { useUnits } from "../../kit/useUnits";

/** The drawing of a cut that a refusal would leave behind. */
const MARK: Readonly<Record<Refusal["code"], DesignVerdict>> = {
  mismatch: "too-cold",
  "short-wire": "short-wire",
  bows: "drags",
  "no-entry": "too-cold",
  "no-reach": "too-cold",
  fades: "too-cold",
  wastes: "too-cold",
  "at-its-end": "too-cold",
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
  "no-entry": "cannot melt in",
  "no-reach": "nothing in hand",
  fades: "fades",
  wastes: "wastes volts",
  "at-its-end": "at its end",
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
function settingWords({ control, setting }: Extract<MatchMark, { control: unknown }>): string {
  if (setting === null) return "as it is";
  return controlRecord(control).short(setting);
}

/** One row. Cells are bare on purpose, a box and two texts, read with the heads of their row and column: a drawer can ask for a thousand of them. */
const Row = memo(function Row({
  wire,
  words,
  supplies,
  marks,
  stop,
}: {
  wire: HeldWire;
  words: string;
  supplies: readonly HeldSupply[];
  marks: readonly MatchMark[];
  /** Column the Tab key stops at, if it is in this row. */
  stop: number | null;
}) {
  return (
    <tr className="match-row">
      <th scope="row" className="match-name">
        {wire.name}
        <div className="match-sub">{words}</div>
      </th>
      {marks.map((mark, s) => {
        const clean = "score" in mark;
        const verdict: DesignVerdict = clean ? "clean" : MARK[mark.code ?? "mismatch"];
        const said = clean ? settingWords(mark) : WORDS[mark.code ?? "mismatch"];
        const points = clean ? mark.score.toFixed(0) : null;
        return (
          <td
            key={supplies[s]?.id}
            data-verdict={verdict}
            tabIndex={stop === s ? 0 : undefined}
            aria-label={clean ? `${VERDICT_WORD.clean}, points ${points} ${said}` : said}
          >
            {points && <b>{points}</b>}
            {points ? ` ${said}` : said}
          </td>
        );
      })}
    </tr>
  );
});

/** Names of the marks' images in each scheme, and the ink: `--graphite` of tokens.css. */
const SCHEMES = [
  ["--mark-", "#26292b"],
  ["--mark-dark-", "#ece7db"],
] as const;
/** Drawings stay until the page can make bitmaps of them. */
const DRAWN: Readonly<Record<string, string>> = Object.assign({}, ...SCHEMES.map(([prefix, ink]) => markImages(prefix, ink)));
/** Steps of the arrow and paging keys: rows, columns. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-6, 0],
  PageDown: [6, 0],
  Home: [0, Number.NEGATIVE_INFINITY],
  End: [0, Number.POSITIVE_INFINITY],
};
const within = (value: number, count: number) => Math.min(count - 1, Math.max(0, value));

/** The cell an event came from, with its row and column. */
function cellOf(target: EventTarget): { cell: HTMLTableCellElement; w: number; s: number } | null {
  const cell = (target as HTMLElement).closest<HTMLTableCellElement>(".match-table td");
  return cell && { cell, w: (cell.parentElement as HTMLTableRowElement).sectionRowIndex, s: cell.cellIndex - 1 };
}

/** Wires against supplies: a grid to read at a glance, walked with the arrow keys, opened by click or Enter. */
export const MatchTable = memo(function MatchTable({
  holdings,
  marks,
  onOpen,
}: {
  holdings: Holdings;
  marks: readonly (readonly MatchMark[])[];
  onOpen: (w: number, s: number) => void;
}) {
  const { show } = useUnits();
  const { wires, supplies } = holdings;
  const [at, setAt] = useState<readonly [number, number]>([0, 0]);
  const [images, setImages] = useState(DRAWN);
  useEffect(() => setImages(Object.assign({}, ...SCHEMES.map(([prefix, ink]) => markBitmaps(prefix, ink, window.devicePixelRatio)))), []);
  const moved = useRef(false);
  const table = useRef<HTMLTableElement>(null);
  // Only the cell the Tab key stops at can be focused: an arrow key moves that first.
  useEffect(() => {
    if (!moved.current) return;
    moved.current = false;
    table.current?.tBodies[0]?.rows[at[0]]?.cells[at[1] + 1]?.focus();
  }, [at]);
  const [row, column] = [within(at[0], wires.length), within(at[1], supplies.length)];
  const head = useMemo(
    () => (
      <thead className="match-top">
        <tr className="match-row">
          <th scope="col" className="match-name">
            <span className="visually-hidden">Wire</span>
          </th>
          {supplies.map((supply) => (
            <th scope="col" key={supply.id} className="match-supply">
              {supply.name}
              <div className="match-sub">{supplySentence({ supply: supply.supply } as Pick<Design, "supply">, show)}</div>
            </th>
          ))}
        </tr>
      </thead>
    ),
    [supplies, show],
  );
  const onClick = (event: MouseEvent) => {
    const found = cellOf(event.target);
    if (!found) return;
    setAt([found.w, found.s]);
    onOpen(found.w, found.s);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const found = cellOf(event.target);
    if (!found || event.altKey || event.ctrlKey || event.metaKey) return;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onOpen(found.w, found.s);
      return;
    }
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    moved.current = true;
    setAt([within(found.w + step[0], wires.length), within(found.s + step[1], supplies.length)]);
  };
  return (
    <section className="match-frame" aria-label="Wires against supplies, a table that scrolls">
      <table
        // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: its cells are chosen and opened, which is what a grid is for
        role="grid"
        ref={table}
        aria-label="Matches"
        className="match-table"
        style={{ ...images, "--supplies": supplies.length } as CSSProperties}
        onClick={onClick}
        onKeyDown={onKeyDown}
      >
        {head}
        <tbody>
          {wires.map((wire, w) => (
            <Row
              key={wire.id}
              wire={wire}
              words={wireWords({ wire: wire.spec }, show)}
              supplies={supplies}
              marks={marks[w] ?? []}
              stop={w === row ? column : null}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
});
