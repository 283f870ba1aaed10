import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BENCH_DEFAULTS, BenchWorld } from "../bench/world";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { LONGEST_LINE } from "./scpi";

const world = (k: number) => new BenchWorld(designSchema.parse(DEMO_CUTTERS[k]), BENCH_DEFAULTS);

describe("a simulated bench supply, spoken to in SCPI", () => {
  it("takes long and short headers in any case, optional nodes or not, units, and joined messages (SCPI-99)", () => {
    const { devices } = world(0);
    const { supply } = devices;
    expect(supply.handle("*IDN?")).toMatch(/^UPWIND-ROD,SIMULATED BENCH SUPPLY,0,\d+$/);
    for (const line of ["VOLT 12.5", "source:voltage:level:immediate:amplitude 12.5", ":SOUR:VOLT 12.5V", "volt:lev 1.25e1 v"]) {
      supply.handle("VOLT 1");
      expect(supply.handle(line)).toBeNull();
      expect(supply.handle("VOLT?;CURR?")).toBe("12.500;8.000");
    }
    expect(supply.handle("SYST:ERR?")).toBe('0,"No error"');
  });

  it("queues SCPI's own errors, oldest first, and clears them", () => {
    const { supply } = world(0).devices;
    supply.handle("VOLTS 3");
    supply.handle("VOLT");
    supply.handle("VOLT many");
    supply.handle("VOLT 1000");
    supply.handle("VOLT 5 A");
    expect(supply.handle("VOLT?")).toBe("14.400");
    expect(["SYST:ERR?", "SYST:ERR?", "SYST:ERR:NEXT?", "SYSTEM:ERROR?", "SYST:ERR?", "SYST:ERR?"].map((line) => supply.handle(line))).toEqual([
      '-113,"Undefined header"',
      '-109,"Missing parameter"',
      '-104,"Data type error"',
      '-222,"Data out of range"',
      '-104,"Data type error"',
      '0,"No error"',
    ]);
    supply.handle("FROB");
    expect(supply.handle("*CLS;SYST:ERR?")).toBe('0,"No error"');
    // A plate cannot be turned.
    const brick = world(1).devices.supply;
    brick.handle("VOLT 9");
    expect(brick.handle("SYST:ERR?")).toBe('-221,"Settings conflict"');
  });

  it("drives the bench: what is measured is what the wire takes, a little late and with a little noise", () => {
    const bench = world(0);
    const { supply, thermometer, scale } = bench.devices;
    const read = (line: string) => Number(supply.handle(line));
    expect(read("MEAS:CURR?")).toBeLessThan(0.02);
    supply.handle("VOLT 10;OUTP ON");
    bench.run(0.05);
    const early = bench.sim.currentA;
    bench.run(20);
    expect(early).toBeLessThan(bench.sim.currentA);
    expect(read("MEAS:VOLT:DC?")).toBeCloseTo(bench.sim.currentA * bench.sim.wireOhm, 0);
    const readings = Array.from({ length: 50 }, () => read("MEAS:CURR?"));
    const mean = readings.reduce((a, b) => a + b, 0) / readings.length;
    expect(mean).toBeCloseTo(bench.sim.currentA, 1);
    expect(new Set(readings).size).toBeGreaterThan(5);
    expect(Number(thermometer?.handle("MEAS:TEMP?"))).toBeCloseTo(bench.sim.wireC[bench.sim.middle] ?? 0, -1.2);
    bench.hand({ mode: "pace", mPerS: 0.005 });
    bench.run(8);
    expect(Number(scale?.handle("READ?"))).toBeGreaterThan(0.3);
    supply.handle("OUTP OFF");
    bench.run(1);
    expect(bench.sim.currentA).toBe(0);
  });

  it("trips, drops out and drifts when ordered to, and recovers as a real one would", () => {
    const bench = world(0);
    const { supply, thermometer } = bench.devices;
    supply.handle("OUTP ON");
    bench.run(2);
    const steady = bench.sim.currentA;
    supply.setFault("trip", true);
    bench.run(0.5);
    expect(supply.handle("OUTP?")).toBe("0");
    expect(bench.sim.currentA).toBe(0);
    supply.setFault("trip", false);
    bench.run(0.5);
    expect(bench.sim.currentA).toBe(0); // stays down until switched on again
    supply.handle("OUTP ON");
    bench.run(3);
    expect(bench.sim.currentA).toBeGreaterThan(0.8 * steady);
    supply.setFault("dropout", true);
    let quiet = 0;
    for (let i = 0; i < 100; i++) {
      bench.run(0.1);
      if (bench.sim.currentA === 0) quiet += 1;
    }
    expect(quiet).toBeGreaterThan(4);
    expect(quiet).toBeLessThan(25);
    supply.setFault("dropout", false);
    bench.run(20);
    const before = bench.sim.currentA;
    supply.setFault("drift", true);
    bench.run(30);
    expect(bench.sim.currentA).toBeGreaterThan(1.05 * before);
    thermometer?.setFault("trip", true);
    expect(thermometer?.handle("MEAS:TEMP?")).toBe("9.91E37"); // SCPI's not-a-number
  });

  it("probes say when they are past their range", () => {
    const bench = new BenchWorld({ ...designSchema.parse(DEMO_CUTTERS[0]), tension: { device: "weight", hot_N: 900 } }, { ...BENCH_DEFAULTS, even: true });
    // A cold wire pushed into foam: the pull only stops where the hand does, past what the scale can read.
    bench.hand({ mode: "pace", mPerS: 0.01 });
    bench.run(30);
    expect(bench.sim.forceN).toBeGreaterThan(52);
    expect(bench.devices.scale?.handle("READ?")).toBe("9.9E37");
  });

  it("a PWM controller's duty reaches the wire", () => {
    const bench = world(1);
    bench.heat(true);
    bench.devices.pwm?.handle("SOUR:PULS:DCYC 10 PCT");
    bench.run(20);
    const low = bench.sim.currentA;
    bench.devices.pwm?.handle("PULSE:DCYCLE 40");
    expect(bench.devices.pwm?.handle("PULS:DCYC?")).toBe("40.00");
    bench.run(20);
    expect(bench.sim.currentA / low).toBeCloseTo(2, 0);
  });

  it("any line at all is answered or refused, never a crash, and never outlasts its length", () => {
    const { devices } = world(1);
    fc.assert(
      fc.property(fc.oneof(fc.string({ maxLength: 400 }), fc.constantFrom("VOLT", "MEAS:VOLT?;;", "::", "*RST", "OUTP maybe", ";;;", "VOLT 1e999")), (line) => {
        for (const device of Object.values(devices)) {
          const reply = device.handle(line);
          if (reply !== null && line.length > LONGEST_LINE) return false;
        }
        return true;
      }),
      { numRuns: 2000 },
    );
    expect(devices.supply.handle("*IDN?")).toMatch(/^UPWIND/);
  });
});
