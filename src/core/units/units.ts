/** One switch for the whole app; values are stored in the canonical unit in either setting. */
export type UnitSystem = "metric" | "inch";

export type Quantity =
  | "length"
  | "diameter"
  | "kerf"
  | "feed"
  | "density"
  | "force"
  | "springRate"
  | "temperature"
  | "heat"
  | "voltage"
  | "current"
  | "resistance"
  | "resistancePerLength"
  | "duty"
  | "leadLength"
  | "angle"
  | "power"
  | "mass";

export interface Unit {
  /** How it is written after a number. */
  symbol: string;
  /** Other spellings people type, lower case without spaces. */
  spellings: readonly string[];
  toCanonical: (value: number) => number;
  fromCanonical: (value: number) => number;
}

const scaled = (symbol: string, factor: number, ...spellings: string[]): Unit => ({
  symbol,
  spellings: [symbol.toLowerCase().replaceAll(" ", ""), ...spellings],
  toCanonical: (value) => value * factor,
  fromCanonical: (value) => value / factor,
});

/** Time over distance: slow is a big number. */
const reciprocal = (symbol: string, factor: number, ...spellings: string[]): Unit => ({
  symbol,
  spellings: [symbol.toLowerCase(), ...spellings],
  toCanonical: (value) => factor / value,
  fromCanonical: (value) => factor / value,
});

const INCH = 25.4;
const POUND_FORCE = 4.4482216152605;
const POUND_PER_CUBIC_FOOT = 16.01846337396014;

const mm = scaled("mm", 1, "millimetre", "millimetres", "millimeters");
const cm = scaled("cm", 10);
const metre = scaled("m", 1000, "metre", "metres");
const inch = scaled("in", INCH, '"', "''", "inch", "inches", "″");
const foot = scaled("ft", 12 * INCH, "'", "foot", "feet");
const thou = scaled("thou", INCH / 1000, "mil", "mils");
const lengths = [mm, cm, metre, inch, foot, thou];

const celsius: Unit = {
  symbol: "°C",
  spellings: ["°c", "c", "degc", "celsius"],
  toCanonical: (value) => value,
  fromCanonical: (value) => value,
};
const fahrenheit: Unit = {
  symbol: "°F",
  spellings: ["°f", "f", "degf", "fahrenheit"],
  toCanonical: (value) => ((value - 32) * 5) / 9,
  fromCanonical: (value) => (value * 9) / 5 + 32,
};

interface QuantityUnits {
  /** Named in messages. */
  label: string;
  metric: Unit;
  inch: Unit;
  units: readonly Unit[];
  /** Decimals shown by system. */
  decimals: Record<UnitSystem, number>;
}

const same = (unit: Unit, label: string, decimals: number, ...others: Unit[]): QuantityUnits => ({
  label,
  metric: unit,
  inch: unit,
  units: [unit, ...others],
  decimals: { metric: decimals, inch: decimals },
});

