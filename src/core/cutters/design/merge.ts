import { canonical } from "../../kernel/canonical";
import type { Design } from "./schema";

/** A part of a design that changes as one: two people's halves of a supply would be nobody's supply. */
interface Part {
  label: string;
  read: (design: Design) => unknown;
  write: (onto: Design, from: Design) => Design;
}

const top = <K extends keyof Design>(key: K, label: string): Part => ({
  label,
  read: (design) => design[key],
  write: (onto, from) => ({ ...onto, [key]: from[key] }),
});
const ofJob = <K extends keyof Design["job"]>(key: K, label: string): Part => ({
  label,
  read: (design) => design.job[key],
  write: (onto, from) => ({ ...onto, job: { ...onto.job, [key]: from.job[key] } }),
});

const PARTS: readonly Part[] = [
  top("name", "name"),
  top("kind", "kind of cutter"),
  top("notes", "notes"),
  top("ambient_C", "room temperature"),
  ofJob("foam", "foam"),
  ofJob("width_mm", "foam width"),
  ofJob("thickness_mm", "foam thickness"),
  ofJob("feed_mm_s", "feed"),
  ofJob("maxKerf_mm", "accepted kerf"),
  {
    label: "wire",
    read: ({ wire: { length_mm: _length, ...size } }) => size,
    write: (onto, from) => ({ ...onto, wire: { ...from.wire, length_mm: onto.wire.length_mm } }),
  },
  {
    label: "wire length",
    read: (design) => design.wire.length_mm,
    write: (onto, from) => ({ ...onto, wire: { ...onto.wire, length_mm: from.wire.length_mm } }),
  },
  {
    // A control that fits one supply may not fit another: the two change together.
    label: "supply and control",
    read: (design) => [design.supply, design.control],
    write: (onto, from) => ({ ...onto, supply: from.supply, control: from.control }),
  },
  top("leads", "leads"),
  top("tension", "tension"),
  top("frame", "frame"),
  top("wiring", "wiring"),
  top("calibrations", "calibration"),
  top("ready", "ready mark"),
];

export function sameDesign(a: Design, b: Design): boolean {
  return PARTS.every((part) => canonical(part.read(a)) === canonical(part.read(b)));
}

export interface Merge {
  /** Their design with every change of mine that does not meet one of theirs. */
  merged: Design;
  /** Parts both changed, differently. `merged` holds theirs; {@link Merge.withMine} holds mine. */
  clashes: string[];
  withMine: Design;
  /** Parts taken over from them. */
  theirs: string[];
}

/**
 * Joins two changes of one design, part by part.
 * @param base what both started from
 * @example mergeDesigns(base, mine, theirs).clashes // [] when they changed different parts
 */
export function mergeDesigns(base: Design, mine: Design, theirs: Design): Merge {
  let merged = theirs;
  let withMine = theirs;
  const clashes: string[] = [];
  const taken: string[] = [];
  for (const part of PARTS) {
    const [b, m, t] = [base, mine, theirs].map((design) => canonical(part.read(design)));
    if (t !== b) taken.push(part.label);
    if (m === b || m === t) continue;
    withMine = part.write(withMine, mine);
    if (t === b) merged = part.write(merged, mine);
    else clashes.push(part.label);
  }
  return { merged, clashes, withMine, theirs: taken };
}
