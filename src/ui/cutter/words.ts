import type { Design } from "@/core/cutters/design/schema";
import { alloyById } from "@/core/materials/alloys";
import { awgDiameterMm, nearestAwg } from "@/core/materials/gauges";
import { resolveWire, type WireSpec } from "@/core/physics/heat/wire";
import { TENSION_RECORDS, tensionRecord } from "@/core/physics/mechanics/devices";
import { type DcMake, supplyEmfV } from "@/core/physics/power/circuit";
import { CONTROLS, recordOf } from "@/core/physics/power/controls";
import { trim } from "@/core/units/trim";
import type { Quantity } from "@/core/units/units";

type Show = (quantity: Quantity, canonical: number, decimals?: number) => string;

const CHEMISTRY: Readonly<Record<string, string>> = { "lead-acid": "lead-acid", "lithium-ion": "lithium", nimh: "NiMH", alkaline: "alkaline" };

/** The supply's plate in two lines. */
export function supplyWords(design: Design, show: Show): [string, string] {
  const { supply } = design;
  switch (supply.kind) {
    case "dc":
      return [trim(show("voltage", supply.voltage_V)), trim(show("current", supply.maxCurrent_A))];
    case "bench":
      return [trim(show("voltage", supply.voltage_V, 1)), `≤ ${trim(show("current", supply.current_A))}`];
    case "battery":
      return [trim(show("voltage", supplyEmfV(supply))), `${supply.capacity_Ah} Ah`];
    case "transformer":
      return [`${supply.voltage_Vrms} V AC`, `${supply.rating_VA} VA`];
  }
}

export function tensionWords(design: Design, show: Show): string {
  const { device, hot_N, rate_N_per_mm } = design.tension;
  const record = tensionRecord(device);
  const rate = record.measured && rate_N_per_mm !== undefined ? `${trim(show("springRate", rate_N_per_mm))} ${record.short}` : record.name;
  return `${rate} at ${trim(show("force", hot_N))}`;
}

export function wireWords(design: { wire: WireSpec }, show: Show): string {
  const wire = resolveWire(design.wire);
  const strands = wire.strands > 1 ? `${wire.strands}-strand ` : "";
  return `${trim(show("diameter", wire.diameterM * 1000, undefined))} ${strands}${wire.alloy.shortName}`;
}

/** "24 AWG" beside millimetres, with "about" when the wire lies between gauges. */
export function gaugeWords(diameterMm: number): string {
  const gauge = nearestAwg(diameterMm);
  const exact = Math.abs(diameterMm - awgDiameterMm(gauge)) < 0.002;
  return `${exact ? "" : "about "}${gauge} AWG`;
}

/** Supplies with ways of their own, as the sentence calls them. */
const MAKE_WORDS: Readonly<Record<DcMake, string>> = {
  computer: "rail of a computer supply",
  train: "train supply, old make",
  "train-modern": "train supply, new make",
  "hot-knife": "supply of a hot knife, as measured",
};

export function supplySentence(design: Pick<Design, "supply">, show: Show): string {
  const { supply } = design;
  switch (supply.kind) {
    case "dc":
      return `${trim(show("voltage", supply.voltage_V))} ${trim(show("current", supply.maxCurrent_A))} ${supply.make ? MAKE_WORDS[supply.make] : "brick"}`;
    case "bench":
      return `bench supply at ${trim(show("voltage", supply.voltage_V))}, limit ${trim(show("current", supply.current_A))}`;
    case "battery":
      return `${supply.cells}-cell ${CHEMISTRY[supply.chemistry]} battery of ${supply.capacity_Ah} Ah at ${Math.round((supply.stateOfCharge ?? 1) * 100)} % charge`;
    case "transformer":
      return `${supply.voltage_Vrms} V ${supply.rating_VA} VA transformer`;
  }
}

export function controlSentence(design: Pick<Design, "control">, show: Show): string {
  const { record, own } = recordOf(design.control);
  return record.sentence(own, show);
}

/** A choice of the drawer's table as people say it. */
export function choiceWords(key: string, value: string): string {
  if (key === "alloy") return alloyById(value)?.shortName ?? value;
  if (key === "control") return CONTROLS.find((record) => record.kind === value)?.called ?? value;
  if (key === "device") return TENSION_RECORDS.find(({ device }) => device === value)?.name ?? value;
  if (key === "family") return value.toUpperCase();
  return value;
}
