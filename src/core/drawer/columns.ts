import { TENSION_DEVICES } from "../cutters/design/vocabulary";
import { CoreError } from "../kernel/errors";
import { parseOrThrow } from "../kernel/parse";
import { ALLOY_IDS } from "../materials/alloys";
import { FOAM_FAMILIES } from "../materials/foams";
import { OWNED_CONTROLS } from "../physics/power/controls";
import type { Supply } from "../physics/power/supplies";
import { awgDiameterMm, STRAND_ENVELOPE, swgDiameterMm } from "../units/gauges";
import { parseQuantity } from "../units/parseQuantity";
import { formatQuantity, type Quantity, type UnitSystem } from "../units/units";
import { type Item, itemSchema } from "./items";
import { readPlate } from "./plate";
import { ITEM_KINDS, type ItemKind } from "./things";

/** How a column's text is read. */
type Reading =
  | { as: "text" }
  | { as: "yes-no" }
  | { as: "choice"; of: readonly string[] }
  | { as: "number" }
  | { as: "quantity"; quantity: Quantity; decimals?: number }
  /** a wire's one size: millimetres or a gauge */
  | { as: "size" }
  /** a supply as its label says */
  | { as: "plate" }
  /** a supply in full, where its label does not tell all */
  | { as: "supply" };

/** One column of the drawer: the same in the table on screen, in CSV files and in messages. */
export interface Column {
  key: string;
  label: string;
  kinds: readonly ItemKind[];
  reading: Reading;
}

const every = ITEM_KINDS;
const column = (key: string, label: string, kinds: readonly ItemKind[], reading: Reading): Column => ({ key, label, kinds, reading });
const quantity = (of: Quantity, decimals?: number): Reading => ({ as: "quantity", quantity: of, ...(decimals === undefined ? {} : { decimals }) });

export const COLUMNS: readonly Column[] = [
  column("kind", "Kind", every, { as: "choice", of: ITEM_KINDS }),
  column("name", "Name", every, { as: "text" }),
  column("alloy", "Alloy", ["wire"], { as: "choice", of: ALLOY_IDS }),
  column("size", "Size", ["wire"], { as: "size" }),
  column("strands", "Strands", ["wire"], { as: "choice", of: Object.keys(STRAND_ENVELOPE) }),
  column("temper", "Temper", ["wire"], { as: "choice", of: ["annealed", "spring"] }),
  column("plate", "Plate", ["supply"], { as: "plate" }),
  column("supply", "In full", ["supply"], { as: "supply" }),
  column("control", "Control", ["control"], { as: "choice", of: OWNED_CONTROLS }),
  column("max_A", "Carries", ["control"], quantity("current", 1)),
  column("gauge_awg", "Gauge, AWG", ["lead"], { as: "number" }),
  column("length_m", "Length left", ["wire", "lead"], quantity("leadLength")),
  column("measured_ohm_per_m", "Measured ohms", ["wire"], quantity("resistancePerLength")),
  column("price_per_m", "Price per metre", ["wire"], { as: "number" }),
  column("device", "Device", ["tensioner"], { as: "choice", of: TENSION_DEVICES }),
  column("rate_N_per_mm", "Rate", ["tensioner"], quantity("springRate")),
  column("travel_mm", "Travel", ["tensioner"], quantity("length")),
  column("force_N", "Pulls", ["tensioner"], quantity("force", 1)),
  column("rating_A", "Rating", ["fuse"], quantity("current", 1)),
  column("count", "Count", ["fuse"], { as: "number" }),
  column("family", "Family", ["foam"], { as: "choice", of: FOAM_FAMILIES.map((family) => family.id) }),
  column("density_kg_m3", "Density", ["foam"], quantity("density")),
  column("block_length_mm", "Length", ["foam"], quantity("length")),
  column("block_width_mm", "Width", ["foam"], quantity("length")),
  column("block_thickness_mm", "Thickness", ["foam"], quantity("length")),
  column("mass_g", "Mass", ["foam"], quantity("mass")),
  column("owned", "In the drawer", every, { as: "yes-no" }),
  column("price", "Price", ["supply", "control", "lead", "tensioner", "fuse", "foam"], { as: "number" }),
  column("notes", "Notes", every, { as: "text" }),
];

export const columnsOf = (kind: ItemKind): Column[] => COLUMNS.filter((each) => each.key !== "kind" && each.kinds.includes(kind));

const canonicalText = (value: number) => String(Number(value.toPrecision(12)));

/**
 * What a column shows of an item.
 * @param system the maker's units, with their names; "file" for bare canonical numbers
 */
export function cellText(item: Item, { key, reading }: Column, system: UnitSystem | "file"): string {
  const value = (item as Record<string, unknown>)[key];
  if (reading.as === "size" && item.kind === "wire") {
    if (item.gauge_awg !== undefined) return `${item.gauge_awg} awg`;
    if (item.gauge_swg !== undefined) return `${item.gauge_swg} swg`;
    return system === "file" ? `${item.diameter_mm} mm` : formatQuantity("diameter", item.diameter_mm as number, system);
  }
  if (reading.as === "supply") return item.kind === "supply" && !plateSaysAll(item.plate, item.supply) ? JSON.stringify(item.supply) : "";
  if (reading.as === "yes-no") return value ? "yes" : "no";
  if (value === undefined) return "";
  if (typeof value !== "number") return String(value);
  if (reading.as !== "quantity" || system === "file") return canonicalText(value);
  return formatQuantity(reading.quantity, value, system, reading.decimals);
}

