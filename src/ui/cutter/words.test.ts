import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { demoLog } from "@/core/log/demoLog";
import { ENTRY_KINDS, type LogEntry } from "@/core/log/entries";
import { trim } from "@/core/units/trim";
import { formatQuantity, type Quantity } from "@/core/units/units";
import { entryWords, KIND_WORDS } from "../features/log/entryWords";
import { choiceWords, controlSentence, gaugeWords, supplySentence, supplyWords, tensionWords, wireWords } from "./words";

const metric = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const inch = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "inch", decimals);
const tom = designSchema.parse(DEMO_CUTTERS[0]);
const withPower = (supply: Design["supply"], control: Design["control"]): Design => ({ ...tom, supply, control });

describe("a set-up in words", () => {
  it.each([
    [{ kind: "dc", voltage_V: 19, maxCurrent_A: 4.74 }, { kind: "pwm", duty: 0.336 }, "19 V 4.74 A brick", "PWM at 34 %"],
    [{ kind: "bench", voltage_V: 14.4, current_A: 8 }, { kind: "direct" }, "bench supply at 14.4 V, limit 8 A", "no control"],
    [
      { kind: "battery", chemistry: "lithium-ion", cells: 3, capacity_Ah: 5, stateOfCharge: 0.62 },
      { kind: "buck", voltage_V: 9.5 },
      "3-cell lithium battery of 5 Ah at 62 % charge",
      "a buck converter at 9.5 V",
    ],
    [{ kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }, { kind: "phase", delay_deg: 91.4 }, "24 V 100 VA transformer", "a dimmer at 91° of delay"],
    [{ kind: "transformer", voltage_Vrms: 12, rating_VA: 50 }, { kind: "tap", fraction: 0.5 }, "12 V 50 VA transformer", "a tap at 50 %"],
    [{ kind: "dc", voltage_V: 12, maxCurrent_A: 6 }, { kind: "rheostat", ohm: 2.5 }, "12 V 6 A brick", "a rheostat at 2.5 ohm"],
    [{ kind: "dc", voltage_V: 12, maxCurrent_A: 6 }, { kind: "clip", live_mm: 640 }, "12 V 6 A brick", "a clip leaving 640 mm live"],
  ] as const)("%j through %j", (supply, control, said, controlled) => {
    const design = withPower(supply, control);
    expect(supplySentence(design, metric)).toBe(said);
    expect(controlSentence(design, metric)).toBe(controlled);
    for (const line of supplyWords(design, metric)) expect(line).not.toMatch(/undefined|NaN/);
  });

  it("wires, pulls and gauges, in millimetres and in inches", () => {
    expect(wireWords(tom, metric)).toBe("0.64 mm stainless 304, hard-drawn");
    expect(wireWords(tom, inch)).toBe("0.0252 in stainless 304, hard-drawn");
    expect(wireWords({ wire: { alloy: "ss-304", diameter_mm: 0.2, strands: 7 } }, metric)).toBe("0.2 mm 7-strand stainless 304, temper not known");
    expect(tensionWords(tom, metric)).toBe("2.4 N/mm spring at 65 N");
    expect(tensionWords({ ...tom, tension: { device: "weight", hot_N: 12 } }, inch)).toBe("hanging weight at 2.7 lbf");
    expect(gaugeWords(0.4049)).toBe("26 AWG");
    expect(gaugeWords(0.42)).toBe("about 26 AWG");
  });

  it("plates read as plates do", () => {
    expect(trim("12.0 V")).toBe("12 V");
    expect(trim("4.70 A")).toBe("4.7 A");
    expect(trim("100 VA")).toBe("100 VA");
    expect(trim("0.50 N/mm")).toBe("0.5 N/mm");
    expect(choiceWords("alloy", "fecral")).toBe("iron-chromium-aluminium");
    expect(choiceWords("control", "phase")).toBe("dimmer");
    expect(choiceWords("device", "band")).toBe("rubber band");
    expect(choiceWords("family", "xps")).toBe("XPS");
    expect(choiceWords("temper", "spring")).toBe("hard-drawn");
  });
});

describe("log entries in words", () => {
  const setting: LogEntry = {
    kind: "setting",
    at: "2026-11-20T10:00:00Z",
    foam: { family: "xps", density_kg_m3: 29.4 },
    width_mm: 600,
    setting: "14.8 V",
    feed_mm_s: 6.4,
    note: "",
  };

  it("every kind has a name and reads without a hole in either system of units", () => {
    const all = [...demoLog(), setting];
    expect(new Set(all.map((entry) => entry.kind))).toEqual(new Set(ENTRY_KINDS));
    for (const entry of all) {
      expect(KIND_WORDS[entry.kind].length).toBeGreaterThan(2);
      for (const show of [metric, inch]) {
        const words = entryWords(entry, show);
        expect(words.length).toBeGreaterThan(8);
        expect(words).not.toMatch(/undefined|NaN|null|; ;|;\s*$/);
      }
    }
  });

  it("says what was measured and leaves out what was not", () => {
    expect(entryWords(setting, metric)).toBe("14.8 V for XPS 29.4, 600 mm wide at 6.4 mm/s");
    expect(entryWords(setting, inch)).toBe("14.8 V for XPS 29.4, 23.62 in wide at 4.0 s/in");
    const cuts = demoLog().filter((entry) => entry.kind === "test-cut");
    expect(entryWords(cuts[1] as LogEntry, metric)).toBe(
      "5.5 mm/s in EPS 18, 1100 mm wide; bench supply at 14.4 V, limit 8 A; kerf 1.18 mm; bow 7.20 mm; 4.01 A; even, matt",
    );
    expect(entryWords(cuts[2] as LogEntry, metric)).not.toMatch(/kerf|bow/);
  });
});
