import type { Quantity } from "../../../units/units";
import type { TensionDeviceModel } from "../tension";

/** Writes a number of a quantity in the units a person reads. */
export type Written = (quantity: Quantity, value: number) => string;

/** What of a design's tension its device is asked about. */
export interface Pulled {
  hot_N: number;
  rate_N_per_mm?: number | undefined;
}

/** One kind of tension device: everything that is to be known of it is here. */
export interface TensionRecord<D extends string = string> {
  device: D;
  /** as the sentence calls it, and as a drawing has room for */
  name: string;
  short: string;
  /** what it is like, next to its name */
  words: string;
  /** pull gained for each millimetre it gives where nothing was measured, N/mm (this project's starting points); null for one that has no rate */
  usualRateNPerMm: number | null;
  rateLabel: string;
  /** Something that stretches: drawn so, and no current may run through it. */
  stretches: boolean;
  /** Has figures of its own that are measured: wound with, length at rest, usable stretch. */
  measured: boolean;
  /** Its own stretch under the pull says something next to the wire. */
  showsStretch: boolean;
  model: (rateNPerMm: number) => TensionDeviceModel;
  /** What a thing in the drawer must say to be one, and whether such a thing serves this pull; shares within which it does. */
  drawerNeeds: "rate_N_per_mm" | "force_N" | null;
  serves: (thing: { rate_N_per_mm?: number | undefined; force_N?: number | undefined }, pulled: Pulled, near: (a: number, b: number) => boolean) => boolean;
  /** as a part on the build sheet */
  part: (pulled: Pulled, travelMm: number, show: Written) => string;
  /** What is to be said against it wherever it is chosen. */
  caution: {
    code: string;
    basis: "published" | "estimate" | "common practice";
    source: string;
    words: (figures: { growthM: number; coldN: number; hot_N: number }, show: Written) => string;
  } | null;
}

/** A thing whose rate is about the one wanted, or any where none is. */
export const byRate: TensionRecord["serves"] = (thing, { rate_N_per_mm: wanted }, near) => wanted === undefined || near(thing.rate_N_per_mm ?? 0, wanted);
