import { ZERO_CELSIUS_K } from "../constants";
import { CoreError, type Warning } from "../errors";
import { FRAMING, type FramingId, type Section, sectionProperties } from "../materials/framing";
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
export const WORKING_SHARE = 0.5;

export const CREEP: Relation = {
  id: "creep",
  title: "Creep of a hot wire under load",
  formula: "hotter than 0.4 of melting (kelvin) and pulled to more than a quarter of its hot proof stress",
  words: "A metal that hot goes on stretching under a steady pull: the tension fades and the wire thins.",
  range: "hours of work; short cuts matter less",
  standing: "common practice",
  source: "rule of thumb of materials handbooks: creep matters above about 0.4 of the melting temperature in kelvin; the quarter is this project's judgement",
};

export const ARM_RATE: Relation = {
  id: "arm-rate",
  title: "Rate of a flexed arm",
  formula: "k = 3 E I/l^3 for one arm; two arms in a row give half",
  words: "A longer or thinner arm is softer, with the cube of length and depth: soft arms hold their tension as the wire grows.",
  range: "straight cantilever, bend below a fifth of its length",
  standing: "published",
  source: "cantilever with an end load, beam theory; moduli from memory of handbooks",
};

/** Share of its pull a stretched rubber band keeps after an hour or so (estimate; it goes on fading, faster near heat). */
export const BAND_KEEPS = 0.85;

export type TensionDeviceModel = { kind: "spring" | "arm" | "band"; rateNPerM: number } | { kind: "weight" } | { kind: "rigid" };

/** Rate (N/m) at the wire of flexed arms, each a cantilever of a length and section. See {@link ARM_RATE}. */
export function armRateNPerM(arm: { material: FramingId; section: Section; lengthM: number; arms: 1 | 2 }): number {
  const one = (3 * FRAMING[arm.material].youngPa * sectionProperties(arm.section).inertiaM4) / arm.lengthM ** 3;
  return one / arm.arms;
}

/** True where a wire under this hot tension creeps. See {@link CREEP}. */
export function creeps(wire: Wire, wireC: number, hotN: number): boolean {
  const homologous = (wireC + ZERO_CELSIUS_K) / (wire.alloy.meltsC + ZERO_CELSIUS_K);
  return homologous > 0.4 && hotN > 0.25 * proofStressPa(wire.alloy.id, wire.temper, wireC).pa * wire.metalAreaM2;
}

/** Stiffness of the wire stretched along itself, N/m. */
export function wireStiffnessNPerM(wire: Wire, spanM: number): number {
  return (youngPa(wire.alloy.id) * wire.metalAreaM2) / spanM;
}

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
  /** How much the device gives as the wire warms, m. */
  travelM: number;
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
  const wireFlexibility = 1 / wireStiffnessNPerM(wire, spanM);
  const stiffness = device.kind === "weight" ? 0 : 1 / (wireFlexibility + ("rateNPerM" in device ? 1 / device.rateNPerM : 0));
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
  if (hotN <= limit.newtons && creeps(wire, hotC, hotN))
    warnings.push({
      code: "creeps",
      message: `at ${hotC.toFixed(0)} degC under ${hotN.toFixed(1)} N the wire goes on stretching: tension fades, re-tension or run cooler`,
    });
  if (device.kind === "band")
    warnings.push({
      code: "band-fades",
      message: `a rubber band fades to about ${Math.round(BAND_KEEPS * 100)} % within an hour and perishes near heat (estimate): for hair-thin wire only`,
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
    travelM: device.kind === "weight" ? growthM : "rateNPerM" in device ? (coldN - hotN) / device.rateNPerM : 0,
    pitchColdHz: pitchHz(wire, spanM, coldN),
    pitchHotHz: pitchHz(wire, spanM, hotN),
    yieldPitchHz: yieldPitchHz(wire, spanM, ambientC),
    warnings,
  };
}
