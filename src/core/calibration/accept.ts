import type { AcceptedCalibration, Design } from "../cutters/design/schema";
import { calibrationOf, evaluateDesign } from "../cutters/solve/evaluate";
import { foamNamed } from "../materials/foams";
import { toDigits } from "../numerics/round";
import type { Calibration } from "./fit";

const tidy = (value: number) => toDigits(value, 6);

/** A fit as a design keeps it. @param at ISO date and time of the acceptance */
export function acceptedFrom(fit: Calibration, foam: Design["job"]["foam"], cuts: number, at: string): AcceptedCalibration {
  return {
    foam: foamNamed(foam),
    at,
    cuts,
    heatShare: tidy(fit.learnt.heatShare),
    collapseShift_K: tidy(fit.learnt.collapseShiftK),
    densityShare: tidy(fit.learnt.densityShare),
    dragShare: tidy(fit.learnt.dragShare),
    clearanceShare: tidy(fit.learnt.clearanceShare),
    extra_ohm: tidy(fit.learnt.extraOhm),
    factor: fit.factor.map(tidy),
  };
}

/** The design with a calibration for its foam in place of any it had; with null, without one. */
export function withCalibration(design: Design, accepted: AcceptedCalibration | null): Design {
  const basis = calibrationOf(design);
  const others = (design.calibrations ?? []).filter((each) => each !== basis);
  const calibrations = accepted ? [...others, accepted] : others;
  return { ...design, calibrations: calibrations.length > 0 ? calibrations : undefined };
}

/** A figure of the design before and after; canonical unit of its quantity. */
export interface MovedFigure {
  id: "kerf" | "topFeed" | "bow" | "heat" | "current" | "cleanFrom" | "cleanTo";
  label: string;
  quantity: "kerf" | "feed" | "heat" | "current";
  before: number;
  after: number;
}

/** Which of the design's figures a calibration moves, and how far. */
export function movedFigures(before: Design, after: Design): MovedFigure[] {
  const read = (design: Design) => {
    const evaluation = evaluateDesign(design);
    return {
      kerf: evaluation.cut.kerfM * 1000,
      topFeed: evaluation.cut.maxFeedMPerS * 1000,
      bow: (evaluation.lagM ?? Number.NaN) * 1000,
      heat: evaluation.cut.powerWPerM,
      current: evaluation.circuit.currentA,
      cleanFrom: evaluation.heats.from,
      cleanTo: evaluation.heats.to,
    };
  };
  const [a, b] = [read(before), read(after)];
  const row = (id: MovedFigure["id"], label: string, quantity: MovedFigure["quantity"]): MovedFigure => ({ id, label, quantity, before: a[id], after: b[id] });
  return [
    row("kerf", "kerf", "kerf"),
    row("topFeed", "top feed", "feed"),
    row("bow", "bow in the cut", "kerf"),
    row("heat", "heat in the cut", "heat"),
    row("current", "current", "current"),
    row("cleanFrom", "clean from", "heat"),
    row("cleanTo", "clean up to", "heat"),
  ].filter((figure) => Number.isFinite(figure.before) && Number.isFinite(figure.after));
}
