import { formatQuantity, type Quantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import { noCut, VERDICT_WORD } from "./describe";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";
import { limitsOf } from "./report";

/** A figure of two designs side by side. */
export interface ComparedFigure {
  label: string;
  a: string;
  b: string;
  /** Which of the two is better off, where one is. */
  better: "a" | "b" | null;
  /** What the difference means, in words; empty where there is none worth naming. */
  words: string;
}

export interface Comparison {
  answers: [DesignEvaluation, DesignEvaluation];
  figures: ComparedFigure[];
  /** The comparison in a sentence or two. */
  summary: string;
}

interface Row {
  label: string;
  quantity: Quantity | null;
  /** A figure of the cut, or of a wire as hot as it would take: where there is no cut, the reason is in its place. */
  ofCut?: true;
  read: (design: Design, evaluation: DesignEvaluation) => number | null;
  /** Which way is better, and from what difference it is worth a word (share of the larger). */
  better?: "less" | "more";
  say?: (ratio: number) => string;
}

const times = (ratio: number) => (ratio >= 1.95 ? `${ratio.toFixed(1)} times` : `${Math.round((ratio - 1) * 100)} %`);

const ROWS: readonly Row[] = [
  {
    label: "Kerf",
    ofCut: true,
    quantity: "kerf",
    read: (_d, { cut }) => cut.kerfM * 1000,
    better: "less",
    say: (r) => `${times(r)} ${r >= 1.95 ? "the kerf" : "more kerf"}: more foam lost and softer edges`,
  },
  {
    label: "Top feed",
    ofCut: true,
    quantity: "feed",
    read: (_d, { cut }) => cut.maxFeedMPerS * 1000,
    better: "more",
    say: (r) => `top feed ${r >= 1.95 ? `${r.toFixed(1)} times` : times(r)} lower: less room before it drags`,
  },
  { label: "Heat in the cut", ofCut: true, quantity: "heat", read: (_d, { cut }) => cut.powerWPerM },
  {
    label: "Wire in the cut",
    ofCut: true,
    quantity: "temperature",
    read: (_d, { cut }) => cut.wireC,
    better: "less",
    say: () => "hotter in the kerf: more fume",
  },
  {
    label: "Wire in air",
    ofCut: true,
    quantity: "temperature",
    read: (_d, { circuit }) => circuit.wireC,
    better: "less",
    say: () => "hotter in air: more hazard between cuts, and a shorter life",
  },
  {
    label: "Current",
    quantity: "current",
    read: (_d, { circuit }) => circuit.currentA,
    better: "less",
    say: (r) => `${times(r)} ${r >= 1.95 ? "the" : "more"} current: thicker leads, bigger fuse`,
  },
  { label: "Volts on the wire", quantity: "voltage", read: (_d, { circuit }) => circuit.wireVoltageV },
  { label: "Asked of the supply", quantity: "current", read: (_d, { circuit }) => circuit.supplyCurrentA },
  {
    label: "Bow at mid-span",
    ofCut: true,
    quantity: "kerf",
    read: (_d, { lagM }) => (lagM === null ? null : lagM * 1000),
    better: "less",
    say: (r) => `bows ${times(r)} ${r >= 1.95 ? "as much" : "more"}: long templates come out thin in the middle`,
  },
  { label: "Wait at a corner", ofCut: true, quantity: null, read: (_d, { dwellS }) => dwellS, better: "less", say: () => "a longer wait at every corner" },
  { label: "Tension, hot", quantity: "force", read: (design) => design.tension.hot_N },
  {
    label: "Wire growth",
    ofCut: true,
    quantity: "kerf",
    read: (_d, { tension }) => tension.growthM * 1000,
    better: "less",
    say: () => "grows more: the device needs more travel",
  },
];

/** Differences smaller than this share of the larger are not worth a word. */
const WORTH_A_WORD = 0.05;

/** Two designs side by side: figures, which is better off in each, and what it means. */
export function compareDesigns(a: Design, b: Design, units: UnitSystem): Comparison {
  const answers: [DesignEvaluation, DesignEvaluation] = [evaluateDesign(a), evaluateDesign(b)];
  const reasons = answers.map(noCut);
  const show = (row: Row, value: number | null, i: 0 | 1) =>
    value === null
      ? ((row.ofCut && reasons[i]) ?? "cannot keep up")
      : row.quantity === null
        ? `${value.toFixed(1)} s`
        : formatQuantity(row.quantity, value, units);
  const figures = ROWS.map((row): ComparedFigure => {
    const read = (design: Design, i: 0 | 1) => (row.ofCut && reasons[i] ? null : row.read(design, answers[i]));
    const [x, y] = [read(a, 0), read(b, 1)];
    const figure = { label: row.label, a: show(row, x, 0), b: show(row, y, 1), better: null, words: "" };
    // Beside one that does not cut at all nothing is better or worse, and no ratio means anything.
    if (!row.better || reasons.some((reason) => reason !== null)) return figure;
    if (x === null || y === null) return x === y ? figure : { ...figure, better: x === null ? "b" : "a", words: "cannot keep up at this feed" };
    const [low, high] = [Math.min(x, y), Math.max(x, y)];
    if (high - low <= WORTH_A_WORD * high) return figure;
    const better = (row.better === "less") === x < y ? "a" : "b";
    return { ...figure, better, words: row.say?.(low === 0 ? 9 : high / low) ?? "" };
  });
  const closest = answers.map((evaluation, i) => limitsOf(i === 0 ? a : b, evaluation)[0]);
  const verdicts = answers.map((evaluation) => VERDICT_WORD[evaluation.verdict].toLowerCase());
  const count = (side: "a" | "b") => figures.filter((figure) => figure.better === side).length;
  const idle = reasons.flatMap((reason, i) => (reason === null ? [] : [i === 0 ? a.name : b.name]));
  const lead =
    idle.length > 0
      ? `${idle.join(" and ")} ${idle.length > 1 ? "do" : "does"} not cut as set up, so there is nothing to weigh`
      : count("a") === count("b")
        ? "Neither leads"
        : `${count("a") > count("b") ? a.name : b.name} leads in ${Math.max(count("a"), count("b"))} figures to ${Math.min(count("a"), count("b"))}`;
  const margin = (i: 0 | 1) => {
    if (reasons[i] !== null) return null;
    const row = closest[i];
    if (!row) return "no limit near";
    return row.margin < 0 ? `past its limit of ${row.name}` : `nearest limit ${row.name}, ${Math.round(row.margin * 100)} % in hand`;
  };
  return {
    answers,
    figures,
    summary: `${([0, 1] as const).map((i) => [`${[a, b][i]?.name}: ${verdicts[i]}`, margin(i)].filter((words) => words !== null).join(", ")).join(". ")}. ${lead}.`,
  };
}
