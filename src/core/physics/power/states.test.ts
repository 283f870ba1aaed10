import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { CoreError } from "../../kernel/errors";
import { resolveFoam } from "../../materials/foams";
import { resistanceOhmPerM, resolveWire } from "../heat/wire";
import { type CircuitInput, solveCircuit } from "./circuit";
import type { Control } from "./controls";
import { leadsOhm } from "./leads";
import type { Supply } from "./supplies";
import { POWER_VERBS } from "./verbs";

const steady = resolveWire({ alloy: { id: "custom", resistivity_uohm_m: 1.1, temperatureFactor: [[20, 1]], density_kg_m3: 8000 }, diameter_mm: 0.4 });
const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.5 });
const brick = (voltage_V: number, maxCurrent_A: number): Supply => ({ kind: "dc", voltage_V, maxCurrent_A });
const base: CircuitInput = { wire: steady, lengthM: 0.8, supply: brick(12, 10), control: { kind: "direct" }, ambientC: 20 };
const foam = resolveFoam({ family: "eps", density_kg_m3: 20 });
const cutting = { pair: { wire: steady, foam, ambientC: 20 }, feedMPerS: 0.004, widthM: 0.6 };
const codes = (input: CircuitInput) => solveCircuit(input).warnings.map(({ code }) => code);

