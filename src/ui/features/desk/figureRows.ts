import type { Design } from "@/core/cutters/design/schema";
import { noCut } from "@/core/cutters/solve/describe";
import { CORNER_TOLERANCE_M, type DesignEvaluation, stiffToolOf } from "@/core/cutters/solve/evaluate";
import type { Relation } from "@/core/kernel/provenance";
import { AXIAL } from "@/core/physics/cut/axialLaw";
import { DRAG, leastKerfM, TOP_FEED } from "@/core/physics/cut/cut";
import { ENTRY } from "@/core/physics/cut/entry";
import { DWELL, LAG } from "@/core/physics/cut/lag";
import type { Band } from "@/core/physics/cut/uncertainty";
import { MOVING_LINE_SOURCE } from "@/core/physics/heat/movingLineSource";
import { WIRE_RESISTANCE } from "@/core/physics/heat/wire";
import { STIFF_TOOL } from "@/core/physics/mechanics/stiffBow";
import { OHMS_LAW } from "@/core/physics/power/circuit";
import { LEAD_HEAT, LEAD_RESISTANCE } from "@/core/physics/power/leads";
import { BATTERY_RUN, FUSE_RULE, fuseAdvice } from "@/core/physics/power/powerAdvice";
import { supplyLimitA } from "@/core/physics/power/supplies";
import { WARM_UP } from "@/core/physics/power/warmup";
import { trim } from "@/core/units/trim";
import type { DeferredOf } from "../../kit/useDeferredEvaluation";
import type { Units } from "../../kit/useUnits";

/** A figure of the desk: its name, its value in words, and the relation and inputs behind it. */
export interface FigureRow {
  of: string;
  label: string;
  value: string;
  relation: Relation;
  inputs: string;
}

interface RowsInput {
  design: Design;
  evaluation: DesignEvaluation;
  deferred: DeferredOf;
  show: Units["show"];
}

/** Figures of the cut: kerf, feed, drag, bow, waits, and how it begins. */
function cutRows({ design, evaluation, deferred, show }: RowsInput): FigureRow[] {
  const { cut, pair } = evaluation;
  const { bands, course } = deferred;
  const sure = (band: Band | null, words: (value: number) => string) =>
    band && deferred.of === design
      ? ` Nine times in ten between ${words(band.low)} and ${Number.isFinite(band.high) ? words(band.high) : "no upper end"}.`
      : "";
  const kerfWords = (kerfM: number) => show("kerf", kerfM * 1000);
  const spots = course.along?.spots;
  const none = noCut(evaluation);
  const unless = (words: string) => none ?? words;
  const stiff = stiffToolOf(design);
  return [
    {
      of: "kerf",
      label: "Kerf",
      value: unless(show("kerf", cut.kerfM * 1000)),
      relation: MOVING_LINE_SOURCE,
      inputs: `${show("heat", cut.powerWPerM)} at ${show("feed", design.job.feed_mm_s)} in ${pair.foam.name}, which gives way at ${show("temperature", pair.foam.collapseC)}.${sure(bands.kerfM, kerfWords)}`,
    },
    {
      of: "top feed",
      label: "Top feed",
      value: unless(show("feed", cut.maxFeedMPerS * 1000)),
      relation: TOP_FEED,
      inputs: `kerf equals ${show("kerf", leastKerfM(pair) * 1000)} there: the wire's ${show("diameter", evaluation.wire.outerDiameterM * 1000)} and the room this foam asks next to it; you use ${Math.min(999, 100 * cut.feedRatio).toFixed(0)} % of it.${sure(bands.maxFeedMPerS, (mPerS) => show("feed", mPerS * 1000))}`,
    },
    {
      of: "drag",
      label: design.kind === "drop" ? "Weight that sinks it so" : "Drag across the foam",
      value: none !== null ? none : cut.dragNPerM === null ? "cannot keep up" : show("force", cut.dragNPerM * (design.job.width_mm / 1000), 2),
      relation: DRAG,
      inputs: `feed ratio ${Math.min(99, cut.feedRatio).toFixed(2)}, foam strength ${(pair.foam.strength10Pa / 1000).toFixed(0)} kPa at 10 % strain.${sure(bands.dragNPerM, (perM) => show("force", perM * (design.job.width_mm / 1000), 2))}`,
    },
    {
      of: "bow",
      label: stiff ? "Bends back by" : "Bow at mid-span",
      value: none !== null ? none : evaluation.lagM === null ? "cannot keep up" : show("kerf", evaluation.lagM * 1000),
      relation: stiff ? STIFF_TOOL : LAG,
      inputs: stiff
        ? `${show("length", stiff.depthM * 1000)} deep on ${show("diameter", evaluation.wire.diameterM * 1000)} wire; past a tenth of its depth it no longer follows the hand.`
        : `${show("force", design.tension.hot_N)} over ${show("length", design.wire.length_mm)}.${sure(bands.lagM, kerfWords)}`,
    },
    {
      of: "dwell",
      label: "Wait at a corner",
      value: none !== null ? none : evaluation.dwellS === null ? "cannot keep up" : `${evaluation.dwellS.toFixed(1)} s`,
      relation: DWELL,
      inputs: `until the middle is within ${show("kerf", CORNER_TOLERANCE_M * 1000)} of the ends. Common practice waits two to three seconds.`,
    },
    {
      of: "warm-up",
      label: "Warm after switch-on",
      value: course.warmUpS === null ? "never" : course.warmUpS < 60 ? `${course.warmUpS.toFixed(0)} s` : `${(course.warmUpS / 60).toFixed(1)} min`,
      relation: WARM_UP,
      inputs: `to 95 % of its rise in air, on this supply and control.`,
    },
    {
      of: "entry",
      label: "Goes in on its own for",
      value: none !== null ? none : !course.entry ? "cannot cut in" : show("length", course.entry.biteM * 1000),
      relation: ENTRY,
      inputs: course.entry
        ? `it goes in at ${show("temperature", course.entry.bareC)} and runs at ${show("temperature", course.entry.settledC)}: what it stored cuts that far, with a mouth of ${kerfWords(course.entry.mouthM)}. Begin away from the part; judge the face after an inch (common practice).${course.entry.settlesM === null ? "" : ` The kerf has settled after ${show("length", course.entry.settlesM * 1000)}: measure it beyond that.`}`
        : "past the top feed.",
    },
    {
      of: "hot spot",
      label: "Hottest place",
      value: spots ? show("temperature", spots.hottestC) : "would melt",
      relation: AXIAL,
      inputs: spots
        ? `${show("length", spots.hottestM * 1000)} from the left post; ${spots.meanInFoamC === null ? "" : `the wire in the foam averages ${show("temperature", spots.meanInFoamC)}; `}${show("length", spots.coldEndsM * 1000)} next to the posts stay too cold to cut.`
        : "no steady temperature exists at this current.",
    },
  ];
}

