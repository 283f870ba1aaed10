import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import type { Design } from "@/core/cutters/design/schema";
import { circuitInput, pairOf } from "@/core/cutters/solve/evaluate";
import { coldCircuit } from "@/core/physics/power/circuit";
import { netlistOf } from "@/core/sheets/netlist";
import { simulate } from "../../../tests/helpers/circuitSimulator";

const [longTom, gatepost] = DEMO_CUTTERS as [Design, Design];
const transformer: Design["supply"] = { kind: "transformer", voltage_Vrms: 24, rating_VA: 150, internal_ohm: 0.6 };
const battery: Design["supply"] = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 18, stateOfCharge: 0.8 };
const CASES: Record<string, Design> = {
  "a brick with PWM, switched on": { ...gatepost, leads: { gauge_awg: 16, oneWay_m: 1, joint_ohm: 0.03 } },
  "a brick with inner ohms, bare": { ...gatepost, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 8, internal_ohm: 0.4 }, control: { kind: "direct" } },
  "a brick through a rheostat": { ...gatepost, control: { kind: "rheostat", ohm: 2.2 } },
  "a brick through a buck converter": { ...gatepost, control: { kind: "buck", voltage_V: 6.5, efficiency: 0.9 } },
  "a brick with a clip on the wire": { ...gatepost, control: { kind: "clip", live_mm: 330 } },
  "a bench supply ruled by its volts": { ...longTom, supply: { kind: "bench", voltage_V: 9, current_A: 8 } },
  "a bench supply ruled by its limit": { ...longTom, supply: { kind: "bench", voltage_V: 14.4, current_A: 3 } },
  "a battery": { ...longTom, supply: battery, control: { kind: "direct" } },
  "a transformer with its dimmer": { ...gatepost, supply: transformer, control: { kind: "phase", delay_deg: 105 } },
  "a transformer's tap": { ...gatepost, supply: transformer, control: { kind: "tap", fraction: 0.45 } },
  "no leads at all, and a name that is no comment": { ...gatepost, leads: undefined, name: "carp*\n.end\nR9 0 1 β" },
};

describe("the netlist, run in a circuit simulator (ngspice, from Debian's packages)", () => {
  it.each(Object.entries(CASES))("%s: its operating point is the core's cold circuit", (_name, design) => {
    const [row] = simulate(netlistOf(design).replace(/\.op\n\.end\n$/, ""), "op", ["i(VWIRE)", "i(VSUPPLY)"]);
    const [, wireA, supplyA] = row as [number, number, number];
    const mine = coldCircuit(circuitInput(design, pairOf(design)));
    expect(Math.abs(wireA / mine.wireA - 1)).toBeLessThan(2e-3);
    expect(Math.abs(supplyA / mine.supplyA - 1)).toBeLessThan(2e-3);
  });

  it("is plain text a line of which cannot be broken by a cutter's name", () => {
    const text = netlistOf(CASES["no leads at all, and a name that is no comment"] as Design);
    expect(text.split("\n").filter((line) => line === ".end")).toHaveLength(1);
    expect(text).toMatch(/^[\x20-\x7e\n]+$/);
  });
});
