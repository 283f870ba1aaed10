"use client";
import "./lesson.css";
import Button from "@mui/material/Button";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import type { LessonText, Outcome } from "@/core/kernel/lesson";
import { readBest, withScore } from "./bestScores";

/**
 * The best scores of this browser, and what notes one: an attempt that is only good or not counts 100 or nothing.
 * @param kind of practice, since two kinds may have a lesson of the same name
 */
export function useBestScores(kind: "bench" | "frame" | "hands") {
  // Those of the bench were written down before there were others.
  const keyOf = useCallback((id: string) => (kind === "bench" ? id : `${kind}/${id}`), [kind]);
  const [all, setAll] = useState<Readonly<Record<string, number>>>({});
  useEffect(() => setAll(readBest()), []);
  const note = useCallback(
    (id: string, { good, score = good ? 100 : 0 }: Pick<Outcome, "good" | "score">) => setAll((before) => withScore(before, keyOf(id), score)),
    [keyOf],
  );
  const best = useCallback((id: string): number | undefined => all[keyOf(id)], [all, keyOf]);
  return [best, note] as const;
}

/** The lessons with the best score of each on this machine. */
export function LessonList<L extends LessonText>({
  lessons,
  best,
  current,
  scored = false,
  own,
  onChoose,
}: {
  lessons: readonly L[];
  best: (id: string) => number | undefined;
  current: string | null;
  /** scored of 100; else passed or not */
  scored?: boolean;
  /** what is practised without a lesson */
  own?: { words: string; onChoose: () => void };
  onChoose: (lesson: L) => void;
}) {
  return (
    <ul className="lesson-list">
      {own && (
        <li>
          <button type="button" onClick={own.onChoose} aria-current={current === null ? "true" : undefined}>
            <span className="lesson-title">{own.words}</span>
          </button>
        </li>
      )}
      {lessons.map((lesson) => (
        <li key={lesson.id}>
          <button type="button" onClick={() => onChoose(lesson)} aria-current={lesson.id === current ? "true" : undefined}>
            <span className="lesson-title">{lesson.title}</span>
            <span className="num">{best(lesson.id) ? (scored ? `best ${best(lesson.id)}` : "passed") : ""}</span>
            {lesson.goal && <span className="lesson-goal">{lesson.goal}</span>}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What an attempt was worth, row by row, and what happened. */
export function LessonOutcome({ outcome, title, onAgain, children }: { outcome: Outcome; title?: string; onAgain?: () => void; children?: ReactNode }) {
  const { good, score, words, columns = [], rows } = outcome;
  return (
    <section aria-label="Result" role="status" data-testid="outcome" data-score={score} data-good={good ?? undefined}>
      {(score !== undefined || onAgain) && (
        <div style={{ display: "flex", alignItems: "baseline", gap: 14 }}>
          {score !== undefined && (
            <>
              <span className="num" style={{ fontSize: 40, fontWeight: 700, lineHeight: 1 }}>
                {score}
              </span>
              <span>of 100{title ? `: ${title}` : ""}</span>
            </>
          )}
          <span style={{ flex: 1 }} />
          {onAgain && (
            <Button variant="contained" onClick={onAgain}>
              Again
            </Button>
          )}
        </div>
      )}
      <p className={good === false ? "plan-note plan-note-caution" : "rig-says"}>
        {words} {children}
      </p>
      {rows.length > 0 && (
        <table className="plain-table">
          {columns.length > 0 && (
            <thead>
              <tr>
                <th scope="col" aria-label="what" />
                {columns.map((column) => (
                  <th scope="col" key={column}>
                    {column}
                  </th>
                ))}
              </tr>
            </thead>
          )}
          <tbody>
            {rows.map(([what, ...values]) => (
              <tr key={what}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {what}
                </th>
                {values.map((value, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                  <td key={i} className="num">
                    {value}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
