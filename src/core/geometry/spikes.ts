/** A point of the clipping library's grid. */
export interface GridPoint {
  x: number;
  y: number;
}

/** A line that turns back on itself this closely, in steps of the grid, encloses nothing there. */
const CLOSE_STEPS = 2;

/** Whether the line goes from a to b and straight back to c: the nearer of a and c lies on the other leg. */
function turnsBack(a: GridPoint, b: GridPoint, c: GridPoint): boolean {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
  if (ux * vx + uy * vy >= 0) return false;
  const across = Math.abs(ux * vy - uy * vx);
  return across <= CLOSE_STEPS * Math.max(Math.hypot(ux, uy), Math.hypot(vx, vy));
}

/**
 * A closed line without the points where it stops or runs back on itself (retraced stubs of any length, in any number of steps).
 * The clipping library drops a corner, and with it up to half the area, where a straight line overshoots its own start.
 * What is removed encloses at most two steps of the grid times its length.
 * @returns fewer than three points where the line encloses nothing
 */
export function withoutSpikes<T extends GridPoint>(line: readonly T[]): T[] {
  const done: T[] = [];
  const same = (a: GridPoint, b: GridPoint) => a.x === b.x && a.y === b.y;
  const drop = (): boolean => {
    const n = done.length;
    if (n >= 2 && same(done[n - 1] as T, done[n - 2] as T)) {
      done.pop();
      return true;
    }
    if (n >= 3 && turnsBack(done[n - 3] as T, done[n - 2] as T, done[n - 1] as T)) {
      done.splice(n - 2, 1);
      return true;
    }
    return false;
  };
  for (const point of line) {
    done.push(point);
    while (drop());
  }
  // The same across the line's start.
  for (let changed = true; changed && done.length > 2; ) {
    changed = false;
    const n = done.length;
    if (same(done[0] as T, done[n - 1] as T) || turnsBack(done[n - 2] as T, done[n - 1] as T, done[0] as T)) {
      done.pop();
      changed = true;
    } else if (turnsBack(done[n - 1] as T, done[0] as T, done[1] as T)) {
      done.shift();
      changed = true;
    }
  }
  return done;
}
