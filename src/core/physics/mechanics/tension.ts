import { CoreError, type Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { FRAMING, type FramingId, type MemberSection, sectionProperties } from "../../materials/framing";
import { type Strength, strengthAt, youngPa } from "../../materials/strength";
import { massKgPerM, type Wire } from "../heat/wire";

export const PITCH: Relation = {
  id: "pitch",
  title: "Pitch of the plucked wire",
  formula: "f = sqrt((T + pi^2 E I/L^2)/mu)/(2 L)",
  words: "A tighter, lighter or shorter wire sings higher; its own stiffness adds a little.",
  range: "pinned ends, small swing, wire thin against its length",
  basis: "published",
  source: "vibration of a stiff string (Rayleigh, Theory of Sound)",
};

export const HOT_TENSION: Relation = {
  id: "hot-tension",
  title: "Tension hot and cold",
  formula: "T_hot = T_cold - alpha L dT / (1/k + L/(E A))",
  words: "The wire grows as it heats; a soft spring hardly notices, a rigid frame lets it go slack.",
  range: "elastic wire, modulus at room temperature, device linear over the growth",
  basis: "published",
  source: "thermal expansion and Hooke's law; modulus and expansion per alloy",
};

/** Share of the ultimate strength hot that is recommended at most. */
const RECOMMENDED_OF_ULTIMATE = 0.4;
/** Share of the ultimate strength hot above which a wire creeps and breaks. */
const BREAKS_OF_ULTIMATE = 0.6;

export const STRENGTH_LIMITS: Relation = {
  id: "strength-limits",
  title: "What pull a hot wire stands",
  formula: "recommended: the lesser of proof stress and 0.4 of ultimate strength, hot; past proof it takes a set; past 0.6 of ultimate it creeps and breaks",
  words:
    "Past its proof stress a wire takes a set once and hardens by it: tension it again and it holds. Past six tenths of its strength hot it goes on stretching until it parts.",
  range: "steady pull, strengths held at the ends of their tables",
  basis: "common practice",
  source:
    "people work annealed 0.64 mm stainless at 67 N and nickel-chromium at 90 to 110 N for years (common practice); the shares are this project's judgement, strengths from memory of metals handbooks",
};

export const ARM_RATE: Relation = {
  id: "arm-rate",
  title: "Rate of a flexed arm",
  formula: "k = 3 E I/l^3 for one arm; two arms in a row give half",
  words: "A longer or thinner arm is softer, with the cube of length and depth: soft arms hold their tension as the wire grows.",
  range: "straight cantilever, bend below a fifth of its length",
  basis: "published",
  source: "cantilever with an end load, beam theory; moduli from memory of handbooks",
};

/** Share of its pull a stretched rubber band keeps after an hour or so (estimate; it goes on fading, faster near heat). */
export const BAND_RETENTION = 0.85;

export type TensionDeviceModel = { kind: "spring" | "arm" | "band"; rateNPerM: number } | { kind: "weight" } | { kind: "rigid" };

/** Rate (N/m) at the wire of flexed arms, each a cantilever of a length and section. See {@link ARM_RATE}. */
export function armRateNPerM(arm: { material: FramingId; section: MemberSection; lengthM: number; arms: 1 | 2 }): number {
  const one = (3 * FRAMING[arm.material].youngPa * sectionProperties(arm.section).inertiaM4) / arm.lengthM ** 3;
  return one / arm.arms;
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
  const own = (Math.PI ** 2 * bendingStiffness(wire)) / spanM ** 2;
  const tension = (2 * spanM * frequencyHz) ** 2 * massKgPerM(wire) - own;
  // The slack wire's own pitch is that of no pull at all, whichever way it was rounded.
  if (tension < -1e-9 * own) {
    throw new CoreError(
      "out-of-range",
      "frequency_Hz",
      `frequency_Hz must be at least ${pitchHz(wire, spanM, 0).toPrecision(3)} Hz: the slack wire's own stiffness sings that high`,
    );
  }
  return Math.max(0, tension);
}

/** What a wire is at a temperature, N. See {@link STRENGTH_LIMITS}. */
export interface PullLimits {
  /** Best not passed: the lesser of proof and 0.4 of ultimate. */
  recommendedN: number;
  /** Above it the wire takes a set once. */
  setN: number;
  /** Above it the wire creeps and breaks. */
  creepsN: number;
  /** Pull that breaks it at once. */
  breaksN: number;
}

const strengthOf = (wire: Wire, wireC: number): Strength => strengthAt({ alloyId: wire.alloy.id, temper: wire.temper, breakingPa: wire.breakingPa }, wireC);

/** What a wire is at a temperature. See {@link STRENGTH_LIMITS}. */
export function pullLimits(wire: Wire, wireC: number): PullLimits {
  const { proofPa, ultimatePa } = strengthOf(wire, wireC);
  const area = wire.metalAreaM2;
  return {
    recommendedN: Math.min(proofPa, RECOMMENDED_OF_ULTIMATE * ultimatePa) * area,
    setN: proofPa * area,
    creepsN: BREAKS_OF_ULTIMATE * ultimatePa * area,
    breaksN: ultimatePa * area,
  };
}

/** Warnings about where a wire's strengths come from. */
function strengthWarnings(wire: Wire, wireC: number): Warning[] {
  return strengthOf(wire, wireC).annealedTaken
    ? [{ code: "annealed-strength-taken", message: `${wire.alloy.name} is not tabled in spring temper: its annealed strength is taken` }]
    : [];
}

/** Pitch at which the wire yields however hard it is pulled, Hz: sqrt(proof/density)/2L. */
export function yieldPitchHz(wire: Wire, spanM: number, wireC: number): number {
  return Math.sqrt(strengthOf(wire, wireC).proofPa / wire.alloy.densityKgM3) / (2 * spanM);
}

export interface TensionResult {
  coldN: number;
  hotN: number;
  growthM: number;
  /** What the wire withstands hot, and at room temperature. */
  hotLimits: PullLimits;
  coldLimits: PullLimits;
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
}): TensionResult {
  const { wire, spanM, hotC, ambientC, set, device } = input;
  const growthM = wire.alloy.expansionPerK * spanM * (hotC - ambientC);
  const wireFlexibility = 1 / wireStiffnessNPerM(wire, spanM);
  const stiffness = device.kind === "weight" ? 0 : 1 / (wireFlexibility + ("rateNPerM" in device ? 1 / device.rateNPerM : 0));
  const lost = stiffness * growthM;
  const coldN = "coldN" in set ? set.coldN : set.hotN + lost;
  const free = coldN - lost;
  const hotN = Math.max(0, free);
  const hotLimits = pullLimits(wire, hotC);
  const coldLimits = pullLimits(wire, ambientC);
  const warnings = strengthWarnings(wire, hotC);
  const newtons = (n: number) => `${n.toFixed(1)} N`;
  if (free < 0) warnings.push({ code: "slack-when-hot", message: `the wire grows ${(growthM * 1000).toFixed(1)} mm and hangs slack when hot` });
  if (hotN > hotLimits.creepsN)
    warnings.push({
      code: "breaks-hot",
      message: `hot tension ${newtons(hotN)} is above six tenths of what this wire breaks at (${newtons(hotLimits.creepsN)}) at ${hotC.toFixed(0)} degC: it creeps and breaks`,
    });
  else if (hotN > hotLimits.setN)
    warnings.push({
      code: "takes-a-set",
      message: `hot tension ${newtons(hotN)} is above the proof load of ${newtons(hotLimits.setN)} at ${hotC.toFixed(0)} degC: the wire takes a set once and hardens by it; tension it again`,
    });
  if (device.kind === "band")
    warnings.push({
      code: "band-fades",
      message: `a rubber band fades to about ${Math.round(BAND_RETENTION * 100)} % within an hour and perishes near heat (estimate): for hair-thin wire only`,
    });
  if (coldN > coldLimits.breaksN)
    warnings.push({ code: "breaks-cold", message: `cold tension ${newtons(coldN)} is above the ${newtons(coldLimits.breaksN)} at which this wire breaks` });
  else if (coldN > coldLimits.setN)
    warnings.push({
      code: "yields-cold",
      message: `cold tension ${newtons(coldN)} is above the wire's proof load of ${newtons(coldLimits.setN)}: it takes a set before it is ever hot`,
    });
  return {
    coldN,
    hotN,
    growthM,
    hotLimits,
    coldLimits,
    travelM: device.kind === "weight" ? growthM : "rateNPerM" in device ? (coldN - hotN) / device.rateNPerM : 0,
    pitchColdHz: pitchHz(wire, spanM, coldN),
    pitchHotHz: pitchHz(wire, spanM, hotN),
    yieldPitchHz: yieldPitchHz(wire, spanM, ambientC),
    warnings,
  };
}

