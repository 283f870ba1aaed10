import { spawnSync } from "node:child_process";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { CoreError } from "@/core/kernel/errors";
import { runVerb, VERBS } from "./verbs";

const refusal = (verb: string, input: unknown) => {
  try {
    runVerb(verb, input);
  } catch (error) {
    if (error instanceof CoreError) return { code: error.code, path: error.path, message: error.message };
    throw error;
  }
  throw new Error("was not refused");
};
const wire = { alloy: "nicr-80-20", gauge_awg: 26 };

/** The command line as a script uses it: a process, standard input and output. */
function run(verb: string, input: string) {
  const result = spawnSync(process.execPath, ["--import", "tsx", path.resolve("src/cli/main.ts"), verb], { input, encoding: "utf8" });
  return { status: result.status, out: result.stdout, err: result.stderr };
}

describe("the command-line interface", () => {
  it.each(VERBS.map((verb) => [verb.name, verb.example]))("runs the example of %s, alone and in a list", (name, example) => {
    const one = runVerb(name as string, example);
    expect(JSON.stringify(one)).not.toMatch(/NaN|Infinity/);
    if (name !== "help") expect(runVerb(name as string, [example, example])).toEqual([one, one]);
  });

  it("follows the corner on a grid, the wire in time and the knob's range", () => {
    const lag = { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", span_mm: 1220, tension_N: 66.7, feed_mm_s: 6, power_W_per_m: 60 };
    const corner = runVerb("lag", { ...lag, course: true }) as { dwell_s: number; time_s: number[]; middle_mm: number[]; lag_mm: number };
    expect(corner.middle_mm[0]).toBeCloseTo(corner.lag_mm, 9);
    expect(Math.abs((corner.time_s.at(-1) as number) / corner.dwell_s - 1)).toBeLessThan(0.25);
    const transient = VERBS.find((verb) => verb.name === "transient")?.example as object;
    const course = runVerb("transient", transient) as { energyImbalance: number; phaseEnd_C: number[][]; toFoam_J: number };
    expect(Math.abs(course.energyImbalance)).toBeLessThan(1e-6);
    expect(course.phaseEnd_C).toHaveLength(3);
    expect(course.toFoam_J).toBeGreaterThan(0);
    expect(refusal("transient", { ...transient, foam: undefined }).path).toBe("foam");
    const pull = runVerb("pull", { wire: lag.wire, foam: "xps-35", width_mm: 1200, power_W_per_m: 70, pull_N: 2.8 }) as { feed_mm_s: number };
    const back = runVerb("pull", { wire: lag.wire, foam: "xps-35", width_mm: 1200, power_W_per_m: 70, feed_mm_s: pull.feed_mm_s }) as { pull_N: number };
    expect(back.pull_N).toBeCloseTo(2.8, 9);
  });

  it("gives the fixed names", () => {
    expect(Object.keys(runVerb("wire", { wire }) as object)).toEqual(
      expect.arrayContaining(["diameter_mm", "metalArea_mm2", "resistance_ohm_per_m", "mass_g_per_m"]),
    );
    expect(Object.keys(runVerb("air", { wire, current_A: 2 }) as object)).toEqual(
      expect.arrayContaining(["temperature_C", "current_A", "power_W_per_m", "convection_W_per_m", "radiation_W_per_m"]),
    );
    expect(Object.keys(runVerb("cut", { wire, foam: "eps-20", feed_mm_s: 5, current_A: 2 }) as object)).toEqual(
      expect.arrayContaining(["kerf_mm", "maxFeed_mm_s", "feedRatio", "wireTemperature_C", "drag_N_per_m", "power_W_per_m", "verdict"]),
    );
    const circuit = { wire, length_mm: 700, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, control: { kind: "direct" } };
    expect(Object.keys(runVerb("circuit", circuit) as object)).toEqual(
      expect.arrayContaining([
        "current_A",
        "wireVoltage_V",
        "wirePower_W",
        "power_W_per_m",
        "wireTemperature_C",
        "hotResistance_ohm",
        "coldResistance_ohm",
        "supplyCurrent_A",
        "leadLoss_W",
        "state",
      ]),
    );
  });

  it.each([
    ["wire", { wire: { ...wire, diamter_mm: 1 } }, "unknown-key", "wire.diamter_mm"],
    ["wire", { wire: { alloy: "nicr-80-20", diameter_mm: -1 } }, "out-of-range", "wire.diameter_mm"],
    ["wire", { wire: { alloy: "nicr-80-20", diameter_mm: 1e6 } }, "out-of-range", "wire.diameter_mm"],
    ["wire", { wire: { alloy: "unobtainium", diameter_mm: 1 } }, "not-one-of", "wire.alloy"],
    ["wire", { wire: { alloy: "nicr-80-20" } }, "conflict", "wire"],
    ["wire", {}, "missing-key", "wire"],
    ["air", { wire, temperature_C: 300, current_A: 1 }, "conflict", ""],
    ["air", { wire, temperature_C: 5 }, "out-of-range", "temperature_C"],
    ["cut", { wire, foam: "eps-200", feed_mm_s: 5, power_W_per_m: 40 }, "out-of-range", "foam"],
    ["cut", { wire, foam: "pu-30", feed_mm_s: 5, power_W_per_m: 40 }, "forbidden-foam", "foam"],
    ["cut", { wire, foam: { family: "pvc", density_kg_m3: 40 }, feed_mm_s: 5, power_W_per_m: 40 }, "forbidden-foam", "foam.family"],
    ["cut", { wire, foam: "eps-20", feed_mm_s: "5", power_W_per_m: 40 }, "wrong-type", "feed_mm_s"],
    ["cut", { wire, foam: "eps-20", power_W_per_m: 40 }, "missing-key", "feed_mm_s"],
    ["circuit", { wire, length_mm: 700, supply: { kind: "oven-transformer" }, control: { kind: "direct" } }, "lethal", "supply.kind"],
    ["circuit", { wire, length_mm: 700, supply: { kind: "dc", voltage_V: 230, maxCurrent_A: 5 }, control: { kind: "direct" } }, "lethal", "supply.voltage_V"],
    [
      "circuit",
      { wire, length_mm: 700, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, control: { kind: "pwm", duty: 34 } },
      "out-of-range",
      "control.duty",
    ],
    ["circuit", { wire, length_mm: 700, supply: { kind: "candle" }, control: { kind: "direct" } }, "not-one-of", "supply.kind"],
  ])("%s refuses %j", (verb, input, code, at) => {
    expect(refusal(verb, input)).toMatchObject({ code, path: at });
    expect(refusal(verb, [{ ...wireOkay(verb) }, input])).toMatchObject({ code, path: at ? `1.${at}` : "1" });
  });

  it("names the allowed range", () => {
    expect(refusal("wire", { wire: { alloy: "nicr-80-20", diameter_mm: 1e6 } }).message).toBe("wire.diameter_mm must be a number from 0.01 to 12 mm");
    expect(refusal("sing", {}).message).toContain("wire, air, cut, band");
  });

  it("takes an alloy by its figures", () => {
    const custom = { id: "custom", resistivity_uohm_m: 1.08, temperatureFactor: [[20, 1]], density_kg_m3: 8400 };
    const given = runVerb("wire", { wire: { alloy: custom, gauge_awg: 26 } }) as { resistance_ohm_per_m: number };
    expect(given.resistance_ohm_per_m).toBeCloseTo((runVerb("wire", { wire }) as { resistance_ohm_per_m: number }).resistance_ohm_per_m, 12);
  });

  it("as a process: JSON alone on standard output, or exit 2 with JSON alone on standard error", () => {
    const good = run("cut", JSON.stringify([{ wire, foam: "eps-20", feed_mm_s: 5, power_W_per_m: 40 }]));
    expect(good).toMatchObject({ status: 0, err: "" });
    expect(JSON.parse(good.out)).toHaveLength(1);
    const bad = run("cut", "[1,");
    expect(bad).toMatchObject({ status: 2, out: "" });
    expect(JSON.parse(bad.err).error.code).toBe("bad-json");
  });
});

/** A good input of a verb, to be before a bad one in a list. */
function wireOkay(verb: string): Record<string, unknown> {
  return VERBS.find((row) => row.name === verb)?.example as Record<string, unknown>;
}
