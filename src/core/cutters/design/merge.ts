import { type Merge, mergerOf, type PartsOf } from "../../kernel/merge";
import type { Design } from "./schema";

/** Parts of a design that change as one: two people's halves of a supply would be nobody's supply. */
const PARTS: PartsOf<Design> = {
  format: null,
  version: null,
  name: "name",
  kind: "kind of cutter",
  notes: "notes",
  ambient_C: "room temperature",
  job: { each: { foam: "foam", width_mm: "foam width", thickness_mm: "foam thickness", feed_mm_s: "feed", maxKerf_mm: "accepted kerf" } },
  wire: { groups: { wire: "rest", "wire length": ["length_mm"] } },
  // A control that fits one supply may not fit another: the two change together.
  supply: { label: "supply and control", with: ["control"] },
  control: null,
  leads: "leads",
  tension: "tension",
  frame: "frame",
  wiring: "wiring",
  calibrations: "calibration",
  ready: "ready mark",
  readyWithdrawn: "ready mark taken back",
};

export const designMerger = mergerOf(PARTS);

export const sameDesign = designMerger.same;

/**
 * Joins two changes of one design, part by part.
 * @param base what both started from
 * @example mergeDesigns(base, mine, theirs).clashes // [] when they changed different parts
 */
export const mergeDesigns: (base: Design, mine: Design, theirs: Design) => Merge<Design> = designMerger.merge;
