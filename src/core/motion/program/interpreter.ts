import type { Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { FULL_HEAT, type Machine } from "./machine";

/** Longest line that is read. */
const LONGEST_LINE = 256;
/** Arcs become straight moves that leave them by no more than this, mm. */
const ARC_MM = 0.005;
const INCH_MM = 25.4;

/** G words that are read, by the group they belong to: two of a group in one line contradict each other. */
const G_GROUPS: Readonly<Record<string, string>> = {
  "0": "motion",
  "1": "motion",
  "2": "motion",
  "3": "motion",
  "4": "dwell",
  "17": "plane",
  "20": "units",
  "21": "units",
  "40": "compensation",
  "49": "length",
  "54": "place",
  "61": "path",
  "64": "path",
  "80": "motion",
  "90": "distance",
  "91": "distance",
  "93": "feed",
  "94": "feed",
};
/** M words that are read. */
const M_WORDS = new Set(["2", "3", "5", "30"]);
const WORD = /([A-Za-z])\s*([+-]?(?:\d+\.?\d*|\.\d+))/y;

interface Line {
  g: string[];
  m: string[];
  values: Map<string, number>;
}

const refuse = (line: number, why: string): never => {
  throw new CoreError("out-of-range", "text", `line ${line}: ${why}`);
};

/** One line's words, comments taken out; null for one that says nothing. */
function wordsOf(raw: string, at: number): Line | null {
  if (raw.length > LONGEST_LINE) refuse(at, `is longer than ${LONGEST_LINE} characters`);
  let text = raw.trim();
  if (text === "" || text === "%") return null;
  if (text.startsWith("/")) return null;
  const semicolon = text.indexOf(";");
  if (semicolon >= 0) text = text.slice(0, semicolon);
  let bare = "";
  let depth = 0;
  for (const sign of text) {
    if (sign === "(") {
      if (depth > 0) refuse(at, "a comment is inside a comment");
      depth = 1;
    } else if (sign === ")") {
      if (depth === 0) refuse(at, "a comment ends that never began");
      depth = 0;
    } else if (depth === 0) bare += sign;
  }
  if (depth > 0) refuse(at, "a comment is not closed");
  if (/[#[\]=]/.test(bare)) refuse(at, "parameters and expressions are not read: give figures");
  const line: Line = { g: [], m: [], values: new Map() };
  // Spaces may stand anywhere, even within a figure.
  const packed = bare.replaceAll(/\s+/g, "");
  WORD.lastIndex = 0;
  while (WORD.lastIndex < packed.length) {
    const from = WORD.lastIndex;
    const found = WORD.exec(packed);
    if (!found) {
      refuse(at, `"${packed.slice(from, from + 12)}" is no word: a letter and a figure`);
      break;
    }
    const letter = (found[1] as string).toUpperCase();
    const value = Number(found[2]);
    if (!Number.isFinite(value) || Math.abs(value) > 1e9) refuse(at, `${letter}${found[2]} is no figure that a machine knows`);
    if (letter === "G") line.g.push(String(value));
    else if (letter === "M") line.m.push(String(value));
    else if (letter === "O") refuse(at, "called parts and loops are not read");
    else if (line.values.has(letter)) refuse(at, `${letter} is said twice`);
    else line.values.set(letter, value);
  }
  return line.g.length + line.m.length + line.values.size === 0 ? null : line;
}

/** Points of an arc after its first, to its end, and the arc's own length. */
function arcPoints(from: Point, to: Point, clockwise: boolean, line: Line, scale: number, at: number): { points: Point[]; lengthMm: number } {
  const [i, j, r] = ["I", "J", "R"].map((letter) => line.values.get(letter));
  let centre: Point;
  if (r !== undefined) {
    const radius = Math.abs(r * scale);
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const chord = Math.hypot(dx, dy);
    if (chord < 1e-9) return refuse(at, "an arc by its radius must end elsewhere than it begins");
    if (radius < chord / 2 - 1e-6) return refuse(at, `an arc of radius ${radius} mm does not reach its end, ${chord.toFixed(3)} mm away`);
    const up = Math.sqrt(Math.max(0, radius ** 2 - (chord / 2) ** 2));
    // The shorter arc for a positive radius.
    const side = clockwise === r > 0 ? -1 : 1;
    centre = [(from[0] + to[0]) / 2 - (side * up * dy) / chord, (from[1] + to[1]) / 2 + (side * up * dx) / chord];
  } else {
    if (i === undefined && j === undefined) return refuse(at, "an arc takes I and J, or R");
    centre = [from[0] + (i ?? 0) * scale, from[1] + (j ?? 0) * scale];
  }
  const radius = Math.hypot(from[0] - centre[0], from[1] - centre[1]);
  const ends = Math.hypot(to[0] - centre[0], to[1] - centre[1]);
  if (radius < 1e-9) return refuse(at, "an arc has no radius");
  if (Math.abs(radius - ends) > Math.max(0.02, radius * 1e-3)) return refuse(at, `an arc's end lies ${Math.abs(radius - ends).toFixed(3)} mm off its circle`);
  const started = Math.atan2(from[1] - centre[1], from[0] - centre[0]);
  let turn = Math.atan2(to[1] - centre[1], to[0] - centre[0]) - started;
  if (clockwise && turn >= -1e-9) turn -= 2 * Math.PI;
  if (!clockwise && turn <= 1e-9) turn += 2 * Math.PI;
  const step = 2 * Math.acos(Math.max(0, 1 - ARC_MM / Math.max(radius, ARC_MM * 2)));
  const count = Math.max(1, Math.ceil(Math.abs(turn) / step));
  const points = Array.from({ length: count }, (_, k): Point => {
    if (k === count - 1) return to;
    const angle = started + (turn * (k + 1)) / count;
    return [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)];
  });
  return { points, lengthMm: radius * Math.abs(turn) };
}

/** One thing a line makes the carriages do. */
export interface ProgramStep {
  kind: "move" | "rapid" | "wait";
  /** where the near carriage comes to, and the far one */
  near: Point;
  far: Point;
  /** 0 for a rapid move: its time is the machine's own */
  seconds: number;
  /** S while the heat is on, full heat where none was said; 0 while it is off */
  heat: number;
}

/** Follows a program of the published words line by line: what a motion controller does with it, and what a reader does. */
export class Interpreter {
  private scale = 1;
  private absolute = true;
  private inverse = false;
  private motion = "";
  private feed: number | null = null;
  private power = FULL_HEAT;
  private readonly known: ReadonlySet<string>;
  private readonly place: Map<string, number>;
  /** Whether heat is on. */
  on = false;
  ended = false;

  /** @param at where the carriages are when it begins */
  constructor(
    private readonly machine: Pick<Machine, "axes" | "turn">,
    at: Readonly<Record<string, number>> = {},
  ) {
    this.known = new Set([...machine.axes, ...(machine.turn ? [machine.turn.axis] : []), "N", "F", "S", "P", "I", "J", "R", "T"]);
    this.place = new Map(machine.axes.map((axis) => [axis, at[axis] ?? 0]));
  }

  /** Where a carriage is once every line so far is done: the near one, or the far one of four axes. */
  here(k: 0 | 2): Point {
    const { axes } = this.machine;
    const from = axes.length === 4 ? k : 0;
    return [this.place.get(axes[from] as string) ?? 0, this.place.get(axes[from + 1] as string) ?? 0];
  }

  get heat(): number {
    return this.on ? this.power : 0;
  }

  /**
   * Takes a line.
   * @param at its number, for what is said of it
   * @returns what it makes the carriages do, and the turntable
   * @throws CoreError with the line and the reason; nothing of such a line is done
   */
  take(raw: string, at: number): { steps: ProgramStep[]; turnDeg: number | null } {
    const none = { steps: [], turnDeg: null };
    if (this.ended) return none;
    const line = wordsOf(raw, at);
    if (!line) return none;
    const { axes, turn } = this.machine;
    const four = axes.length === 4;
    const groups = new Map<string, string>();
    for (const g of line.g) {
      const group = G_GROUPS[g];
      if (!group) {
        refuse(at, `G${g} is not read here`);
        break;
      }
      if (groups.has(group)) refuse(at, `G${groups.get(group)} and G${g} contradict each other`);
      groups.set(group, g);
    }
    for (const m of line.m) if (!M_WORDS.has(m)) refuse(at, `M${m} is not read here`);
    for (const letter of line.values.keys()) if (!this.known.has(letter)) refuse(at, `${letter} is no axis of this frame: it has ${axes.join(", ")}`);
    if (groups.has("units")) this.scale = groups.get("units") === "20" ? INCH_MM : 1;
    if (groups.has("distance")) this.absolute = groups.get("distance") === "90";
    if (groups.has("feed")) {
      this.inverse = groups.get("feed") === "93";
      this.feed = null;
    }
    if (groups.has("motion")) this.motion = groups.get("motion") as string;
    const said = line.values.get("F");
    if (said !== undefined) {
      if (!(said > 0)) refuse(at, "F must be more than 0");
      this.feed = this.inverse ? said : said * this.scale;
    }
    const power = line.values.get("S");
    if (power !== undefined) {
      if (power < 0) refuse(at, "S must not be below 0");
      this.power = power;
    }
    if (line.m.includes("3")) this.on = true;
    if (line.m.includes("5")) this.on = false;
    const steps: ProgramStep[] = [];
    let turnDeg: number | null = null;
    if (groups.has("dwell")) {
      const seconds = line.values.get("P");
      if (seconds === undefined || seconds < 0) refuse(at, "G4 takes P, seconds, not below 0");
      steps.push({ kind: "wait", near: this.here(0), far: this.here(2), seconds: seconds as number, heat: this.heat });
      return { steps, turnDeg };
    }
    if (turn && line.values.has(turn.axis)) turnDeg = line.values.get(turn.axis) as number;
    const moves = axes.filter((axis) => line.values.has(axis));
    if (moves.length > 0) {
      const { motion, place, scale } = this;
      if (motion === "" || motion === "80") refuse(at, "a place is said without G0, G1, G2 or G3");
      const to = new Map(place);
      for (const axis of moves) to.set(axis, (this.absolute ? 0 : (place.get(axis) as number)) + (line.values.get(axis) as number) * scale);
      const target = (k: 0 | 2): Point => [to.get(axes[k] as string) as number, to.get(axes[k + 1] as string) as number];
      const arc = motion === "2" || motion === "3";
      if (arc && four && moves.some((axis) => axes.indexOf(axis) >= 2)) refuse(at, "an arc leads two axes only");
      const round = arc ? arcPoints(this.here(0), target(0), motion === "2", line, scale, at) : null;
      const legs = round?.points ?? [target(0)];
      const rapid = motion === "0";
      let seconds = 0;
      const started = this.here(2);
      if (!rapid) {
        if (this.inverse && said === undefined) refuse(at, "in inverse time every move takes its own F");
        if (this.feed === null) refuse(at, "a move without a feed: F is missing");
        const long = round?.lengthMm ?? Math.hypot(target(0)[0] - this.here(0)[0], target(0)[1] - this.here(0)[1]);
        // As published, a feed is of the first axes' own way; where they rest, of the others.
        const other = four ? Math.hypot(target(2)[0] - started[0], target(2)[1] - started[1]) : 0;
        seconds = this.inverse ? 60 / (this.feed as number) : (60 * (long > 1e-9 ? long : other)) / (this.feed as number);
      }
      for (const [k, leg] of legs.entries()) {
        const share = (k + 1) / legs.length;
        const beyond: Point = four ? [started[0] + (target(2)[0] - started[0]) * share, started[1] + (target(2)[1] - started[1]) * share] : leg;
        steps.push({ kind: rapid ? "rapid" : "move", near: leg, far: beyond, seconds: seconds / legs.length, heat: this.heat });
      }
      const [near, far] = [legs.at(-1) as Point, four ? target(2) : null];
      place.set(axes[0] as string, near[0]);
      place.set(axes[1] as string, near[1]);
      if (far) {
        place.set(axes[2] as string, far[0]);
        place.set(axes[3] as string, far[1]);
      }
    }
    if (line.m.includes("2") || line.m.includes("30")) this.ended = true;
    return { steps, turnDeg };
  }
}
