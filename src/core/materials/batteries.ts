import type { Source } from "../kernel/provenance";
import type { Table } from "../numerics/interpolate";

export type Chemistry = "lead-acid" | "lithium-ion" | "nimh" | "alkaline";

/** What one cell of a chemistry gives. */
export interface CellRow extends Source {
  /** Volts a label names it by: nominal, regardless of what it gives. */
  namedV: number;
  /** [state of charge, open-circuit volts] */
  emfV: Table;
  /** Volts under load at which the cell should be rested: below it is harmed or dead. */
  floorV: number;
  /** Internal ohms of a cell times its ampere-hours: big cells resist less. */
  ohmAh: number;
}

const memory = (source: string): Source => ({ basis: "from memory", source, note: "a good cell at room temperature; an old or cold one resists more" });

export const CELLS: Readonly<Record<Chemistry, CellRow>> = {
  "lead-acid": {
    namedV: 2,
    emfV: [
      [0, 1.97],
      [1, 2.12],
    ],
    floorV: 1.75,
    ohmAh: 0.03,
    ...memory("lead-acid open-circuit volts and internal resistance, battery handbooks"),
  },
  "lithium-ion": {
    namedV: 3.7,
    emfV: [
      [0, 3.0],
      [0.1, 3.4],
      [0.2, 3.55],
      [0.4, 3.68],
      [0.6, 3.8],
      [0.8, 3.95],
      [1, 4.18],
    ],
    floorV: 3,
    ohmAh: 0.1,
    ...memory("lithium-ion cobalt-type open-circuit volts and internal resistance, battery handbooks"),
  },
  nimh: {
    namedV: 1.2,
    emfV: [
      [0, 1.0],
      [0.1, 1.15],
      [0.2, 1.2],
      [0.5, 1.26],
      [0.9, 1.32],
      [1, 1.4],
    ],
    floorV: 1,
    ohmAh: 0.05,
    ...memory("nickel-metal-hydride open-circuit volts and internal resistance, battery handbooks"),
  },
  alkaline: {
    namedV: 1.5,
    emfV: [
      [0, 0.9],
      [0.2, 1.15],
      [0.5, 1.3],
      [0.8, 1.45],
      [1, 1.58],
    ],
    floorV: 0.9,
    ohmAh: 0.5,
    ...memory("alkaline primary cell open-circuit volts and internal resistance, battery handbooks"),
  },
};
