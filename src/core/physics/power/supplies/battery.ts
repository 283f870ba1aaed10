import { path, text } from "../../../kernel/drawing";
import { CELLS, type Chemistry } from "../../../materials/batteries";
import { interpolate } from "../../../numerics/interpolate";
import { limited, oneOf } from "../../../units/field";
import { LIMITS } from "../../../units/limits";
import { trim } from "../../../units/trim";
import { askOhms, emfLines, type SupplyRecord, usualVolts } from "./record";

/** Cells in a row. */
export interface BatterySupply {
  kind: "battery";
  chemistry: Chemistry;
  cells: number;
  capacity_Ah: number;
  stateOfCharge?: number | undefined;
  internal_ohm?: number | undefined;
}

const CHEMISTRIES = Object.keys(CELLS) as Chemistry[];
const CALLED: Readonly<Record<Chemistry, string>> = { "lead-acid": "lead-acid", "lithium-ion": "lithium", nimh: "NiMH", alkaline: "alkaline" };
const emfV = ({ cells, chemistry, stateOfCharge }: BatterySupply) => cells * interpolate(CELLS[chemistry].emfV, stateOfCharge ?? 1).y;

export const battery: SupplyRecord<BatterySupply> = {
  ...usualVolts,
  kind: "battery",
  fields: {
    chemistry: oneOf(CHEMISTRIES),
    cells: limited("cells", { whole: true }),
    capacity_Ah: limited("capacity_Ah"),
    stateOfCharge: limited("stateOfCharge", { optional: true }),
    internal_ohm: limited("internal_ohm", { optional: true }),
  },
  emfV,
  labelV: emfV,
  limitA: () => Number.POSITIVE_INFINITY,
  // The default goes with its cells and shrinks with its capacity.
  insideOhm: ({ internal_ohm, cells, chemistry, capacity_Ah }) => internal_ohm ?? (cells * CELLS[chemistry].ohmAh) / capacity_Ah,
  mostV: () => 0,
  mostA: () => 0,
  charge: {
    ampereHours: ({ capacity_Ah }) => capacity_Ah,
    left: ({ stateOfCharge }) => stateOfCharge ?? 1,
    withLeft: (supply, stateOfCharge) => ({ ...supply, stateOfCharge }),
    floorV: ({ cells, chemistry }) => cells * CELLS[chemistry].floorV,
  },
  apart: true,
  fusedAt: "the battery's terminal",
  fuseWords: "The fuse sits at the battery's terminal, before anything else.",
  cost: 5,
  reservation: "a battery must be fused at its terminal and fades through the job",
  plate: (supply, show) => [trim(show("voltage", emfV(supply))), `${supply.capacity_Ah} Ah`],
  sentence: ({ cells, chemistry, capacity_Ah, stateOfCharge }) =>
    `${cells}-cell ${CALLED[chemistry]} battery of ${capacity_Ah} Ah at ${Math.round((stateOfCharge ?? 1) * 100)} % charge`,
  part: ({ cells, chemistry, capacity_Ah }) => `${cells}-cell ${chemistry} battery, ${capacity_Ah} Ah`,
  serves: (theirs, wanted) => theirs.chemistry === wanted.chemistry && theirs.cells === wanted.cells,
  asks: (supply) => [
    { key: "cells", label: "Cells in series", value: supply.cells, ...LIMITS.cells, whole: true },
    { key: "capacity_Ah", label: "Ampere-hours", value: supply.capacity_Ah, ...LIMITS.capacity_Ah },
    { key: "stateOfCharge", label: "Charge left", quantity: "duty", value: (supply.stateOfCharge ?? 1) * 100, min: 0, max: 100, scale: 100 },
    askOhms(supply.internal_ohm, "Ohms inside (0: by size)"),
  ],
  netlist: ({ cells, chemistry }, around) => emfLines(`${cells} cells of ${chemistry}`, around),
  symbol: (supply, { x, top, bottom, print }) => {
    const middle = (top + bottom) / 2;
    const cells = Array.from({ length: 3 }, (_, i) => `M${x - 9} ${middle - 12 + i * 9}h18M${x - 4.5} ${middle - 8 + i * 9}h9`).join("");
    return [
      path(`M${x} ${top}V${middle - 12}M${x} ${middle + 10}V${bottom}`),
      path(cells, { width: 1 }),
      text(x - 14, middle - 2, `${print(emfV(supply))} V`, { anchor: "end", mono: true }),
      text(x - 14, middle + 4, `${print(supply.capacity_Ah)} Ah`, { anchor: "end", mono: true }),
      text(x - 3, top + 6, "+", { anchor: "end", bold: true }),
    ];
  },
  never: () => ["Never short a battery, never charge it near foam."],
  tried: { chemistry: CHEMISTRIES, cells: [1, 12], capacity_Ah: [0.1, 40], stateOfCharge: [0, 1] },
};
