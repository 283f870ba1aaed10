import type { Relation } from "../kernel/provenance";
import { ALLOYS } from "../materials/alloys";
import { resistanceOhmPerM, resolveWire, type WireSpec } from "../physics/heat/wire";
import { awgDiameterMm } from "../units/gauges";

export const SPOOL_READING: Relation = {
  id: "spool-reading",
  title: "What wire is this?",
  formula: "R' = (R_read - R_meter leads)/l; compared with rho20/A of every alloy and size",
  words: "Measure a long piece: the meter's own leads add a tenth of an ohm or two, which matters little on ten ohms and very much on one.",
  range: "wire at room temperature, clean ends",
  basis: "published",
  source: "definition of resistivity; a hand meter's reading is taken as good to 1 % and 0.05 ohm (common practice)",
};

/** What a hand meter is good for: a share of the reading, and ohms of contact that zeroing does not take away. */
const METER_SHARE = 0.01;
const METER_OHM = 0.05;
/** Meter leads that were not measured: their usual ohms and how sure that is (common practice). */
const USUAL_LEADS = { ohm: 0.2, spread: 0.1 };
/** Resistivity of a drawn wire against its table, and its diameter against its name. */
const STOCK_SHARE = 0.03;
const MOST = 12;

/** Metric sizes that wire is sold in, mm. */
const METRIC_SIZES = [
  0.1, 0.12, 0.15, 0.16, 0.18, 0.2, 0.22, 0.25, 0.28, 0.3, 0.32, 0.35, 0.4, 0.41, 0.45, 0.5, 0.55, 0.6, 0.64, 0.7, 0.8, 0.9, 1, 1.2, 1.5, 2,
];

export interface SpoolReading {
  lengthM: number;
  readingOhm: number;
  /** Reading with the meter's leads held together; not given means unknown. */
  leadsOhm?: number | undefined;
  /** Calliper over the wire, mm, if it was measured. */
  diameterMm?: number | undefined;
}

export interface SpoolCandidate {
  wire: WireSpec;
  ohmPerM: number;
  /** (wire's - measured)/measured */
  off: number;
  /** Standard deviations between the two; below two they may well be the same wire. */
  apart: number;
}

export interface SpoolResult {
  ohmPerM: number;
  /** One standard deviation. */
  spreadOhmPerM: number;
  /** Best first. */
  candidates: SpoolCandidate[];
  /** What would make the reading better, in words. */
  advice: string;
}

/** Wires that fit a reading of a measured length. See {@link SPOOL_READING}. */
export function identifySpool(reading: SpoolReading): SpoolResult {
  const leads = reading.leadsOhm ?? USUAL_LEADS.ohm;
  const own = Math.max(0, reading.readingOhm - leads);
  const spreadOhm = Math.hypot(METER_SHARE * reading.readingOhm, METER_OHM, reading.leadsOhm === undefined ? USUAL_LEADS.spread : 0);
  const ohmPerM = own / reading.lengthM;
  const spreadOhmPerM = spreadOhm / reading.lengthM;
  const sizes: { spec: Pick<WireSpec, "diameter_mm" | "gauge_awg">; mm: number }[] = [
    ...Array.from({ length: 33 }, (_, i) => ({ spec: { gauge_awg: 12 + i }, mm: awgDiameterMm(12 + i) })),
    ...METRIC_SIZES.map((mm) => ({ spec: { diameter_mm: mm }, mm })),
  ];
  const candidates = ALLOYS.flatMap((alloy) =>
    sizes
      .filter(({ mm }) => reading.diameterMm === undefined || Math.abs(mm - reading.diameterMm) < Math.max(0.015, 0.04 * reading.diameterMm))
      .map(({ spec }): SpoolCandidate => {
        const wire: WireSpec = { alloy: alloy.id, ...spec };
        const theirs = resistanceOhmPerM(resolveWire(wire), 20);
        return {
          wire,
          ohmPerM: theirs,
          off: ohmPerM === 0 ? Number.MAX_VALUE : theirs / ohmPerM - 1,
          apart: Math.abs(theirs - ohmPerM) / Math.hypot(spreadOhmPerM, STOCK_SHARE * theirs),
        };
      }),
  )
    .filter((candidate) => candidate.apart < 3)
    .sort((a, b) => a.apart - b.apart)
    .slice(0, MOST);
  const share = own === 0 ? 1 : spreadOhm / own;
  const advice =
    own === 0
      ? "the meter's own leads read as much as the wire: measure a longer piece"
      : share > 0.03
        ? `the reading is only good to ${Math.round(share * 100)} %: the meter and its leads are a large part of ${reading.readingOhm} ohm. Measure a piece ${Math.ceil(share / 0.02)} times as long${reading.leadsOhm === undefined ? ", and first hold the meter's leads together and note what they read" : ""}`
        : `good to ${(share * 100).toFixed(1)} %${reading.diameterMm === undefined ? "; a calliper over the wire narrows it further" : ""}`;
  return { ohmPerM, spreadOhmPerM, candidates, advice };
}
