import { AWG_RANGE, awgDiameterMm, SWG_RANGE, swgDiameterMm } from "./gauges";
import { formatQuantity, QUANTITIES, type Quantity, type UnitSystem, unitOf } from "./units";

export type ParsedQuantity = { ok: true; value: number; gauge?: { awg?: number; swg?: number } } | { ok: false; message: string };

/** Whole, decimal (point or comma), fraction "3/4" or mixed "1 1/2" number at the start of a text. */
const NUMBER = /^([+-]?)(?:(\d+)\s+(\d+)\/(\d+)|(\d+)\/(\d+)|(\d*[.,]?\d+|\d+[.,])(e[+-]?\d+)?)/i;

function readNumber(text: string): { value: number; rest: string } | undefined {
  const match = NUMBER.exec(text);
  if (!match) return undefined;
  const [whole, sign, mixed, mixedOver, mixedUnder, over, under, decimal, exponent] = match;
  let value: number;
  if (mixed !== undefined) value = Number(mixed) + Number(mixedOver) / Number(mixedUnder);
  else if (over !== undefined) value = Number(over) / Number(under);
  else value = Number((decimal as string).replace(",", ".") + (exponent ?? ""));
  if (!Number.isFinite(value)) return undefined;
  return { value: sign === "-" ? -value : value, rest: text.slice(whole.length).trim() };
}

function readGauge(text: string): ParsedQuantity | undefined {
  const match = /^(?:(awg|swg)\s*#?\s*(\d+)|#?(\d+)\s*(awg|swg|ga|gauge))$/.exec(text);
  if (!match) return undefined;
  const number = Number(match[2] ?? match[3]);
  const system = match[1] ?? match[4];
  if (system === "swg") {
    if (number > SWG_RANGE.max) return { ok: false, message: `standard wire gauge runs from ${SWG_RANGE.min} to ${SWG_RANGE.max}` };
    return { ok: true, value: swgDiameterMm(number), gauge: { swg: number } };
  }
  if (number > AWG_RANGE.max) return { ok: false, message: `American wire gauge runs from ${AWG_RANGE.min} to ${AWG_RANGE.max}` };
  return { ok: true, value: awgDiameterMm(number), gauge: { awg: number } };
}

/**
 * Reads what a person typed as a quantity. A bare number is taken in the system's own unit.
 * @param range in the canonical unit (mm, mm/s, kg/m3, N, degC, W/m, V, A, ohm, %, m for leads)
 * @returns the canonical value, or words that name the allowed range in the system's unit
 * @example parseQuantity("diameter", "24 awg", "metric") // { ok: true, value: 0.5106, gauge: { awg: 24 } }
 */
export function parseQuantity(quantity: Quantity, text: string, system: UnitSystem, range?: { min: number; max: number }): ParsedQuantity {
  const clean = text.trim().toLowerCase();
  const { label, units } = QUANTITIES[quantity];
  if (clean === "") return { ok: false, message: `type a ${label}, such as ${example(quantity, system)}` };
  const gauge = quantity === "diameter" ? readGauge(clean) : undefined;
  let parsed: ParsedQuantity;
  if (gauge) parsed = gauge;
  else {
    const number = readNumber(clean);
    if (!number) return { ok: false, message: `"${text.trim()}" is not a ${label}: type a number and a unit, such as ${example(quantity, system)}` };
    const name = number.rest.replaceAll(/\s+/g, "").replace(/\.$/, "");
    const unit = name === "" ? unitOf(quantity, system) : units.find((candidate) => candidate.spellings.includes(name));
    if (!unit) {
      return { ok: false, message: `"${number.rest}" is not a unit of ${label}: use ${units.map((candidate) => candidate.symbol).join(", ")}` };
    }
    parsed = { ok: true, value: unit.toCanonical(number.value) };
  }
  if (!parsed.ok) return parsed;
  const slack = 1e-9;
  if (
    !Number.isFinite(parsed.value) ||
    (range && !(parsed.value >= range.min * (1 - Math.sign(range.min) * slack) && parsed.value <= range.max * (1 + slack)))
  ) {
    if (!range) return { ok: false, message: `that ${label} is not a finite number` };
    // A reciprocal unit turns the ends round.
    const ends = [range.min, range.max].sort((a, b) => unitOf(quantity, system).fromCanonical(a) - unitOf(quantity, system).fromCanonical(b));
    const words = ends.map((end) => shortQuantity(quantity, end, system));
    return { ok: false, message: `${label} must be from ${words[0]} to ${words[1]}` };
  }
  return parsed;
}

/** A limit in at most three digits: "0.05 mm/s", "508 s/in". */
function shortQuantity(quantity: Quantity, canonical: number, system: UnitSystem): string {
  const unit = unitOf(quantity, system);
  return `${Number(unit.fromCanonical(canonical).toPrecision(3))} ${unit.symbol}`;
}

function example(quantity: Quantity, system: UnitSystem): string {
  const canonical: Partial<Record<Quantity, number>> = {
    length: 600,
    diameter: 0.511,
    feed: 6,
    density: 20,
    force: 60,
    temperature: 20,
    duty: 34,
    voltage: 19,
    current: 4.7,
  };
  return `"${formatQuantity(quantity, canonical[quantity] ?? 1, system)}"`;
}
