import type { Design } from "@/core/cutters/design/schema";
import { foamWords } from "@/core/materials/foams";
import { trim } from "@/core/units/trim";
import type { Quantity } from "@/core/units/units";
import { controlSentence, supplySentence, tensionWords, wireWords } from "../../cutter/words";

type Show = (quantity: Quantity, canonical: number, decimals?: number) => string;

/** Each part of a design in short words for the conflict dialog, by the label it is merged under; parts without short words only say whether they exist. */
const WORDS: Readonly<Record<string, (design: Design, show: Show) => string>> = {
  name: (design) => design.name,
  "kind of cutter": (design) => design.kind,
  notes: (design) => (design.notes === "" ? "none" : design.notes.length > 120 ? `${design.notes.slice(0, 120)}…` : design.notes),
  "room temperature": (design, show) => trim(show("temperature", design.ambient_C)),
  foam: (design) => `${foamWords(design.job.foam)} ${design.job.foam.density_kg_m3}`,
  "foam width": (design, show) => trim(show("length", design.job.width_mm)),
  "foam thickness": (design, show) => trim(show("length", design.job.thickness_mm)),
  feed: (design, show) => trim(show("feed", design.job.feed_mm_s)),
  "accepted kerf": (design, show) => trim(show("kerf", design.job.maxKerf_mm)),
  wire: (design, show) => wireWords(design, show),
  "wire length": (design, show) => trim(show("length", design.wire.length_mm)),
  "supply and control": (design, show) => `${supplySentence(design, show)}, ${controlSentence(design, show)}`,
  leads: (design, show) => (design.leads ? `${trim(show("leadLength", design.leads.oneWay_m))} of ${design.leads.gauge_awg} AWG` : "none"),
  tension: (design, show) => tensionWords(design, show),
  frame: (design) => design.frame?.kind ?? "none",
  calibration: (design) => `${design.calibrations?.length ?? 0} foams`,
  "ready mark": (design) => (design.ready ? "ready" : "not ready"),
};

/** One part of a design in a few words. @param label as the merge names it */
export const partWords = (design: Design, label: string, show: Show): string => WORDS[label]?.(design, show) ?? "changed";
