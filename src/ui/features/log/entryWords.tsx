import type { EntryKind, LogEntry } from "@/core/log/entries";
import { FACE_WORDS, FINISHING_WORDS } from "@/core/log/faces";
import { type FoamName, foamWords as foamFamilyWords } from "@/core/materials/foams";
import { trim } from "@/core/units/trim";
import type { Quantity } from "@/core/units/units";
import { wireWords } from "../../cutter/words";

type Show = (quantity: Quantity, canonical: number, decimals?: number) => string;

export const KIND_WORDS: Readonly<Record<EntryKind, string>> = {
  "test-cut": "test cut",
  setting: "setting used",
  run: "run",
  "wire-change": "wire change",
  "tension-check": "tension check",
  diagnosis: "diagnosis",
  "rig-cut": "cut on a rig",
  finish: "finishing",
};

const foamWords = (foam: FoamName) => `${foamFamilyWords(foam)} ${Number(foam.density_kg_m3.toFixed(1))}`;

/** A figure smaller than this is shown to a hundredth: seven tenths of a newton are not one. */
const SMALL = 10;

/** An entry in one line of words. */
export function entryWords(entry: LogEntry, show: Show): string {
  switch (entry.kind) {
    case "test-cut": {
      const measured = [
        entry.kerf_mm === undefined ? "" : `kerf ${show("kerf", entry.kerf_mm)}`,
        entry.lag_mm === undefined ? "" : `bow ${show("kerf", entry.lag_mm)}`,
        entry.current_A === undefined ? "" : show("current", entry.current_A),
        entry.volts_V === undefined ? "" : show("voltage", entry.volts_V, 2),
      ].filter(Boolean);
      return [
        `${show("feed", entry.feed_mm_s)} in ${foamWords(entry.foam)}, ${show("length", entry.width_mm)} wide`,
        entry.setting,
        ...measured,
        FACE_WORDS[entry.face].name,
      ]
        .filter(Boolean)
        .join("; ");
    }
    case "setting":
      return `${entry.setting} for ${foamWords(entry.foam)}, ${show("length", entry.width_mm)} wide at ${show("feed", entry.feed_mm_s)}`;
    case "run":
      return [
        `${entry.pieces} ${entry.pieces === 1 ? "piece" : "pieces"} of ${foamWords(entry.foam)} at ${show("feed", entry.feed_mm_s)}`,
        entry.cut_m === undefined ? "" : `${show("leadLength", entry.cut_m)} cut`,
        entry.hot_min === undefined ? "" : `hot for ${entry.hot_min} min`,
        entry.setting,
      ]
        .filter(Boolean)
        .join("; ");
    case "wire-change":
      return `${wireWords({ wire: entry.wire }, show)}, ${show("length", entry.cut_mm)}${entry.spool ? ` off ${entry.spool}` : ""}; ${entry.why === "broke" ? "the old one broke" : entry.why === "worn" ? "the old one was worn" : entry.why}`;
    case "tension-check":
      return `${show("force", entry.tension_N, 1)} ${entry.hot ? "hot" : "cold"}, by ${entry.how}`;
    case "finish":
      return `${entry.pieces > 1 ? `${entry.pieces} of ` : ""}${entry.part}: ${entry.done.map((step) => FINISHING_WORDS[step]).join(", ")}`;
    case "rig-cut":
      return [
        entry.name,
        ...entry.figures.map(
          ({ label, quantity, value }) => `${label} ${quantity ? trim(show(quantity, value, Math.abs(value) < SMALL ? 2 : undefined)) : value}`,
        ),
      ].join("; ");
    case "diagnosis":
      return `${FACE_WORDS[entry.fault].name}: ${entry.cause}; tried: ${entry.change}; ${entry.outcome === "untried" ? "outcome not yet reported" : entry.outcome}`;
  }
}