export const STRUNG: Relation = {
  id: "strung",
  title: "Pull of a bent arm, or of a frame strung short",
  formula: "T = k s; s = l sin(bend) for an arm bent back and drawn straight; T = s/(1/k + L/(E A)) where the wire is shorter than its gap by s",
  words: "An arm pulls by how far it is drawn from its rest; a frame strung with a short wire shares that shortness between itself and the wire's own stretch.",
  range: "linear give; bend below about 20 degrees",
  basis: "published",
  source: "Hooke's law; cantilever drawn back through the angle it was bent by; common practice bends an arm to about 80 degrees and pulls it to 90",
};

/** How a frame or arm is strung, cold. */
export type Strung =
  /** Its end drawn this far from where it rests, m. */
  | { drawnM: number }
  /** The wire this much shorter than the gap it goes into, m. */
  | { shortM: number }
  /** An arm of a length bent back by an angle and drawn straight again. */
  | { armM: number; bendDeg: number };

/** Cold pull (N) of an arm or frame of a rate, by how it is strung. See {@link STRUNG}. @param rateNPerM give at the wire, N/m, > 0 */
export function strungN(strung: Strung, rateNPerM: number, wire: Wire, spanM: number): { coldN: number; drawnM: number } {
  if ("shortM" in strung) {
    const coldN = strung.shortM / (1 / rateNPerM + 1 / wireStiffnessNPerM(wire, spanM));
    return { coldN, drawnM: coldN / rateNPerM };
  }
  const drawnM = "drawnM" in strung ? strung.drawnM : strung.armM * Math.sin((strung.bendDeg * Math.PI) / 180);
  return { coldN: rateNPerM * drawnM, drawnM };
}
