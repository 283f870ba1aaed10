import type { Design, TensionDevice } from "@/core/design/schema";
import { nearestAwg } from "@/core/materials/gauges";
import { resolveWire } from "@/core/models/wire";
import type { Quantity } from "@/core/units/units";

type Show = (quantity: Quantity, canonical: number, decimals?: number) => string;

/** Drops a trailing ".0" so that plates read as plates do. */
export const trim = (text: string) => text.replace(/(\d)\.0+(?=\s|$)/, "$1").replace(/(\.\d*?[1-9])0+(?=\s|$)/, "$1");

/** The supply's plate in two lines. */
export function supplyWords(design: Design, show: Show): [string, string] {
  const { supply } = design;
  if (supply.kind === "dc") return [trim(show("voltage", supply.voltage_V)), trim(show("current", supply.maxCurrent_A))];
  return [trim(show("voltage", supply.voltage_V, 1)), `≤ ${trim(show("current", supply.current_A))}`];
}

export const DEVICE_NAMES: Readonly<Record<TensionDevice, string>> = {
  spring: "extension spring",
  weight: "hanging weight",
  arm: "flexed arm",
  turnbuckle: "turnbuckle",
  band: "rubber band",
};

export function tensionWords(design: Design, show: Show): string {
  const { device, hot_N, rate_N_per_mm } = design.tension;
  const rate = device === "spring" && rate_N_per_mm !== undefined ? `${trim(show("springRate", rate_N_per_mm))} spring` : DEVICE_NAMES[device];
  return `${rate} at ${trim(show("force", hot_N))}`;
}

export function wireWords(design: Design, show: Show): string {
  const wire = resolveWire(design.wire);
  const strands = wire.strands > 1 ? `${wire.strands}-strand ` : "";
  return `${trim(show("diameter", wire.diameterM * 1000, undefined))} ${strands}${wire.alloy.shortName}`;
}

/** "24 AWG" beside millimetres, with "about" when the wire lies between gauges. */
export function gaugeWords(diameterMm: number): string {
  const gauge = nearestAwg(diameterMm);
  const exact = Math.abs(diameterMm - 0.127 * 92 ** ((36 - gauge) / 39)) < 0.002;
  return `${exact ? "" : "about "}${gauge} AWG`;
}

export function supplySentence(design: Design, show: Show): string {
  const { supply } = design;
  if (supply.kind === "dc") return `${trim(show("voltage", supply.voltage_V))} ${trim(show("current", supply.maxCurrent_A))} brick`;
  return `bench supply at ${trim(show("voltage", supply.voltage_V))}, limit ${trim(show("current", supply.current_A))}`;
}

export function controlSentence(design: Design): string {
  return design.control.kind === "pwm" ? `PWM at ${Math.round(design.control.duty * 100)} %` : "no control";
}
