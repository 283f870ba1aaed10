import type { Design } from "@/core/cutters/design/schema";
import { alloyById } from "@/core/materials/alloys";
import { temperWords } from "@/core/materials/temper";
import { resolveWire, type WireSpec } from "@/core/physics/heat/wire";
import { TENSION_RECORDS, tensionRecord } from "@/core/physics/mechanics/devices";
import { CONTROLS, recordOf } from "@/core/physics/power/controls";
import { supplyRecordOf } from "@/core/physics/power/supplies";
import { awgDiameterMm, nearestAwg } from "@/core/units/gauges";
import { trim } from "@/core/units/trim";
import type { Quantity } from "@/core/units/units";

type Show = (quantity: Quantity, canonical: number, decimals?: number) => string;

/** The supply's plate in two lines. */
export function supplyWords(design: Design, show: Show): [string, string] {
  const { record, own } = supplyRecordOf(design.supply);
  return record.plate(own, show);
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
  const temper = temperWords(design.wire);
  return `${trim(show("diameter", wire.diameterM * 1000, undefined))} ${strands}${wire.alloy.shortName}${temper === "" ? "" : `, ${temper}`}`;
}

/** "24 AWG" beside millimetres, with "about" when the wire lies between gauges. */
export function gaugeWords(diameterMm: number): string {
  const gauge = nearestAwg(diameterMm);
  const exact = Math.abs(diameterMm - awgDiameterMm(gauge)) < 0.002;
  return `${exact ? "" : "about "}${gauge} AWG`;
}

export function supplySentence(design: Pick<Design, "supply">, show: Show): string {
  const { record, own } = supplyRecordOf(design.supply);
  return record.sentence(own, show);
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
  if (key === "temper" && value === "spring") return "hard-drawn";
  if (key === "family") return value.toUpperCase();
  return value;
}
