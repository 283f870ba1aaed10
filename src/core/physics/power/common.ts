import type { ControlKind } from "./controls";
import type { Supply } from "./supplies";

/** A supply that people commonly have (common practice). The one list: what can be ticked, chosen on the desk or typed by its name. */
export interface CommonSupply {
  id: string;
  name: string;
  looks: string;
  supply: Supply;
  /** what it gives, and what to watch */
  watch?: string;
  /** why it must not be used; it is listed so that a person who has one is warned */
  refused?: string;
}

export const COMMON_SUPPLIES: readonly CommonSupply[] = [
  { id: "brick-5", name: "small brick", looks: "5 V, 4 A", supply: { kind: "dc", voltage_V: 5, maxCurrent_A: 4 } },
  {
    id: "block-9",
    name: "9 V block",
    looks: "the small square battery",
    supply: { kind: "battery", chemistry: "alkaline", cells: 6, capacity_Ah: 0.55 },
    watch: "Its volts fall within minutes of hot wire: have a second one.",
  },
  { id: "wall-12", name: "12 V wall brick", looks: "12 V, 5 A on its label", supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 } },
  { id: "computer-12", name: "computer supply", looks: "12 V rail, 18 A", supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 18, make: "computer" } },
  { id: "laptop-19", name: "laptop brick", looks: "19 V, 4.7 A", supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 } },
  { id: "machine-24", name: "24 V machine supply", looks: "24 V, 6 A", supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 6 } },
  {
    id: "train-old",
    name: "train supply, old",
    looks: "knob, 0 to 16 V, 1.5 A",
    supply: { kind: "dc", voltage_V: 8, maxCurrent_A: 1.5, maxVoltage_V: 16, make: "train" },
  },
  {
    id: "train-new",
    name: "train supply, new",
    looks: "knob, 0 to 18 V, 2 A",
    supply: { kind: "dc", voltage_V: 8, maxCurrent_A: 2, maxVoltage_V: 18, make: "train-modern" },
    watch: "It takes a cold wire for a short circuit: turn up slowly from nothing.",
  },
  {
    id: "bench-30",
    name: "bench supply",
    looks: "two knobs, 30 V and 10 A",
    supply: { kind: "bench", voltage_V: 12, current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 },
  },
  { id: "car", name: "car battery", looks: "12 V, 40 Ah", supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 } },
  { id: "tool-18", name: "tool battery", looks: "18 V, 4 Ah", supply: { kind: "battery", chemistry: "lithium-ion", cells: 5, capacity_Ah: 4 } },
  {
    id: "transformer-24",
    name: "24 V transformer",
    looks: "24 V alternating, 100 VA",
    supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
  },
  {
    id: "charger-plain",
    name: "plain battery charger",
    looks: "12 V, 6 A, no electronics",
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 6, make: "charger" },
    watch: "Rectified, not smoothed: an averaging meter shows 0.9 of the current that heats the wire.",
  },
  {
    id: "charger-hobby",
    name: "hobby charger",
    looks: "with a constant-current or motor-test mode, 5 A",
    supply: { kind: "bench", voltage_V: 12, current_A: 5, maxVoltage_V: 24, maxCurrent_A: 5 },
    watch: "In constant-current mode its amps are set and repeat. Its timer may end a cut.",
  },
  {
    id: "charger-smart",
    name: "smart battery charger",
    looks: "electronic, looks for a battery",
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 },
    refused: "It gives nothing without a battery on its clips.",
  },
  {
    id: "variable-isolated",
    name: "variable transformer, isolated",
    looks: "marked as a separating transformer, 0 to 24 V, 100 VA",
    supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
    watch: "Volts go with the wire's length: 16 to 17 V on 1.3 m of 0.64 mm stainless.",
  },
  {
    id: "variable-unknown",
    name: "variable transformer, isolation not known",
    looks: "a top knob, and no mark of two windings",
    supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
    refused: "It may be one winding: its output is then joined to the mains, and the wire kills. A licensed electrician can tell.",
  },
];

/** A heat control that people commonly have (common practice). */
export interface CommonControl {
  id: string;
  name: string;
  looks: string;
  control: ControlKind;
  watch?: string;
}

export const COMMON_CONTROLS: readonly CommonControl[] = [
  { id: "pwm", name: "PWM module", looks: "a motor or light controller with a knob", control: "pwm" },
  {
    id: "led-dimmer",
    name: "LED dimmer",
    looks: "for low-voltage lamp strips",
    control: "pwm",
    watch: "Pulsed direct current. It must carry the supply's volts over the wire's ohms.",
  },
  {
    id: "rc-brushed",
    name: "brushed speed controller with servo tester",
    looks: "from a model, for brushed motors",
    control: "pwm",
    watch: "0 to 100 % of the pack. Brushless kinds and kinds with a receiver of their own do not work. Set it to zero before touching the wire.",
  },
  { id: "buck", name: "buck converter", looks: "steps the volts down", control: "buck" },
  { id: "rheostat", name: "rheostat", looks: "a coil with a slider", control: "rheostat" },
  {
    id: "clip",
    name: "sliding clip",
    looks: "a crocodile clip along the wire",
    control: "clip",
    watch: "Start with all of the wire live, then shorten it; mark the places.",
  },
  {
    id: "dimmer",
    name: "mains dimmer",
    looks: "finished, enclosed, made for transformers",
    control: "phase",
    watch: "Only ahead of a transformer that is rated for it, behind an RCD, in an earthed enclosure: a licensed electrician's work. Never on the wire itself.",
  },
];

/** A common supply by its typed name, in upper or lower case. */
export const commonByName = (text: string): CommonSupply | null => {
  const typed = text.trim().toLowerCase().replaceAll(/\s+/g, " ");
  return COMMON_SUPPLIES.find(({ name }) => name.toLowerCase() === typed) ?? null;
};
