import type { Relation } from "../../kernel/provenance";
import { awgDiameterMm } from "../../units/gauges";

/** Copper: resistivity at 20 degC (ohm m) and its rise per kelvin. */
export const COPPER = { resistivityOhmM: 0.0172e-6, perKelvin: 0.00393 } as const;

export interface Leads {
  gauge_awg: number;
  /** One way, supply to wire; the current goes there and back. */
  oneWay_m: number;
  /** All joints together. */
  joint_ohm?: number | undefined;
}

export const LEAD_RESISTANCE: Relation = {
  id: "leads",
  title: "Ohms of the leads",
  formula: "R = 2 l rho (1 + 0.00393 (T - 20))/A + joints",
  words: "There and back again through copper, which resists more as it warms.",
  range: "copper leads in free air",
  basis: "from memory",
  source: "copper 0.0172 uohm m at 20 degC, 0.00393 per kelvin (IEC 60028 gives 0.017241 and 0.00393)",
};

export const LEAD_HEAT: Relation = {
  id: "lead-heat",
  title: "How warm leads and joints get",
  formula: "dT = I^2 R'_room/(h pi D - 0.00393 I^2 R'_20); joint: I^2 R_joint/4 over 0.02 W/K more",
  words: "The copper's own loss leaves through its insulation; a poor joint makes its heat in one small place.",
  range: "single lead in free air, insulation 0.8 mm thick, four joints alike",
  basis: "estimate",
  source: "steady heat balance; film of 10 W/m2K over the insulation and 0.02 W/K from a joint are this project's estimates",
};

const INSULATION_M = 0.0008;
const FILM_W_PER_M2K = 10;
const JOINTS = 4;
const JOINT_W_PER_K = 0.02;
/** A lead that cannot settle is reported as this much above the room: its insulation is long gone. */
const MOST_RISE_K = 500;
/** Copper only warms, so the largest figure a joint is reported at. */
const COPPER_MELTS_C = 1085;

const diameterOf = (leads: Leads) => awgDiameterMm(leads.gauge_awg) / 1000;

/** Ohms per metre of one conductor at 20 degC. */
function perM20(leads: Leads): number {
  return COPPER.resistivityOhmM / ((Math.PI * diameterOf(leads) ** 2) / 4);
}

/** Rise of the copper above the room at a current, K. See {@link LEAD_HEAT}. */
function riseK(leads: Leads, currentA: number, ambientC: number): number {
  const heat20 = currentA * currentA * perM20(leads);
  const carriedPerK = FILM_W_PER_M2K * Math.PI * (diameterOf(leads) + 2 * INSULATION_M) - heat20 * COPPER.perKelvin;
  const rise = (heat20 * (1 + COPPER.perKelvin * (ambientC - 20))) / carriedPerK;
  return carriedPerK <= 0 || rise > MOST_RISE_K ? MOST_RISE_K : rise;
}

/** Ohms of a pair of copper leads with their joints while they carry a current. See {@link LEAD_RESISTANCE}. */
export function leadsOhm(leads: Leads | undefined, ambientC: number, currentA = 0): number {
  if (!leads) return 0;
  const leadC = ambientC + riseK(leads, currentA, ambientC);
  return 2 * leads.oneWay_m * perM20(leads) * (1 + COPPER.perKelvin * (leadC - 20)) + (leads.joint_ohm ?? 0);
}

/** Temperatures of the copper and of each joint at a current, degC. See {@link LEAD_HEAT}. */
export function leadHeat(leads: Leads, currentA: number, ambientC: number): { leadC: number; jointC: number } {
  const leadC = ambientC + riseK(leads, currentA, ambientC);
  const jointW = (currentA * currentA * (leads.joint_ohm ?? 0)) / JOINTS;
  return { leadC, jointC: Math.min(COPPER_MELTS_C, leadC + jointW / JOINT_W_PER_K) };
}