/** Every quantity's units; the canonical one is what files and the core's named fields use. */
export const QUANTITIES: Readonly<Record<Quantity, QuantityUnits>> = {
  angle: same(scaled("°", 1, "deg", "degree", "degrees"), "angle", 1),
  power: same(scaled("W", 1, "watt", "watts"), "power", 0),
  length: { label: "length", metric: mm, inch, units: lengths, decimals: { metric: 0, inch: 2 } },
  diameter: { label: "diameter", metric: mm, inch, units: lengths, decimals: { metric: 3, inch: 4 } },
  kerf: { label: "kerf", metric: mm, inch, units: lengths, decimals: { metric: 2, inch: 3 } },
  feed: {
    label: "feed",
    metric: scaled("mm/s", 1, "mm/sec"),
    inch: reciprocal("s/in", INCH, "sec/in", 's/"', "secondsperinch", "s/inch"),
    units: [
      scaled("mm/s", 1, "mm/sec"),
      scaled("mm/min", 1 / 60),
      scaled("m/min", 1000 / 60),
      scaled("cm/s", 10),
      scaled("in/s", INCH, "ips"),
      scaled("in/min", INCH / 60, "ipm"),
      reciprocal("s/in", INCH, "sec/in", 's/"', "secondsperinch", "s/inch"),
      reciprocal("s/cm", 10),
      reciprocal("s/mm", 1),
    ],
    decimals: { metric: 1, inch: 1 },
  },
  density: {
    label: "density",
    metric: scaled("kg/m³", 1, "kg/m3", "g/l"),
    inch: scaled("lb/ft³", POUND_PER_CUBIC_FOOT, "lb/ft3", "pcf", "lb/cuft"),
    units: [scaled("kg/m³", 1, "kg/m3", "g/l"), scaled("lb/ft³", POUND_PER_CUBIC_FOOT, "lb/ft3", "pcf", "lb/cuft"), scaled("g/cm³", 1000, "g/cm3", "g/cc")],
    decimals: { metric: 0, inch: 2 },
  },
  force: {
    label: "force",
    metric: scaled("N", 1, "newton", "newtons"),
    inch: scaled("lbf", POUND_FORCE, "lb", "lbs", "pound", "pounds"),
    units: [
      scaled("N", 1, "newton", "newtons"),
      scaled("lbf", POUND_FORCE, "lb", "lbs", "pound", "pounds"),
      scaled("kgf", 9.80665, "kg", "kp"),
      scaled("gf", 0.00980665, "g", "gram"),
      scaled("ozf", POUND_FORCE / 16, "oz", "ounce", "ounces"),
    ],
    decimals: { metric: 0, inch: 1 },
  },
  springRate: {
    label: "spring rate",
    metric: scaled("N/mm", 1),
    inch: scaled("lbf/in", POUND_FORCE / INCH, "lb/in"),
    units: [scaled("N/mm", 1), scaled("N/m", 0.001), scaled("lbf/in", POUND_FORCE / INCH, "lb/in")],
    decimals: { metric: 2, inch: 1 },
  },
  temperature: { label: "temperature", metric: celsius, inch: fahrenheit, units: [celsius, fahrenheit], decimals: { metric: 0, inch: 0 } },
  heat: {
    label: "heat per length",
    metric: scaled("W/m", 1),
    inch: scaled("W/in", 1000 / INCH),
    units: [scaled("W/m", 1), scaled("W/cm", 100), scaled("W/in", 1000 / INCH), scaled("W/ft", 1000 / (12 * INCH))],
    decimals: { metric: 0, inch: 2 },
  },
  voltage: same(scaled("V", 1, "volt", "volts", "vdc"), "voltage", 1, scaled("mV", 0.001)),
  current: same(scaled("A", 1, "amp", "amps", "ampere", "amperes"), "current", 2, scaled("mA", 0.001)),
  resistance: same(scaled("ohm", 1, "ohms", "Ω", "ω", "r"), "resistance", 2, scaled("mohm", 0.001, "mΩ", "mω")),
  resistancePerLength: {
    label: "resistance per length",
    metric: scaled("ohm/m", 1, "Ω/m"),
    inch: scaled("ohm/ft", 1000 / (12 * INCH), "Ω/ft"),
    units: [scaled("ohm/m", 1, "ω/m"), scaled("ohm/ft", 1000 / (12 * INCH), "ω/ft"), scaled("ohm/in", 1000 / INCH, "ω/in")],
    decimals: { metric: 2, inch: 2 },
  },
  duty: same(scaled("%", 1, "percent"), "duty", 0),
  mass: {
    label: "mass",
    metric: scaled("g", 1, "gram", "grams"),
    inch: scaled("oz", 28.349523125, "ounce", "ounces"),
    units: [
      scaled("g", 1, "gram", "grams"),
      scaled("kg", 1000),
      scaled("oz", 28.349523125, "ounce", "ounces"),
      scaled("lb", 453.59237, "lbs", "pound", "pounds"),
    ],
    decimals: { metric: 0, inch: 1 },
  },
  leadLength: {
    label: "lead length",
    metric: scaled("m", 1, "metre", "metres"),
    inch: scaled("ft", 0.3048, "'", "foot", "feet"),
    units: [
      scaled("m", 1, "metre", "metres"),
      scaled("cm", 0.01),
      scaled("mm", 0.001),
      scaled("ft", 0.3048, "'", "foot", "feet"),
      scaled("in", 0.0254, '"', "inch"),
    ],
    decimals: { metric: 1, inch: 1 },
  },
};

/** The unit a system shows a quantity in. */
export function unitOf(quantity: Quantity, system: UnitSystem): Unit {
  return QUANTITIES[quantity][system];
}

/** A number in a system's unit, without the unit. */
export function formatNumber(quantity: Quantity, canonical: number, system: UnitSystem, decimals?: number): string {
  const value = unitOf(quantity, system).fromCanonical(canonical);
  const fixed = value.toFixed(decimals ?? QUANTITIES[quantity].decimals[system]);
  return fixed === "-0" ? "0" : fixed;
}

/**
 * A quantity in words: "6.0 mm/s", "4.2 s/in".
 * @example formatQuantity("feed", 6.35, "inch") // "4.0 s/in"
 */
export function formatQuantity(quantity: Quantity, canonical: number, system: UnitSystem, decimals?: number): string {
  return `${formatNumber(quantity, canonical, system, decimals)} ${unitOf(quantity, system).symbol}`;
}
