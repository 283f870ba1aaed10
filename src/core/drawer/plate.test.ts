import { describe, expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { measureSupply } from "./measuredSupply";
import { readPlate } from "./plate";

const supply = (label: string) => readPlate(label).supply;
const notes = (label: string) => readPlate(label).notes.join("; ");
const refused = (work: () => unknown): [string, string, string] => {
  const { code, path, message } = refusal(work);
  return [code, path, message];
};

describe("labels, side by side", () => {
  it("the input side is set aside, whether the output is named or a line or a semicolon ends it", () => {
    const brick = { kind: "dc", voltage_V: 19, maxCurrent_A: 3.2 };
    for (const label of [
      "IN 48V 2A OUT 19V 3.2A",
      "out: 19 V 3.2 A",
      "output 19V 3.2A",
      "sec 19 V 3.2 A",
      "secondary: 19 V 3.2 A",
      "input 48 V 2 A; 19 V 3.2 A",
      "in 48V 2A\n19 V 3.2 A",
      "pri 48 V; 19 V 3.2 A",
      "primary 48 V\n19 V 3.2 A",
      "19 V 3.2 A; input 48 V 1 A",
    ])
      expect(supply(label), label).toEqual(brick);
    // Nothing of it is a word that only begins so.
    expect(supply("inline brick 12 V 2 A")).toEqual({ kind: "dc", voltage_V: 12, maxCurrent_A: 2 });
    expect(notes("IN 48V 2A OUT 19V 3.2A")).toMatch(/mains side of the label is set aside/);
    expect(notes("19 V 3.2 A")).not.toMatch(/set aside/);
    expect(notes("  19 V 3.2 A  ")).toBe(notes("19 V 3.2 A"));
  });
  it("a bench supply's ranges count at their upper ends, however they are written", () => {
    for (const label of [
      "bench 0-30 V 0-5 A",
      "lab supply 0 - 30V, 0 - 5A",
      "variable 0 to 30 V, 0 to 5 A",
      "adjustable 0...30 V 0..5 A",
      "bench 1.5–30 V 0.01–5 A",
      "bench 0 V - 30 V, 0 A - 5 A",
      "bench 1,25-30 V 5 A",
      "bench 10-30V 5A",
    ])
      expect(supply(label), label).toEqual({ kind: "bench", voltage_V: 30, current_A: 5 });
    expect(notes("bench 0-30 V 5 A")).toMatch(/two knobs/);
    // On a label that is none of these the first volts are taken, and that there are more is said.
    expect(supply("12 V 5 A 15 V")).toMatchObject({ voltage_V: 12 });
    expect(notes("12 V 5 A 15 V")).toMatch(/several voltages are there: 12 V is taken/);
    expect(notes("12 V 5 A")).not.toMatch(/several/);
  });
  it("mains from ninety volts; below that a figure is the supply's own, within what is ever computed", () => {
    expect(refused(() => readPlate("90 V 1 A"))[0]).toBe("lethal");
    expect(supply("89.9 V 1 A")).toEqual({ kind: "dc", voltage_V: 89.9, maxCurrent_A: 1 });
    expect(refused(() => readPlate("0 V 1 A"))[0]).toBe("lethal");
    expect(supply("0.1 V 1 A")).toMatchObject({ voltage_V: 0.1 });
    expect(refused(() => readPlate("0.05 V 1 A"))[0]).toBe("out-of-range");
    expect(supply("50 VAC 100 VA")).toMatchObject({ voltage_Vrms: 50 });
    expect(refused(() => readPlate("50.1 VAC 100 VA"))[0]).toBe("out-of-range");
  });
  it("watts give the amperes where none are there, and are held against those that do", () => {
    expect(supply("24 V 60 W")).toEqual({ kind: "dc", voltage_V: 24, maxCurrent_A: 2.5 });
    expect(notes("24 V 60 W")).toMatch(/60 W over 24 V is 2\.50 A/);
    expect(notes("24 V 2.5 A 60 W")).not.toMatch(/ over |check which/);
    expect(notes("20 V 5 A 65 W")).toMatch(/its watts \(65 W\) allow only 3\.25 A at 20 V: check which/);
    // A tenth less is rounding.
    expect(notes("20 V 5 A 90 W")).not.toMatch(/check which/);
    expect(notes("20 V 5 A 89 W")).toMatch(/check which/);
    expect(notes("20 V 5 A")).not.toMatch(/ over |check which/);
  });
  it("volt-amperes are a transformer's, unless direct current is written next to them", () => {
    expect(supply("24 V 60 VA")).toEqual({ kind: "transformer", voltage_Vrms: 24, rating_VA: 60 });
    expect(supply("24 V DC 60 VA")).toEqual({ kind: "dc", voltage_V: 24, maxCurrent_A: 2.5 });
    expect(supply("24 VAC 2 A")).toEqual({ kind: "transformer", voltage_Vrms: 24, rating_VA: 48 });
    expect(refused(() => readPlate("24 VAC"))).toEqual(["missing-key", "plate", expect.stringMatching(/VA or amperes are missing/)]);
  });
  it("a battery by its name, else by its volts: cells of 3.7 are lithium, the rest lead", () => {
    const of = (label: string) => {
      const found = supply(label);
      return found.kind === "battery" ? [found.chemistry, found.cells] : [found.kind];
    };
    expect(of("7.4 V 2 Ah")).toEqual(["lithium-ion", 2]);
    expect(of("14.8 V 2 Ah")).toEqual(["lithium-ion", 4]);
    expect(of("11 V 2 Ah")).toEqual(["lithium-ion", 3]);
    expect(of("3.8 V 2 Ah")).toEqual(["lithium-ion", 1]);
    expect(of("12 V 7 Ah")).toEqual(["lead-acid", 6]);
    expect(of("6 V 4 Ah")).toEqual(["lead-acid", 3]);
    expect(of("8 V 4 Ah")).toEqual(["lead-acid", 4]);
    expect(of("2 V 4 Ah gel")).toEqual(["lead-acid", 1]);
    // The cells in series count, not the volts on the label.
    expect(of("lipo 12S 5 Ah 44.4 V")).toEqual(["lithium-ion", 12]);
    expect(of("LiPo 4 s 5 Ah 14.8V")).toEqual(["lithium-ion", 4]);
    // By what labels name a cell: 2, 3.7, 1.2 and 1.5 V, not by what one gives half empty.
    expect(of("alkaline 9 V 500 mAh")).toEqual(["alkaline", 6]);
    expect(of("alkaline 6 V 8 Ah")).toEqual(["alkaline", 4]);
    expect(of("NiMH 24 V 3 Ah")).toEqual(["nimh", 20]);
    expect(of("lead 48 V 20 Ah")).toEqual(["lead-acid", 24]);
    expect(of("lithium 36 V 4 Ah")).toEqual(["lithium-ion", 10]);
    expect(notes("12 V 7 Ah")).toMatch(/taken as 6 cells of lead-acid/);
    expect(notes("lead 12 V 7 Ah")).toMatch(/^lead-acid battery of 6 cells/);
    expect(of("lipo 50S 5 Ah 44 V")).toEqual(["lithium-ion", 50]);
    expect(refused(() => readPlate("lipo 51S 5 Ah 44 V"))).toEqual(["out-of-range", "plate", expect.stringMatching(/51 cells in a row: at most 50/)]);
    expect(refused(() => readPlate("lead 12 V 2000 Ah"))[2]).toMatch(/capacity must be from 0\.05 to 1000 Ah; this label says 2000/);
  });
});

describe("a supply without a plate, by two readings", () => {
  const read = (openV: number, loadedV: number, loadOhm = 4, alternating = false) => measureSupply({ openV, loadedV, loadOhm, alternating });
  it("Ohm's law: what it drove, and the ohms that took the rest", () => {
    const { supply: found, provenA, internalOhm } = read(12, 10);
    expect([provenA, internalOhm]).toEqual([2.5, expect.closeTo(0.8, 12)]);
    expect(found).toMatchObject({ kind: "dc", voltage_V: 12, maxCurrent_A: 2.5, internal_ohm: 0.8 });
    expect(read(24, 20, 4, true).supply).toEqual({ kind: "transformer", voltage_Vrms: 24, rating_VA: 120, internal_ohm: 0.8 });
  });
  it("says where the load was too light or too heavy to tell", () => {
    const said = (openV: number, loadedV: number) => read(openV, loadedV).notes.slice(1).join();
    expect(said(10, 9)).toBe("");
    expect(said(10, 9.9)).toMatch(/hardly fell/);
    expect(said(100, 98)).toBe("");
    expect(said(10, 5)).toBe("");
    expect(said(10, 4.9)).toMatch(/more than half/);
  });
  it("no supply beyond the touch limits, and no load that raises the volts", () => {
    expect(refused(() => read(120.1, 100))).toEqual(["lethal", "open_V", expect.stringMatching(/at most 120 V: .+/)]);
    expect(read(120, 100).supply).toMatchObject({ voltage_V: 120 });
    expect(refused(() => read(50.1, 40, 4, true))).toEqual(["lethal", "open_V", expect.stringMatching(/50 V alternating: .{20}/)]);
    expect(refused(() => read(12, 12.01))[1]).toBe("loaded_V");
    expect(read(12, 12).internalOhm).toBe(0);
  });
});
