/** Archives the server made on its own bear their day. */
const AUTOMATIC = /^auto-(\d{4})-(\d{2})-(\d{2})\.zip$/;

/** How many are kept: one a day, then one a week. */
export const DAILY_BACKUPS = 7;
export const WEEKLY_BACKUPS = 4;

const DAY_MS = 24 * 3600 * 1000;

/** Name of a day's automatic archive. @param day ISO date, "2026-11-25" */
export const automaticName = (day: string): string => `auto-${day}.zip`;

/** Days since Monday, 5 January 1970; null for a name that is no automatic archive's. */
function dayOf(name: string): number | null {
  const match = AUTOMATIC.exec(name);
  return match ? Math.floor(Date.UTC(Number(match[1]), Number(match[2]) - 1, Number(match[3])) / DAY_MS) - 4 : null;
}

/**
 * Which automatic archives have served their time: all but the newest seven days' and, of what is older, the newest of each of the last four weeks that have one.
 * Archives made by hand are never named.
 * @returns names to delete
 * @example outlived(["auto-2026-11-25.zip", "mine.zip"]) // []
 */
export function outlived(names: readonly string[]): string[] {
  const dated = names.flatMap((name) => {
    const day = dayOf(name);
    return day === null ? [] : [{ name, day }];
  });
  dated.sort((a, b) => b.day - a.day);
  const weeks = new Set<number>();
  return dated.slice(DAILY_BACKUPS).flatMap(({ name, day }) => {
    const week = Math.floor(day / 7);
    if (weeks.has(week) || weeks.size >= WEEKLY_BACKUPS) return [name];
    weeks.add(week);
    return [];
  });
}
