import { drawnMm, drawnOver, type Swing, type SwingArm, swing } from "./swing";

/** Where a pulley may stand, mm from the pivot. */
export interface Room {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

/** How finely places are looked over at first: evenly over the room, and on rings about the pivot, closer together near it, where a hair's breadth counts. */
const GRID = 40;
const RINGS = { count: 34, nearestMm: 15, spokes: 96 } as const;
/** Places that are apart are each looked at more closely, by ever finer nets of so many by so many about them; after some levels only the best of them. */
const SEEDS = 70;
const SEED_LEVELS = 3;
const STORED = 8;
const NET = 3;
const FINER = 2.2;
const LEVELS = 13;
/** A quick look at a place: radii tried, and angles of the swing. */
const QUICK = { radii: 48, angles: 40 } as const;

/** A place on the arm as {@link swing} finds it, only quicker: null where none draws so much. */
function quickRadius(arm: SwingArm, travelMm: number): number | null {
  const whole = drawnOver(arm);
  let before = 0;
  for (let i = 1; i <= QUICK.radii; i++) {
    const radius = (arm.armMm * i) / QUICK.radii;
    if (whole(radius) >= travelMm) {
      let [low, high] = [before, radius];
      for (let k = 0; k < 30; k++) {
        const middle = (low + high) / 2;
        if (whole(middle) >= travelMm) high = middle;
        else low = middle;
      }
      return high;
    }
    before = radius;
  }
  return null;
}

/** Worst mismatch, mm, on a few angles; without end where the arm cannot draw so much. */
export function quickWorst(arm: SwingArm, rootTravelMm: number, tipTravelMm: number): number {
  const [root, tip] = [quickRadius(arm, rootTravelMm), quickRadius(arm, tipTravelMm)];
  if (root === null || tip === null) return Number.POSITIVE_INFINITY;
  const ratio = tipTravelMm / rootTravelMm;
  let worst = 0;
  for (let i = 1; i < QUICK.angles; i++) {
    const deg = arm.fromDeg + ((arm.toDeg - arm.fromDeg) * i) / QUICK.angles;
    const off = Math.abs(Math.abs(drawnMm(arm, tip, deg)) - ratio * Math.abs(drawnMm(arm, root, deg)));
    if (off > worst) worst = off;
  }
  return worst;
}

/**
 * The place for the pulley, within its room, at which root and tip keep together best over a given swing: a net over the room, then ever finer nets about the best few.
 * Where an arm can only just draw so much the best place lies at the edge of what it can, and a walk downhill would stick there; nets do not.
 * @returns null where no place draws both travels
 */
export function bestPulley(
  arm: Omit<SwingArm, "pulleyMm">,
  room: Room,
  rootTravelMm: number,
  tipTravelMm: number,
): { pulleyMm: [number, number]; swing: Swing } | null {
  const worst = (x: number, y: number) => quickWorst({ ...arm, pulleyMm: [x, y] }, rootTravelMm, tipTravelMm);
  const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));
  let seen: Seen[] = [];
  const look = (x: number, y: number, reach: number) => {
    const off = worst(x, y);
    if (Number.isFinite(off)) seen.push({ x, y, off, reach });
  };
  const [wide, high] = [room.maxX - room.minX, room.maxY - room.minY];
  const cell = Math.max(wide, high) / GRID;
  for (let i = 0; i <= GRID; i++) for (let j = 0; j <= GRID; j++) look(room.minX + (wide * i) / GRID, room.minY + (high * j) / GRID, cell);
  const farthest = Math.max(
    Math.hypot(room.minX, room.minY),
    Math.hypot(room.maxX, room.maxY),
    Math.hypot(room.minX, room.maxY),
    Math.hypot(room.maxX, room.minY),
  );
  const grows = (farthest / RINGS.nearestMm) ** (1 / RINGS.count);
  for (let k = 0; k <= RINGS.count; k++) {
    const radius = RINGS.nearestMm * grows ** k;
    for (let spoke = 0; spoke < RINGS.spokes; spoke++) {
      const angle = (2 * Math.PI * spoke) / RINGS.spokes;
      const [x, y] = [radius * Math.cos(angle), radius * Math.sin(angle)];
      if (x >= room.minX && x <= room.maxX && y >= room.minY && y <= room.maxY) look(x, y, Math.min(cell, radius * (grows - 1)));
    }
  }
  for (let level = 0; level < LEVELS; level++) {
    const saved = apart(seen, level < SEED_LEVELS ? SEEDS : STORED);
    seen = [...saved];
    for (const { x, y, reach } of saved)
      for (let i = -NET; i <= NET; i++)
        for (let j = -NET; j <= NET; j++)
          look(within(x + (reach * 1.3 * i) / NET, room.minX, room.maxX), within(y + (reach * 1.3 * j) / NET, room.minY, room.maxY), reach / FINER);
  }
  // The last word is the exact sum's.
  let best: { pulleyMm: [number, number]; swing: Swing } | null = null;
  for (const { x, y } of apart(seen, STORED)) {
    const pulleyMm: [number, number] = [x, y];
    const found = swing({ ...arm, pulleyMm }, rootTravelMm, tipTravelMm);
    if (!best || found.worstMismatchMm < best.swing.worstMismatchMm) best = { pulleyMm, swing: found };
  }
  return best;
}

interface Seen {
  x: number;
  y: number;
  off: number;
  /** how far about it is not yet looked at, mm */
  reach: number;
}

/** The best so many that are not within another's reach. */
function apart(seen: readonly Seen[], most: number): Seen[] {
  const saved: Seen[] = [];
  for (const each of [...seen].sort((a, b) => a.off - b.off)) {
    if (saved.every(({ x, y, reach }) => Math.hypot(x - each.x, y - each.y) > reach)) saved.push(each);
    if (saved.length === most) break;
  }
  return saved;
}

const COARSE = 8;
/** Turns that an arm may begin at, tried one after another, degrees apart. */
const TURN_DEG = 10;

/** The same with the arm's beginning free: it swings as far, and may start anywhere. */
export function bestArm(arm: Omit<SwingArm, "pulleyMm">, room: Room, rootTravelMm: number, tipTravelMm: number) {
  const wide = arm.toDeg - arm.fromDeg;
  let best: { fromDeg: number; off: number; pulleyMm: [number, number] } | null = null;
  for (let fromDeg = -180; fromDeg < 180; fromDeg += TURN_DEG) {
    const turned = { ...arm, fromDeg, toDeg: fromDeg + wide };
    for (let i = 0; i <= COARSE; i++)
      for (let j = 0; j <= COARSE; j++) {
        const pulleyMm: [number, number] = [room.minX + ((room.maxX - room.minX) * i) / COARSE, room.minY + ((room.maxY - room.minY) * j) / COARSE];
        const off = quickWorst({ ...turned, pulleyMm }, rootTravelMm, tipTravelMm);
        if (off < (best?.off ?? Number.POSITIVE_INFINITY)) best = { fromDeg, off, pulleyMm };
      }
  }
  if (!best) return null;
  const turned = { ...arm, fromDeg: best.fromDeg, toDeg: best.fromDeg + wide };
  const found = bestPulley(turned, room, rootTravelMm, tipTravelMm);
  return found && { ...found, fromDeg: turned.fromDeg, toDeg: turned.toDeg };
}
