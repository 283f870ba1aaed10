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

/** Whether a point lies so close to a line between two others, away from its ends, that the grid cannot tell them apart; and how far along. */
function sharesAt(point: GridPoint, a: GridPoint, b: GridPoint): number | null {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, point.x - a.x, point.y - a.y];
  const long = Math.hypot(ux, uy);
  if (long === 0 || Math.abs(ux * vy - uy * vx) > CLOSE_STEPS * long) return null;
  const along = (ux * vx + uy * vy) / (long * long);
  return along > 0 && along < 1 && !(point.x === a.x && point.y === a.y) && !(point.x === b.x && point.y === b.y) ? along : null;
}

/**
 * Closed lines with a point more wherever a point of another stretch lies on them within the grid's own rounding. A bridge without width that is drawn there in one
 * stroke and back in two would otherwise stay as a sliver, which grows to a strip when it is offset.
 */
export function withSharedPoints<T extends GridPoint>(paths: readonly (readonly T[])[]): T[][] {
  const ends = paths.flatMap((path, of) => path.map((a, i) => ({ of, i, a, b: path[(i + 1) % path.length] as T })));
  const edges = ends.map((edge) => ({ ...edge, from: Math.min(edge.a.x, edge.b.x) - CLOSE_STEPS, to: Math.max(edge.a.x, edge.b.x) + CLOSE_STEPS }));
  edges.sort((e, f) => e.from - f.from);
  const points = ends.map(({ a }) => a).sort((p, q) => p.x - q.x);
  const shared = new Map<string, { along: number; point: T }[]>();
  let next = 0;
  // Edges that the sweep from left to right is over.
  let over: typeof edges = [];
  for (const point of points) {
    while (next < edges.length && (edges[next] as (typeof edges)[number]).from <= point.x) over.push(edges[next++] as (typeof edges)[number]);
    if (over.length > 64 || next % 32 === 0) over = over.filter(({ to }) => to >= point.x);
    for (const { of, i, a, b, to } of over) {
      if (to < point.x || point.y < Math.min(a.y, b.y) - CLOSE_STEPS || point.y > Math.max(a.y, b.y) + CLOSE_STEPS) continue;
      const along = sharesAt(point, a, b);
      if (along === null) continue;
      const key = `${of} ${i}`;
      shared.set(key, [...(shared.get(key) ?? []), { along, point }]);
    }
  }
  if (shared.size === 0) return paths.map((path) => [...path]);
  return paths.map((path, of) =>
    path.flatMap((point, i) => [point, ...(shared.get(`${of} ${i}`) ?? []).sort((p, q) => p.along - q.along).map(({ point: each }) => each)]),
  );
}
