import type { Relation } from "../../kernel/provenance";

export const STEP_RELATION: Relation = {
  id: "steps",
  title: "Steps a millimetre",
  formula: "steps per turn x microsteps/travel per turn; corrected: set x asked/measured",
  words: "A motor makes so many steps a turn, a belt or screw so many millimetres: what was really measured corrects what was computed.",
  range: "no steps lost, no slip",
  basis: "published",
  source: "arithmetic of a geared drive",
};

/** @param travelPerTurnMm of the belt or the screw in one turn of the motor */
export const stepsPerMm = (stepsPerTurn: number, microsteps: number, travelPerTurnMm: number): number => (stepsPerTurn * microsteps) / travelPerTurnMm;

/** Corrected by a measurement: what was asked for over what came. */
export const correctedSteps = (setPerMm: number, requestedMm: number, measuredMm: number): number => (setPerMm * requestedMm) / measuredMm;

export const MOVE_TIME: Relation = {
  id: "move-time",
  title: "Time of a move with a stop at both ends",
  formula: "d/v + v/A if d > v^2/A, else 2 sqrt(d/A)",
  words: "A carriage gains speed, runs, and loses it again: short moves never reach the speed that was asked for.",
  range: "even acceleration",
  basis: "published",
  source: "kinematics of even acceleration",
};

/** Seconds for a move from rest to rest. @param distanceMm any sign. See {@link MOVE_TIME} */
export function moveTimeS(distanceMm: number, feedMmS: number, accelerationMmS2: number): number {
  const d = Math.abs(distanceMm);
  return d > feedMmS ** 2 / accelerationMmS2 ? d / feedMmS + feedMmS / accelerationMmS2 : 2 * Math.sqrt(d / accelerationMmS2);
}