/** True where reading the label again gives this very supply, so that nothing more need be kept in a file. */
function plateSaysAll(plate: string, supply: Supply): boolean {
  try {
    return JSON.stringify(readPlate(plate).supply) === JSON.stringify(supply);
  } catch {
    // A label that cannot be read is no use: the supply goes into the file in full.
    return false;
  }
}

const refuse = (key: string, message: string) => new CoreError("out-of-range", key, message);

/** Keys of an item that one column's text sets; undefined values take a key away. */
function readCell({ key, label, reading }: Column, text: string, system: UnitSystem): Record<string, unknown> {
  const clean = text.trim();
  if (reading.as === "text") return { [key]: clean };
  if (reading.as === "size") {
    const parsed = parseQuantity("diameter", clean, system, { min: 0.01, max: 12 });
    if (!parsed.ok) throw refuse(key, parsed.message);
    const size = { diameter_mm: undefined, gauge_awg: undefined, gauge_swg: undefined };
    if (parsed.gauge?.awg !== undefined && Math.abs(awgDiameterMm(parsed.gauge.awg) - parsed.value) < 1e-9) return { ...size, gauge_awg: parsed.gauge.awg };
    if (parsed.gauge?.swg !== undefined && Math.abs(swgDiameterMm(parsed.gauge.swg) - parsed.value) < 1e-9) return { ...size, gauge_swg: parsed.gauge.swg };
    return { ...size, diameter_mm: Number(parsed.value.toPrecision(6)) };
  }
  if (reading.as === "plate") return { plate: clean, supply: readPlate(clean).supply };
  if (clean === "") return { [key]: undefined };
  switch (reading.as) {
    case "supply":
      try {
        return { supply: JSON.parse(clean) };
      } catch {
        throw refuse(key, "is not a supply in JSON; leave it empty where the plate says everything");
      }
    case "yes-no":
      if (/^(yes|y|true|1|x)$/i.test(clean)) return { [key]: true };
      if (/^(no|n|false|0|-)$/i.test(clean)) return { [key]: false };
      throw refuse(key, `${label} must be yes or no; "${clean}" is neither`);
    case "choice": {
      const found = reading.of.find((choice) => choice.toLowerCase() === clean.toLowerCase());
      if (found === undefined) throw new CoreError("not-one-of", key, `${label} must be one of ${reading.of.join(", ")}; "${clean}" is not`);
      return { [key]: key === "strands" ? Number(found) : found };
    }
    case "number": {
      const value = Number(clean.replace(",", "."));
      if (!Number.isFinite(value)) throw refuse(key, `${label} must be a number; "${clean}" is not`);
      return { [key]: value };
    }
    case "quantity": {
      const parsed = parseQuantity(reading.quantity, clean, system);
      if (!parsed.ok) throw refuse(key, parsed.message);
      return { [key]: Number(parsed.value.toPrecision(12)) };
    }
  }
}

/** Runs an item through its schema; a complaint about a size or a supply is said of its column. */
function checked(value: Record<string, unknown>): Item {
  try {
    return parseOrThrow(itemSchema, Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)));
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    const head = error.path.split(".")[0] ?? "";
    const key =
      ["diameter_mm", "gauge_awg", "gauge_swg"].includes(head) && value.kind === "wire"
        ? "size"
        : head === "" && value.kind === "wire"
          ? "size"
          : head === "supply"
            ? "plate"
            : head;
    throw new CoreError(error.code, key, error.message);
  }
}

/**
 * The item with one cell typed again.
 * @throws CoreError whose path is the column's key
 */
export function withCell(item: Item, each: Column, text: string, system: UnitSystem): Item {
  return checked({ ...item, ...readCell(each, text, system) });
}

/**
 * An item from the texts of its columns, over an existing one where there is one; columns not given keep what stands.
 * Columns of other kinds must be empty.
 * @throws CoreError whose path is the column's key
 */
export function itemFromCells(cells: Readonly<Record<string, string>>, existing?: Item, system: UnitSystem = "metric"): Item {
  const kindText = (cells.kind ?? existing?.kind ?? "").trim().toLowerCase();
  const kind = ITEM_KINDS.find((each) => each === kindText);
  if (!kind) throw new CoreError("not-one-of", "kind", `Kind must be one of ${ITEM_KINDS.join(", ")}${kindText ? `; "${kindText}" is not` : ""}`);
  let value: Record<string, unknown> = { ...existing, kind };
  // The full supply comes after the plate and has the last word.
  for (const each of COLUMNS) {
    const text = cells[each.key];
    if (each.key === "kind" || text === undefined) continue;
    const empty = text.trim() === "";
    if (!each.kinds.includes(kind)) {
      if (!empty) throw new CoreError("conflict", each.key, `${each.label} does not belong to a ${kind}`);
      continue;
    }
    if (empty && (each.reading.as === "size" || each.reading.as === "supply")) continue;
    if (empty && each.reading.as === "plate") {
      value = { ...value, plate: "" };
      continue;
    }
    if (each.reading.as === "plate" && cells.supply?.trim()) {
      value = { ...value, plate: text.trim() };
      continue;
    }
    const read = readCell(each, text, system);
    // An empty cell of a column that has a default asks for the default.
    value = { ...value, ...read };
  }
  return checked(value);
}
