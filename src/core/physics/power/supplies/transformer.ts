import { path, text } from "../../../kernel/drawing";
import { limited } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import { isolationWords } from "./box";
import { askOhms, emfLines, type SupplyRecord, usualVolts } from "./record";

/** A factory-made, isolated transformer, by its plate. */
export interface TransformerSupply {
  kind: "transformer";
  voltage_Vrms: number;
  rating_VA: number;
  internal_ohm?: number | undefined;
}

export const transformer: SupplyRecord<TransformerSupply> = {
  ...usualVolts,
  kind: "transformer",
  fields: {
    voltage_Vrms: limited("voltage_Vrms", { kills: "above that alternating current on a bare wire can kill, and it is refused, not computed" }),
    rating_VA: limited("rating_VA"),
    internal_ohm: limited("internal_ohm", { optional: true }),
  },
  alternating: true,
  emfV: ({ voltage_Vrms }) => voltage_Vrms,
  labelV: ({ voltage_Vrms }) => voltage_Vrms,
  limitA: ({ voltage_Vrms, rating_VA }) => rating_VA / voltage_Vrms,
  insideOhm: ({ internal_ohm }) => internal_ohm ?? 0,
  mostV: () => 0,
  mostA: () => 0,
  mainsSide: true,
  cost: 6,
  reservation: "a transformer brings mains to the bench: local codes and a licensed electrician",
  plate: ({ voltage_Vrms, rating_VA }) => [`${voltage_Vrms} V AC`, `${rating_VA} VA`],
  sentence: ({ voltage_Vrms, rating_VA }) => `${voltage_Vrms} V ${rating_VA} VA transformer`,
  part: ({ voltage_Vrms, rating_VA }) => `${voltage_Vrms} V transformer, ${rating_VA} VA, isolated`,
  serves: (theirs, wanted) => theirs.voltage_Vrms === wanted.voltage_Vrms && theirs.rating_VA >= wanted.rating_VA,
  asks: (supply) => [
    { key: "voltage_Vrms", label: "Volts AC on the plate", quantity: "voltage", value: supply.voltage_Vrms, ...LIMITS.voltage_Vrms },
    { key: "rating_VA", label: "Volt-amperes on the plate", value: supply.rating_VA, ...LIMITS.rating_VA },
    askOhms(supply.internal_ohm, "Ohms of the winding"),
  ],
  netlist: ({ voltage_Vrms }, around) => emfLines(`transformer ${around.print(voltage_Vrms)} V rms, as direct current of the same heat`, around),
  symbol: ({ voltage_Vrms, rating_VA }, at) => {
    const { x, top, bottom, print, tap } = at;
    const middle = (top + bottom) / 2;
    const coil = (from: number, way: 1 | -1) => `M${from} ${middle - 24}${Array.from({ length: 6 }, () => `a4 4 0 0 ${way === 1 ? 1 : 0} 0 8`).join("")}`;
    const tapY = tap === null ? middle - 24 : middle + 24 - 48 * tap;
    return [
      path(`M40 62H${x - 14}V${middle - 24}M40 98H${x - 14}V${middle + 24}`, { stroke: "soft" }),
      path(coil(x - 14, 1), { width: 0.8 }),
      path(`M${x - 6} ${middle - 26}v52M${x - 4} ${middle - 26}v52`, { width: 0.8 }),
      path(coil(x + 4, -1), { width: 0.8 }),
      path(`M${x + 4} ${tapY}H${x + 8}V${top}H${x}M${x + 4} ${middle + 24}V${bottom}H${x}`, {}),
      ...(tap === null ? [] : [text(x + 10, tapY + 1.5, `tap ${Math.round(tap * 100)} %`, { anchor: "start", size: 3.6 })]),
      text(43, bottom + 8, `${print(voltage_Vrms)} V, ${print(rating_VA)} VA`, { mono: true, anchor: "start" }),
      isolationWords(at),
    ];
  },
  tried: { voltage_Vrms: [1, 48], rating_VA: [5, 300], internal_ohm: [0, 2] },
};
