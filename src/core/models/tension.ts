import { CoreError, type Warning } from "../errors";
import { proofStressPa, youngPa } from "../materials/strength";
import type { Relation } from "../provenance";
import { massKgPerM, type Wire } from "./wire";

export const PITCH: Relation = {
  id: "pitch",
  title: "Pitch of the plucked wire",
  formula: "f = sqrt((T + pi^2 E I/L^2)/mu)/(2 L)",
  words: "A tighter, lighter or shorter wire sings higher; its own stiffness adds a little.",
  range: "pinned ends, small swing, wire thin against its length",
  standing: "published",
  source: "vibration of a stiff string (Rayleigh, Theory of Sound)",
};

export const HOT_TENSION: Relation = {
  id: "hot-tension",
  title: "Tension hot and cold",
  formula: "T_hot = T_cold - alpha L dT / (1/k + L/(E A))",
  words: "The wire grows as it heats; a soft spring hardly notices, a rigid frame lets it go slack.",
  range: "elastic wire, modulus at room temperature, device linear over the growth",
  standing: "published",
  source: "thermal expansion and Hooke's law; modulus and expansion per alloy",
};

/** Half the proof stress at working temperature: this project's working limit. */
const WORKING_SHARE = 0.5;

export type TensionDeviceModel = { kind: "spring"; rateNPerM: number } | { kind: "weight" } | { kind: "rigid" };

/** Bending stiffness of the strands, each for itself, N m2. */
function bendingStiffness(wire: Wire): number {
  return (youngPa(wire.alloy.id) * wire.strands * Math.PI * wire.diameterM ** 4) / 64;
}

/** Pitch of a plucked wire, Hz. See {@link PITCH}. @param tensionN >= 0 */
export function pitchHz(wire: Wire, spanM: number, tensionN: number): number {
  return Math.sqrt((tensionN + (Math.PI ** 2 * bendingStiffness(wire)) / spanM ** 2) / massKgPerM(wire)) / (2 * spanM);
}

/** Tension that gives a pitch, N. @throws CoreError `out-of-range` for a pitch below the slack wire's own */
export function tensionFromPitch(wire: Wire, spanM: number, frequencyHz: number): number {
  const tension = (2 * spanM * frequencyHz) ** 2 * massKgPerM(wire) - (Math.PI ** 2 * bendingStiffness(wire)) / spanM ** 2;
  if (tension < 0) {
    throw new CoreError(
      "out-of-range",
      "frequency_Hz",
      `frequency_Hz must be at least ${pitchHz(wire, spanM, 0).toPrecision(3)} Hz: the slack wire's own stiffness sings that high`,
    );
  }
  return tension;
}

/** Working limit of tension at a temperature, N: half the proof stress. */
export function allowableN(wire: Wire, wireC: number): { newtons: number; warnings: Warning[] } {
  const proof = proofStressPa(wire.alloy.id, wire.temper, wireC);
  const warnings: Warning[] = proof.annealedTaken
    ? [{ code: "annealed-strength-taken", message: `${wire.alloy.name} is not tabled in spring temper: its annealed strength is taken` }]
    : [];
  return { newtons: WORKING_SHARE * proof.pa * wire.metalAreaM2, warnings };
}

/** Pitch at which the wire yields however hard it is pulled, Hz: sqrt(proof/density)/2L. */
export function yieldPitchHz(wire: Wire, spanM: number, wireC: number): number {
  return Math.sqrt(proofStressPa(wire.alloy.id, wire.temper, wireC).pa / wire.alloy.densityKgM3) / (2 * spanM);
}

export interface TensionAnswer {
  coldN: number;
  hotN: number;
  growthM: number;
  allowableN: number;
  pitchColdHz: number;
  pitchHotHz: number;
  yieldPitchHz: number;
  warnings: Warning[];
}

/** Tension cold and hot from either, for a device. See {@link HOT_TENSION}. */
export function solveTension(input: {
  wire: Wire;
  spanM: number;
  hotC: number;
  ambientC: number;
  set: { coldN: number } | { hotN: number };
  device: TensionDeviceModel;
}): TensionAnswer {
  const { wire, spanM, hotC, ambientC, set, device } = input;
  const growthM = wire.alloy.expansionPerK * spanM * (hotC - ambientC);
  const wireFlexibility = spanM / (youngPa(wire.alloy.id) * wire.metalAreaM2);
  const stiffness = device.kind === "weight" ? 0 : 1 / (wireFlexibility + (device.kind === "spring" ? 1 / device.rateNPerM : 0));
  const lost = stiffness * growthM;
  const coldN = "coldN" in set ? set.coldN : set.hotN + lost;
  const free = coldN - lost;
  const hotN = Math.max(0, free);
  const limit = allowableN(wire, hotC);
  const warnings = [...limit.warnings];
  if (free < 0) warnings.push({ code: "slack-when-hot", message: `the wire grows ${(growthM * 1000).toFixed(1)} mm and hangs slack when hot` });
  if (hotN > limit.newtons)
    warnings.push({
      code: "over-hot-strength",
      message: `hot tension ${hotN.toFixed(1)} N is above the working limit of ${limit.newtons.toFixed(1)} N at ${hotC.toFixed(0)} degC: the wire creeps and breaks`,
    });
  const coldLimit = proofStressPa(wire.alloy.id, wire.temper, ambientC).pa * wire.metalAreaM2;
  if (coldN > coldLimit)
    warnings.push({
      code: "yields-cold",
      message: `cold tension ${coldN.toFixed(1)} N is above the wire's proof load of ${coldLimit.toFixed(1)} N: it yields before it is ever hot`,
    });
  return {
    coldN,
    hotN,
    growthM,
    allowableN: limit.newtons,
    pitchColdHz: pitchHz(wire, spanM, coldN),
    pitchHotHz: pitchHz(wire, spanM, hotN),
    yieldPitchHz: yieldPitchHz(wire, spanM, ambientC),
    warnings,
  };
}
