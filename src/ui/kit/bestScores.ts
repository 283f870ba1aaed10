const BEST_KEY = "upwind-lessons";

/** Best score of each lesson in this browser, by its id. Without storage there is none. */
export function readBest(): Record<string, number> {
  try {
    return JSON.parse(localStorage.getItem(BEST_KEY) ?? "{}") as Record<string, number>;
  } catch {
    // Without storage the best scores last as long as the page.
    return {};
  }
}

/** The scores with one more, stored where the browser has storage. */
export function withScore(best: Readonly<Record<string, number>>, lessonId: string, score: number): Record<string, number> {
  // No better than before: the same scores, so that nothing is drawn again.
  if (score <= (best[lessonId] ?? -1)) return best as Record<string, number>;
  const next = { ...best, [lessonId]: score };
  try {
    localStorage.setItem(BEST_KEY, JSON.stringify(next));
  } catch {
    // As above: the score then lasts as long as the page.
  }
  return next;
}
