import { limited } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import { trim } from "../../../units/trim";
import { boxSign } from "./box";
import { KILLS, type SupplyRecord, usualVolts } from "./record";

/** A bench supply, volts and amperes as its two knobs are. */
export interface BenchSupply {
  kind: "bench";
  voltage_V: number;
  current_A: number;
  maxVoltage_V?: number | undefined;
  maxCurrent_A?: number | undefined;
}

export const bench: SupplyRecord<BenchSupply> = {
  ...usualVolts,
  kind: "bench",
  fields: {
    voltage_V: limited("voltage_V", { kills: KILLS }),
    current_A: limited("maxCurrent_A"),
    maxVoltage_V: limited("voltage_V", { optional: true, kills: KILLS }),
    maxCurrent_A: limited("maxCurrent_A", { optional: true }),
  },
  emfV: ({ voltage_V }) => voltage_V,
  labelV: ({ voltage_V }) => voltage_V,
  limitA: ({ current_A }) => current_A,
  insideOhm: () => 0,
  holdsLimit: true,
  ownKnob: () => true,
  atVolts: (supply, voltage_V) => ({ ...supply, voltage_V }),
  atLimit: (supply, current_A) => ({ ...supply, current_A }),
  mostV: ({ maxVoltage_V }) => maxVoltage_V ?? 0,
  mostA: ({ current_A, maxCurrent_A }) => maxCurrent_A ?? current_A,
  atPlate: ({ voltage_V, current_A, maxVoltage_V, maxCurrent_A }) => ({
    kind: "bench",
    voltage_V: maxVoltage_V ?? voltage_V,
    current_A: maxCurrent_A ?? current_A,
  }),
  turnedTo: ({ voltage_V: most, current_A }, voltage_V) => ({
    kind: "bench",
    voltage_V: voltage_V ?? most,
    current_A,
    maxVoltage_V: most,
    maxCurrent_A: current_A,
  }),
  cost: 0,
  praise: "no part beyond the bench supply",
  plate: ({ voltage_V, current_A }, show) => [trim(show("voltage", voltage_V, 1)), `≤ ${trim(show("current", current_A))}`],
  sentence: ({ voltage_V, current_A }, show) => `bench supply at ${trim(show("voltage", voltage_V))}, limit ${trim(show("current", current_A))}`,
  part: ({ voltage_V, current_A, maxVoltage_V, maxCurrent_A }) => `bench supply of ${maxVoltage_V ?? voltage_V} V, ${maxCurrent_A ?? current_A} A or better`,
  serves: (theirs, wanted) => theirs.voltage_V >= wanted.voltage_V && theirs.current_A >= wanted.current_A,
  same: () => true,
  asks: (supply) => [
    {
      key: "voltage_V",
      label: "Volts knob",
      quantity: "voltage",
      value: supply.voltage_V,
      min: LIMITS.voltage_V.min,
      max: supply.maxVoltage_V ?? LIMITS.voltage_V.max,
    },
    {
      key: "current_A",
      label: "Amperes knob",
      quantity: "current",
      value: supply.current_A,
      min: LIMITS.maxCurrent_A.min,
      max: supply.maxCurrent_A ?? LIMITS.maxCurrent_A.max,
    },
    { key: "maxVoltage_V", label: "Plate: most volts", quantity: "voltage", value: supply.maxVoltage_V ?? supply.voltage_V, ...LIMITS.voltage_V },
    { key: "maxCurrent_A", label: "Plate: most amperes", quantity: "current", value: supply.maxCurrent_A ?? supply.current_A, ...LIMITS.maxCurrent_A },
  ],
  netlist: ({ voltage_V, current_A }, { print }) => [
    `* bench supply: ${print(voltage_V)} V at most, ${print(current_A)} A at most (an ideal diode hands over from one to the other)`,
    `ILIMIT 0 s0 ${print(current_A)}`,
    "DVOLTS s0 sv IDEAL",
    `VVOLTS sv 0 ${print(voltage_V)}`,
    ".model IDEAL D(N=0.001)",
    "VSUPPLY s0 s1 0",
  ],
  netlistOhms: false,
  symbol: ({ voltage_V, current_A }, at) => boxSign([`${at.print(voltage_V)} V`, `limit ${at.print(current_A)} A`], "bench supply", at),
  tried: { voltage_V: [0.2, 60], current_A: [0.1, 15] },
};
