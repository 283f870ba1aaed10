import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";

export const HAUL: Relation = {
  id: "haul",
  title: "Pull along a template",
  formula: "F = (D L + G sin phi)/cos phi",
  words:
    "A level thread draws a wire along an edge that climbs or falls: drag over the width, and so much of the bow's weight as the wire carries up the slope. Below nothing it must be held back.",
  range: "slopes below 90 degrees; friction left out",
  basis: "published",
  source: "statics on an inclined edge with a level pull",
};

/** Level pull, N. @param slopeDeg of the edge, uphill positive @param carriedN of the bow's weight on the wire */
export function haulN(dragNPerM: number, widthM: number, carriedN: number, slopeDeg: number): number {
  const phi = (slopeDeg * Math.PI) / 180;
  return (dragNPerM * widthM + carriedN * Math.sin(phi)) / Math.cos(phi);
}

export const ANCHOR: Relation = {
  id: "anchor",
  title: "Place of a fixed far end",
  formula: "A = span/(1 - k)",
  words: "A wire that is led at one end and fixed at the other draws a cone: every section is smaller by how much nearer it is to the fixed point.",
  range: "size at the far face under that at the template",
  basis: "published",
  source: "similar triangles",
};

/** From the template to the fixed point, mm. @param ratio of the far face's size to the template's, below 1. @throws CoreError `no-solution` */
export function anchorMm(spanMm: number, ratio: number): number {
  if (ratio >= 1)
    throw new CoreError("no-solution", "ratio", "a far face as large as the near one wants no fixed point: lead both ends. The ratio must be below 1.");
  return spanMm / (1 - ratio);
}

export const CALCULATION_SHEET: Relation = {
  id: "sheet",
  title: "Spacers for a sheet",
  formula: "t = h - (w - d)/2; turns = h/pitch; sheets = floor((H - first)/(t + w))",
  words:
    "The wire lies on spacers over a flat board and melts a little below itself: the sheet under it is thinner than the spacer by half of what the kerf is wider.",
  range: "a flat board, a straight wire",
  basis: "published",
  source: "geometry of a round wire in the middle of its kerf",
};

const overWire = (kerfMm: number, wireMm: number): number => {
  if (kerfMm < wireMm) throw new CoreError("out-of-range", "kerf_mm", `kerf_mm must be a number from ${wireMm} mm: no wire leaves a cut narrower than itself`);
  return (kerfMm - wireMm) / 2;
};

export interface Sheet {
  spacerMm: number;
  turns?: number;
  sheets?: number;
}

/** @throws CoreError `out-of-range` where the kerf is narrower than the wire */
export function sheet(ask: {
  wireMm: number;
  kerfMm: number;
  sheetMm: number;
  pitchMm?: number | undefined;
  blockMm?: number | undefined;
  firstMm?: number | undefined;
}): Sheet {
  const spacerMm = ask.sheetMm + overWire(ask.kerfMm, ask.wireMm);
  return {
    spacerMm,
    ...(ask.pitchMm === undefined ? {} : { turns: spacerMm / ask.pitchMm }),
    // A hair's tolerance: a block that is a whole number of sheets gives them all.
    ...(ask.blockMm === undefined ? {} : { sheets: Math.max(0, Math.floor((ask.blockMm - (ask.firstMm ?? 0)) / (ask.sheetMm + ask.kerfMm) + 1e-9)) }),
  };
}

export const FENCE: Relation = {
  id: "fence",
  title: "Fence, pin and loop",
  formula: "centre at p + w/2, near side at p + (w - d)/2; live wire height/cos(tilt); pin at R + w/2 for the disc, R - w/2 for the hole; loop b - (w - d)",
  words: "The part ends where the kerf begins: half a kerf from the wire's middle, and half of what the kerf is wider from its near side.",
  range: "a wire upright or tilted in its own plane; even kerf",
  basis: "published",
  source: "geometry of a round wire in the middle of its kerf",
};

export interface Fence {
  toCentreMm: number;
  toWireMm: number;
  liveWireMm?: number;
  pinDiscMm?: number;
  pinHoleMm?: number;
  loopMm?: number;
}

/** @throws CoreError where the kerf is narrower than the wire, or a groove or hole than the kerf */
export function fence(ask: {
  wireMm: number;
  kerfMm: number;
  partMm: number;
  heightMm?: number | undefined;
  tiltDeg?: number | undefined;
  discMm?: number | undefined;
  grooveMm?: number | undefined;
}): Fence {
  const side = overWire(ask.kerfMm, ask.wireMm);
  // A loop is at least as wide as its own wire.
  if (ask.grooveMm !== undefined && ask.grooveMm < ask.kerfMm)
    throw new CoreError("no-solution", "groove_mm", `a groove of ${ask.grooveMm} mm is narrower than this wire's own kerf: at least ${ask.kerfMm} mm`);
  if (ask.discMm !== undefined && ask.discMm <= ask.kerfMm / 2)
    throw new CoreError("no-solution", "disc_mm", `a hole of that radius is gone in the kerf: more than ${(ask.kerfMm / 2).toFixed(2)} mm`);
  return {
    toCentreMm: ask.partMm + ask.kerfMm / 2,
    toWireMm: ask.partMm + side,
    ...(ask.heightMm === undefined ? {} : { liveWireMm: ask.heightMm / Math.cos(((ask.tiltDeg ?? 0) * Math.PI) / 180) }),
    ...(ask.discMm === undefined ? {} : { pinDiscMm: ask.discMm + ask.kerfMm / 2, pinHoleMm: ask.discMm - ask.kerfMm / 2 }),
    ...(ask.grooveMm === undefined ? {} : { loopMm: ask.grooveMm - 2 * side }),
  };
}
