"use client";
import Button from "@mui/material/Button";
import { LESSONS, type Lesson, type LessonResult } from "@/core/bench/lessons";

/** The lessons with the best score of each on this machine. */
export function LessonList({
  best,
  current,
  onBegin,
  onLeave,
}: {
  best: Readonly<Record<string, number>>;
  current: string | null;
  onBegin: (lesson: Lesson) => void;
  onLeave: () => void;
}) {
  return (
    <div>
      <p style={{ margin: "4px 0 8px", fontSize: 15 }}>Short exercises on invented cutters. The score comes from the cut itself.</p>
      {current && (
        <Button variant="outlined" onClick={onLeave}>
          Leave the lesson: my own cutter
        </Button>
      )}
      <ul className="lesson-list">
        {LESSONS.map((lesson) => (
          <li key={lesson.id}>
            <button type="button" onClick={() => onBegin(lesson)} aria-current={lesson.id === current ? "true" : undefined}>
              <span className="lesson-title">{lesson.title}</span>
              <span className="num">{best[lesson.id] === undefined ? "" : `best ${best[lesson.id]}`}</span>
              <span className="lesson-goal">{lesson.goal}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What a lesson's cut was worth, row by row, and what happened in the physics. */
export function LessonScore({ lesson, result, onAgain }: { lesson: Lesson; result: LessonResult; onAgain: () => void }) {
  return (
    <section aria-label="Lesson's result" data-score={result.score}>
      <div style={{ display: "flex", alignItems: "baseline", gap: 14 }}>
        <span className="num" style={{ fontSize: 40, fontWeight: 700, lineHeight: 1 }}>
          {result.score}
        </span>
        <span>of 100: {lesson.title}</span>
        <span style={{ flex: 1 }} />
        <Button variant="contained" onClick={onAgain}>
          Again
        </Button>
      </div>
      <ul style={{ margin: "8px 0", paddingLeft: 0, listStyle: "none" }}>
        {result.rows.map((row) => (
          <li key={row.words} style={{ display: "grid", gridTemplateColumns: "64px 1fr", gap: 8 }}>
            <span className="num">
              {row.points}/{row.of}
            </span>
            <span>{row.words}</span>
          </li>
        ))}
      </ul>
      <p style={{ margin: 0, borderLeft: "3px solid var(--cool)", paddingLeft: 10 }}>{result.physics}</p>
    </section>
  );
}
