import { CoreError } from "../kernel/errors";
import { CELLS, type Chemistry } from "../materials/batteries";
import { commonByName } from "../physics/power/common";
import { LETHAL_SUPPLIES } from "../physics/power/lethal";
import type { Supply } from "../physics/power/supplies";
import { LIMITS } from "../units/limits";

export interface Plate {
  supply: Supply;
  /** What was taken from the label and what was assumed, in words. */
  notes: string[];
}

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
const read = (text: string | undefined) => (text === undefined ? undefined : Number(text.replace(",", ".")));

/** Mains of any country: a figure at or above this on a label is the input side. */
const MAINS_FROM_V = 90;

interface Found {
  volts: { value: number; ac: boolean; at: number }[];
  amps: number[];
  watts: number[];
  va: number[];
  ah: number[];
}

function find(text: string): Found {
  const all = (pattern: string) => [...text.matchAll(new RegExp(pattern, "gi"))];
  const scaled = (match: RegExpMatchArray) => (read(match[1]) as number) * (match[2]?.toLowerCase() === "m" ? 0.001 : 1);
  return {
    // "24 VAC", "24V~", "24 V AC" are alternating; "VA" is not a voltage.
    volts: all(String.raw`${NUMBER}\s*(?:volts?|v)(?!a(?!c))(?:\s*(ac|dc|~|⎓|=))?(?![a-z])`).map((match) => ({
      value: read(match[1]) as number,
      ac: /^(ac|~)$/i.test(match[2] ?? ""),
      at: match.index,
    })),
    amps: all(String.raw`${NUMBER}\s*(m)?a(?:mps?|mperes?)?(?![a-z])`).map(scaled),
    watts: all(String.raw`${NUMBER}\s*w(?:atts?)?(?![a-z])`).map((match) => read(match[1]) as number),
    va: all(String.raw`${NUMBER}\s*va(?![a-z])`).map((match) => read(match[1]) as number),
    ah: all(String.raw`${NUMBER}\s*(m)?ah(?![a-z])`).map(scaled),
  };
}

const CHEMISTRY: readonly [RegExp, Chemistry][] = [
  [/lead|agm|gel|\bsla\b|\bcar\b/i, "lead-acid"],
  [/li-?\s?(?:ion|po)|lithium|\blipo\b/i, "lithium-ion"],
  [/ni-?\s?mh|nickel.?metal/i, "nimh"],
  [/alkaline|\b9\s?v block\b/i, "alkaline"],
];

function inRange(name: "voltage_V" | "voltage_Vrms" | "maxCurrent_A" | "rating_VA" | "capacity_Ah", value: number, words: string): number {
  const { min, max, unit } = LIMITS[name];
  if (!(value >= min && value <= max)) throw new CoreError("out-of-range", "plate", `${words} must be from ${min} to ${max} ${unit}; this label says ${value}`);
  return value;
}

function batteryFrom(text: string, volts: number, capacityAh: number): Plate {
  const chemistry = CHEMISTRY.find(([words]) => words.test(text))?.[1];
  const guess: Chemistry = chemistry ?? (Math.abs(volts % 3.7) < 0.15 || Math.abs((volts % 3.7) - 3.7) < 0.15 ? "lithium-ion" : "lead-acid");
  const series = /(\d+)\s*s\b/i.exec(text);
  const cells = series ? Number(series[1]) : Math.max(1, Math.round(volts / CELLS[guess].namedV));
  if (cells > LIMITS.cells.max) throw new CoreError("out-of-range", "plate", `${cells} cells in a row: at most ${LIMITS.cells.max}`);
  return {
    supply: { kind: "battery", chemistry: guess, cells, capacity_Ah: inRange("capacity_Ah", capacityAh, "capacity") },
    notes: [
      chemistry ? `${guess} battery of ${cells} cells` : `taken as ${cells} cells of ${guess}: say "lead", "lithium", "NiMH" or "alkaline" to be sure`,
      "its inner ohms are taken from its size; an old one has more",
    ],
  };
}