/** Figures of the circuit: resistances, currents, leads, the fuse and a battery's run. */
function circuitRows({ design, evaluation, deferred, show }: RowsInput): FigureRow[] {
  const { circuit } = evaluation;
  const { run } = deferred;
  const limitA = supplyLimitA(design.supply);
  const cutSeconds = design.job.thickness_mm / design.job.feed_mm_s;
  const rows: FigureRow[] = [
    {
      of: "wire resistance",
      label: "Wire, cold and hot",
      value: `${show("resistance", circuit.coldOhm).replace(/ .*/, "")} · ${show("resistance", circuit.hotOhm)}`,
      relation: WIRE_RESISTANCE,
      inputs: `${show("resistancePerLength", evaluation.ohmPerM)} cold over ${show("length", design.wire.length_mm)}.`,
    },
    {
      of: "supply current",
      label: "Asked of the supply",
      value: Number.isFinite(limitA)
        ? `${show("current", circuit.supplyCurrentA).replace(/ .*/, "")} of ${trim(show("current", limitA))}`
        : show("current", circuit.supplyCurrentA),
      relation: OHMS_LAW,
      inputs: `${show("current", circuit.inrushA)} at switch-on into the cold wire.`,
    },
    {
      of: "lead heat",
      label: "Leads · joints reach",
      value: design.leads ? `${show("temperature", circuit.leadC).replace(/ .*/, "")} · ${show("temperature", circuit.jointC)}` : "no leads",
      relation: LEAD_HEAT,
      inputs: design.leads
        ? `${show("current", circuit.currentA)} through ${design.leads.gauge_awg} AWG in a room at ${show("temperature", design.ambient_C)}.`
        : "no leads given.",
    },
    {
      of: "lead loss",
      label: "Lost in the leads",
      value: `${circuit.leadLossW.toFixed(1)} W`,
      relation: LEAD_RESISTANCE,
      inputs: design.leads
        ? `${show("leadLength", design.leads.oneWay_m)} each way of ${design.leads.gauge_awg} AWG copper and joints: ${show("resistance", circuit.leadsOhm, 3)}.`
        : "no leads given.",
    },
  ];
  const fuse = fuseAdvice(circuit.supplyCurrentA, design.leads?.gauge_awg);
  rows.push({
    of: "fuse",
    label: "Fuse",
    value: fuse.fuseA === null ? "leads too thin" : `${fuse.fuseA} A`,
    relation: FUSE_RULE,
    inputs: `${show("current", circuit.supplyCurrentA)} worked, leads good for ${fuse.leadRatingA} A${fuse.fuseA === null && fuse.leadGaugeAwg !== null ? `; ${fuse.leadGaugeAwg} AWG would carry it` : ""}.`,
  });
  if (run) {
    rows.push({
      of: "battery run",
      label: "Battery lasts",
      value: Number.isFinite(run.runTimeS) ? `${(run.runTimeS / 60).toFixed(0)} min` : "never drawn",
      relation: BATTERY_RUN,
      inputs: `ends ${run.endedBy === "floor" ? "at the floor under load" : "empty"}, with ${Math.round(run.fade * 100)} % of the first heat left; this cut takes ${cutSeconds.toFixed(0)} s.`,
    });
  }
  return rows;
}

/** The figures below the sentence, each once. */
export const figureRows = (input: RowsInput): FigureRow[] => [...cutRows(input), ...circuitRows(input)];