describe("what a circuit is said to do", () => {
  const drawn = solveCircuit(base).supplyCurrentA;

  it("is overloaded over its plate and not just at it, and says what flows if it held", () => {
    expect(solveCircuit({ ...base, supply: brick(12, drawn) }).state).toBe("ok");
    const over = solveCircuit({ ...base, supply: brick(12, drawn * 0.999) });
    expect(over.state).toBe("overload");
    expect(over.supplyCurrentA).toBeCloseTo(drawn, 9);
    const warning = over.warnings.find(({ code }) => code === "supply-overload");
    expect(warning?.message).toContain(`asked for ${drawn.toFixed(2)} A`);
    expect(codes({ ...base, supply: brick(12, drawn) })).not.toContain("supply-overload");
  });

  it("a cold wire's inrush is a caution where it passes the plate, not where the plate is passed anyway, nor where a limit holds it", () => {
    const warm: CircuitInput = { ...base, wire: stainless, supply: brick(6, 100) };
    const { inrushA, supplyCurrentA } = solveCircuit(warm);
    expect(inrushA).toBeCloseTo(6 / (resistanceOhmPerM(stainless, 20) * 0.8), 9);
    expect(inrushA).toBeGreaterThan(supplyCurrentA * 1.1);
    const between = (inrushA + supplyCurrentA) / 2;
    expect(codes({ ...warm, supply: brick(6, between) })).toContain("cold-inrush");
    expect(codes({ ...warm, supply: brick(6, inrushA * 1.001) })).not.toContain("cold-inrush");
    expect(codes({ ...warm, supply: brick(6, supplyCurrentA * 0.9) })).not.toContain("cold-inrush");
    expect(codes({ ...warm, supply: { kind: "bench", voltage_V: 6, current_A: between } })).not.toContain("cold-inrush");
    // A make that takes it for a short never starts; one that does not, does.
    const train = (make: "train" | "train-modern", maxCurrent_A: number): Supply => ({ kind: "dc", voltage_V: 6, maxCurrent_A, make });
    const tripped = solveCircuit({ ...warm, supply: train("train-modern", between) });
    expect([tripped.state, tripped.warnings.map(({ code }) => code).filter((code) => /cold|overload/.test(code))]).toEqual(["overload", ["trips-cold"]]);
    expect(tripped.warnings.find(({ code }) => code === "trips-cold")?.message).toContain(`${inrushA.toFixed(2)} A at switch-on`);
    expect(solveCircuit({ ...warm, supply: train("train-modern", inrushA * 1.001) }).state).toBe("ok");
    expect(solveCircuit({ ...warm, supply: train("train", between) }).state).toBe("ok");
  });

  it("is too cold in air below polystyrene's collapse, and in the foam where the feed outruns the heat", () => {
    const at = (voltage_V: number) => solveCircuit({ ...base, supply: brick(voltage_V, 50) });
    // Volts that stand the wire a degree either side of it.
    let [lo, hi] = [0.5, 12];
    for (let i = 0; i < 60; i++) {
      const mid = (lo + hi) / 2;
      if (at(mid).wireC < foam.collapseC) lo = mid;
      else hi = mid;
    }
    expect([at(lo * 0.99).state, at(hi * 1.01).state]).toEqual(["too-cold", "ok"]);
    expect(at(hi).collapseC).toBe(foam.collapseC);
    const cut = (feedMPerS: number) => solveCircuit({ ...base, cutting: { ...cutting, feedMPerS } });
    const top = (cut(0.001).cut?.maxFeedMPerS as number) ?? 0;
    expect(top).toBeGreaterThan(0.001);
    expect(cut(0.001).state).toBe("ok");
    expect(cut(top * 3).state).toBe("too-cold");
    expect(solveCircuit({ ...base, supply: brick(0.001, 5) }).state).toBe("too-cold");
  });

  it("a bench supply's knob rules and is no fault; its plate is its own affair", () => {
    const held = solveCircuit({ ...base, supply: { kind: "bench", voltage_V: 12, current_A: drawn * 0.7 } });
    expect([held.state, held.currentA]).toEqual(["current-limited", expect.closeTo(drawn * 0.7, 6)]);
    expect(solveCircuit({ ...base, supply: { kind: "bench", voltage_V: 12, current_A: drawn * 1.01 } }).state).toBe("ok");
    expect(held.warnings.map(({ code }) => code)).not.toContain("supply-overload");
  });

  it("a wire no heat can balance is refused, or answered as it melts where that is asked", () => {
    const vapour: CircuitInput = { ...base, lengthM: 0.01, supply: brick(60, 500) };
    expect(() => solveCircuit(vapour)).toThrow(CoreError);
    const melts = solveCircuit({ ...vapour, untilItMelts: true });
    expect([melts.state, melts.wireC, melts.warnings.map(({ code }) => code).includes("melts")]).toEqual(["overload", steady.alloy.meltsC, true]);
    expect(codes({ ...base, untilItMelts: true })).not.toContain("melts");
  });

  it("adds up: volts, watts, watts a metre, what leads lose, what lies outside the wire", () => {
    const leads = { gauge_awg: 18, oneWay_m: 1.5 };
    const result = solveCircuit({ ...base, leads, springOhm: 0.1 });
    const lead = leadsOhm(leads, 20, result.currentA);
    expect(result.leadsOhm).toBeCloseTo(lead + 0.1, 12);
    expect(result.currentA * (result.hotOhm + result.leadsOhm)).toBeCloseTo(12, 6);
    expect(result.leadLossW).toBeCloseTo(result.currentA ** 2 * lead, 12);
    expect(result.powerWPerM * 0.8).toBeCloseTo(result.currentA ** 2 * result.hotOhm, 9);
    expect(result.wireVoltageV).toBeCloseTo(result.currentA * result.hotOhm, 12);
    expect(result.leadC).toBeGreaterThan(20);
    expect(solveCircuit(base)).toMatchObject({ leadC: 20, jointC: 20, leadsOhm: 0, leadLossW: 0 });
    const foamed = solveCircuit({ ...base, wire: stainless, cutting: { ...cutting, pair: { ...cutting.pair, wire: stainless } } });
    // Bare ends and the part in the foam, each at its own ohms.
    expect(foamed.hotOhm).toBeCloseTo(resistanceOhmPerM(stainless, foamed.wireC) * 0.2 + resistanceOhmPerM(stainless, foamed.cut?.wireC as number) * 0.6, 6);
  });

  it("a sliding clip leaves so much wire, no more than there is and no less than the foam is wide", () => {
    const clip = (live_mm: number): Control => ({ kind: "clip", live_mm });
    expect(solveCircuit({ ...base, control: clip(400) }).currentA).toBeCloseTo(solveCircuit({ ...base, lengthM: 0.4 }).currentA, 9);
    expect(solveCircuit({ ...base, control: clip(800) })).toEqual(solveCircuit(base));
    expect(() => solveCircuit({ ...base, control: clip(801) })).toThrow(/at most the wire's length \(800 mm\)/);
    expect(() => solveCircuit({ ...base, control: clip(599), cutting })).toThrow(/at least the foam's width \(600 mm\)/);
    expect(() => solveCircuit({ ...base, control: clip(600), cutting })).not.toThrow();
  });
});

describe("power by command line, in a script's own units", () => {
  const runVerb = (name: string, input: object) => headlessOf(POWER_VERBS).runVerb(name, input) as Record<string, unknown> & Record<string, number>;
  const wire = { alloy: "nicr-80-20", diameter_mm: 0.5 };
  const circuit = { wire, length_mm: 720, supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 10 }, control: { kind: "pwm", duty: 0.3 }, ambient_C: 20 };
  const foamed = { ...circuit, cutting: { foam: "eps-20", feed_mm_s: 6, width_mm: 600 } };
  const input: CircuitInput = {
    wire: resolveWire(wire as never),
    lengthM: 0.72,
    supply: circuit.supply as Supply,
    control: circuit.control as Control,
    ambientC: 20,
  };

  it("circuit answers what the solver does, millimetres for metres, and a cut only where there is one", () => {
    const bare = runVerb("circuit", circuit);
    const solved = solveCircuit(input);
    expect([bare.current_A, bare.power_W_per_m, bare.wireTemperature_C, bare.state]).toEqual([solved.currentA, solved.powerWPerM, solved.wireC, solved.state]);
    expect(bare).not.toHaveProperty("cut");
    expect(bare).not.toHaveProperty("runTime_s");
    const inFoam = runVerb("circuit", foamed);
    const cut = solveCircuit({ ...input, cutting: { pair: { wire: input.wire, foam, ambientC: 20 }, feedMPerS: 0.006, widthM: 0.6 } }).cut;
    expect((inFoam.cut as unknown as { kerf_mm: number }).kerf_mm).toBeCloseTo((cut?.kerfM as number) * 1000, 9);
    // A supply that cannot hold, or a wire that melts nothing, prints no cut.
    expect(runVerb("circuit", { ...foamed, supply: { ...circuit.supply, maxCurrent_A: 1 } })).not.toHaveProperty("cut");
    expect(runVerb("circuit", { ...foamed, control: { kind: "pwm", duty: 0.005 } })).not.toHaveProperty("cut");
  });

  it("a battery's circuit has a run time too; foam wider than the wire is refused by name, just as wide is not", () => {
    const run = runVerb("circuit", { ...circuit, supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 10 } });
    expect(run.runTime_s).toBeGreaterThan(600);
    const battery = runVerb("battery", { ...circuit, supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 10 } });
    expect([battery.runTime_s, battery.fade, battery.endedBy]).toEqual([run.runTime_s, run.fade, run.endedBy]);
    expect(
      runVerb("battery", { ...circuit, control: { kind: "pwm", duty: 0 }, supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 10 } })
        .runTime_s,
    ).toBeNull();
    expect(() => runVerb("battery", circuit)).toThrow(/must be a battery/);
    const wide = (width_mm: number) => () => runVerb("circuit", { ...foamed, cutting: { ...foamed.cutting, width_mm } });
    expect(wide(720)).not.toThrow();
    expect(wide(721)).toThrow(
      expect.objectContaining({ path: "cutting.width_mm", code: "out-of-range", message: expect.stringMatching(/length_mm \(720 mm\)/) }),
    );
  });

  it("warmup rises to its steady heat and, with cooling, falls again for as long", () => {
    const warm = runVerb("warmup", { wire, current_A: 3, ambient_C: 20, seconds: 30 }) as unknown as {
      time_s: number[];
      temperature_C: number[];
      steady_C: number;
      timeTo95_s: number;
    };
    expect(warm.time_s.at(-1)).toBeCloseTo(30, 6);
    expect(warm.temperature_C[0]).toBeCloseTo(20, 6);
    expect(warm.temperature_C.at(-1) as number).toBeGreaterThan(20 + 0.95 * (warm.steady_C - 20));
    expect(warm.timeTo95_s).toBeLessThan(30);
    // biome-ignore lint/suspicious/noThenProperty: the command line's fixed name; the object is data, never awaited
    const cooled = runVerb("warmup", { wire, current_A: 3, ambient_C: 20, seconds: 30, then: "off" }) as unknown as typeof warm;
    expect(cooled.time_s.at(-1)).toBeCloseTo(60, 6);
    expect(cooled.temperature_C.at(-1) as number).toBeLessThan(40);
    expect(Math.max(...cooled.temperature_C)).toBeCloseTo(Math.max(...warm.temperature_C), 3);
    expect(runVerb("warmup", { wire, current_A: 14, ambient_C: 20, seconds: 5 }).warnings).toBeDefined();
    expect(runVerb("warmup", { wire, current_A: 1, ambient_C: 20, seconds: 5 })).not.toHaveProperty("warnings");
  });
});