/**
 * Reads a supply's label as people copy it: "19 V 4.74 A", "12V - 6A", "24 VAC 100 VA", "12 V 72 W", "lithium 11.1 V 2200 mAh", "bench 0-30 V 5 A".
 * Figures of the mains side ("INPUT 100-240 V~ 1.5 A") are set aside.
 * @throws CoreError `lethal` for a label whose only voltage is the mains or beyond what is ever computed, `missing-key` naming what is not on it
 */
export function readPlate(label: string): Plate {
  const common = commonByName(label);
  if (common?.refused) throw new CoreError("conflict", "plate", common.refused);
  if (common) return { supply: common.supply, notes: [`taken as the usual ${common.name}: ${common.looks}`] };
  const text = label.trim();
  const lethal = (id: keyof typeof LETHAL_SUPPLIES) => new CoreError("lethal", "plate", LETHAL_SUPPLIES[id]?.why ?? "refused");
  if (/microwave|oven transformer/i.test(text)) throw lethal("oven-transformer");
  if (/auto-?transformer/i.test(text)) throw lethal("autotransformer");
  // The input side of a label ends where its output is named.
  const output = /\b(?:out(?:put)?|sec(?:ondary)?)\b\s*:?/i.exec(text);
  const side = output ? text.slice(output.index + output[0].length) : text.replace(/\b(?:in(?:put)?|pri(?:mary)?)\b[^;\n]*?(?=;|\n|$)/gi, " ");
  const bench = /\bbench\b|\blab\b|variable|adjustable/i.test(text);
  // A bench supply's range: its upper end counts.
  const found = find(side.replaceAll(/(\d+(?:[.,]\d+)?)\s*(?:v|a)?\s*(?:-|–|to|\.\.\.?)\s*(?=\d+(?:[.,]\d+)?\s*(?:v|a)\b)/gi, bench ? "" : "$&"));
  const low = found.volts.filter(({ value }) => value > 0 && value < MAINS_FROM_V);
  const volts = low[0];
  if (!volts) {
    if (found.volts.length > 0) throw lethal("mains");
    throw new CoreError("missing-key", "plate", 'the label\'s output volts are missing: type them with their unit, such as "19 V 4.74 A"');
  }
  const notes: string[] = [];
  if (low.length > 1) notes.push(`several voltages are there: ${volts.value} V is taken`);
  if (found.volts.length > low.length || output) notes.push("the mains side of the label is set aside");
  const capacity = found.ah[0];
  if (capacity !== undefined) return batteryFrom(text, volts.value, capacity);
  const alternating = volts.ac || (found.va[0] !== undefined && !/dc|⎓|=/i.test(side));
  const amps = found.amps[0];
  const power = found.va[0] ?? found.watts[0];
  if (alternating) {
    const rating = power ?? (amps === undefined ? undefined : amps * volts.value);
    if (rating === undefined) throw new CoreError("missing-key", "plate", 'the transformer\'s VA or amperes are missing: such as "24 VAC 100 VA"');
    return {
      supply: {
        kind: "transformer",
        voltage_Vrms: inRange("voltage_Vrms", volts.value, "alternating volts"),
        rating_VA: inRange("rating_VA", rating, "rating"),
      },
      notes: [...notes, "taken as a factory-made, isolated transformer; its winding's ohms are not on the label"],
    };
  }
  const limit = amps ?? (power === undefined ? undefined : power / volts.value);
  if (limit === undefined)
    throw new CoreError("missing-key", "plate", `the label says ${volts.value} V; its amperes or watts are missing, such as "${volts.value} V 5 A"`);
  if (amps === undefined) notes.push(`${power} W over ${volts.value} V is ${limit.toPrecision(3)} A`);
  else if (power !== undefined && power < 0.9 * amps * volts.value)
    notes.push(`its watts (${power} W) allow only ${(power / volts.value).toPrecision(3)} A at ${volts.value} V: check which`);
  const current_A = inRange("maxCurrent_A", Number(limit.toPrecision(4)), "current");
  const voltage_V = inRange("voltage_V", volts.value, "volts");
  if (bench) return { supply: { kind: "bench", voltage_V, current_A }, notes: [...notes, "a bench supply: its two knobs turn from nothing to these"] };
  return { supply: { kind: "dc", voltage_V, maxCurrent_A: current_A }, notes: [...notes, "taken as a fixed direct-current supply"] };
}
