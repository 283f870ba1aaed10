import { liveMm } from "../cutters/solve/evaluate";
import { CoreError } from "../kernel/errors";
import { requireFits, wireForMm } from "../plans/fits";
import type { RigSurroundings } from "./around";
import type { RigEvaluation, RigNote, Show } from "./evaluation";
import { travelMisfits } from "./frame/travel";
import type { Rig } from "./kinds";
import type { RigRecord } from "./record";

/** Kerfs that differ by more than this do not fit the same template, mm. */
const KERF_MM = 0.05;

/** A frame's wire may be so much longer or shorter than the cutter's: rollers and hooks take some of it (this project's judgement). */
const WIRE_APART = { share: 0.1, leastMm: 20 } as const;

/** Where a rig, its cutter and its plan do not fit each other. */
function fitNotes(record: RigRecord<Rig>, rig: Rig, around: RigSurroundings, show: Show): RigNote[] {
  const { cutter, plan } = around;
  const notes: RigNote[] = [];
  const onWire = record.onWire?.(rig, around) ?? null;
  if (cutter && onWire) {
    const live = liveMm(cutter.design);
    const most = Math.floor(live - (wireForMm(live) - live));
    if (onWire.mm > live)
      notes.push({
        code: "short-wire",
        severity: "danger",
        words: `The foam is ${show("length", onWire.mm)} along the wire, and ${cutter.design.name} has ${show("length", live)} of hot wire. It cannot be cut. Use a longer wire, another cutter, or narrower foam.`,
        basis: "published",
        ...(onWire.field
          ? { field: onWire.field, ...(most > 0 ? { cure: { words: `Take foam ${show("length", most)} wide`, change: { [onWire.field]: most } } } : {}) }
          : {}),
      });
  }
  for (const misfit of plan?.evaluation.misfits ?? [])
    notes.push({ code: `plan-${misfit.code}`, severity: "danger", words: `${misfit.words} Open the plan to put it right.`, basis: "published" });
  if (rig.kind === "frame" && plan)
    for (const { code, axis, words, cures } of travelMisfits(rig, plan.plan, plan.evaluation)) {
      const [cure] = cures;
      notes.push({
        code: `${code}-${axis}`,
        severity: "danger",
        words,
        basis: "published",
        ...(cure?.rig ? { cure: { words: cure.words, change: cure.rig } } : {}),
        ...(cure?.plan ? { planCure: { words: cure.words, plan: cure.plan } } : {}),
      });
    }
  if (cutter && rig.kind === "frame") {
    const wireMm = cutter.design.wire.length_mm;
    if (Math.abs(wireMm - rig.apart_mm) > Math.max(WIRE_APART.leastMm, WIRE_APART.share * rig.apart_mm))
      notes.push({
        code: "wire-apart",
        severity: "caution",
        words: `The carriages are ${show("length", rig.apart_mm)} apart, and ${cutter.design.name} has ${show("length", wireMm)} of wire between its posts: volts, pull and bow are worked out for that wire, not for this frame's.`,
        basis: "published",
        field: "apart_mm",
        cure: {
          words: `Set the carriages ${show("length", wireMm)} apart`,
          change: { apart_mm: wireMm, toBlock_mm: Math.max(0, Math.min(rig.toBlock_mm, Math.floor((wireMm - (plan?.plan.part.span_mm ?? 0)) / 2))) },
        },
      });
  }
  const planned = plan?.evaluation.cutter;
  if (cutter && planned && planned.name !== cutter.design.name && plan && Math.abs(plan.evaluation.root.kerfMm - around.cut.kerfMm) > KERF_MM)
    notes.push({
      code: "other-cutter",
      severity: "caution",
      words: `The plan's templates are made for ${planned.name}, with a kerf of ${show("kerf", plan.evaluation.root.kerfMm)}. ${cutter.design.name} cuts ${show("kerf", around.cut.kerfMm)} at ${show("feed", around.cut.feedMmS)}. Name one cutter in both.`,
      basis: "estimate",
    });
  return notes;
}

/**
 * A rig worked out among its cutter and its plan, with what does not fit between them.
 * @throws CoreError as the record's own `solve` does
 */
export function solveRig(record: RigRecord<Rig>, rig: Rig, around: RigSurroundings, show: Show): RigEvaluation {
  const evaluation = record.solve(rig, around, show);
  return { ...evaluation, notes: [...fitNotes(record, rig, around, show), ...evaluation.notes] };
}

/** Refuses to print or run what cannot be cut. @throws CoreError `conflict` */
export function requireRigFits(record: RigRecord<Rig>, rig: Rig, around: RigSurroundings, show: Show): void {
  if (around.plan) requireFits(around.plan.evaluation);
  const danger = fitNotes(record, rig, around, show).find(({ severity }) => severity === "danger");
  if (danger) throw new CoreError("conflict", danger.field ?? "", danger.words);
}
