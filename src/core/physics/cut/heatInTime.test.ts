import { Solver } from "odex";
import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { hotSpots, solveAxial } from "@/core/physics/cut/axial";
import { BarInTime, followAxial } from "@/core/physics/cut/axialInTime";
import { cutAtCurrent } from "@/core/physics/cut/cut";
import { enterFoam } from "@/core/physics/cut/entry";
import { templateEdgeWPerMK, WireBar } from "@/core/physics/cut/wireBar";
import { bareLossWPerM, bareWireDriven } from "@/core/physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM, resolveWire } from "@/core/physics/heat/wire";
import { type CircuitInput, solveCircuit } from "@/core/physics/power/circuit";
import { leadHeat, leadsOhm } from "@/core/physics/power/leads";
import { warmUpOnSupply } from "@/core/physics/power/warmup";
import { simulate } from "../../../../tests/helpers/circuitSimulator";

const wire = resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 });
const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.5, temper: "spring" });
const pair = { wire, foam: resolveFoam(parseFoamId("eps-20")), ambientC: 20 };
const foam = { pair, feedMPerS: 0.006, fromM: 0.06, toM: 0.66 };
const bar = { wire, lengthM: 0.72, ambientC: 20, clampC: 20, foam };

describe("heat along the wire in time", () => {
  it("agrees with an outside high-order integrator (Gragg-Bulirsch-Stoer) on the same 24 cells", () => {
    const cells = 24;
    const description = new WireBar({ ...bar, cells });
    const gain = new Float64Array(cells);
    const slope = new Float64Array(cells);
    const rate = (_t: number, y: number[]) => {
      description.linearise(Float64Array.from(y), 4, gain, slope);
      return Array.from(gain, (watts) => watts / description.cellJPerK);
    };
    const solver = new Solver(cells);
    solver.absoluteTolerance = solver.relativeTolerance = 1e-8;
    for (const seconds of [0.5, 3, 9]) {
      const theirs = solver.solve(rate, 0, Array(cells).fill(20) as number[], seconds).y;
      const mine = followAxial({ ...bar, cells, phases: [{ seconds, drive: 2, inFoam: true }] }, { stepS: 0.02 }).profilesC[0] as Float64Array;
      for (let i = 0; i < cells; i++) expect(Math.abs((mine[i] as number) - (theirs[i] as number))).toBeLessThan(0.1);
    }
  });

  it("is of second order: half the step, a quarter of the error", () => {
    // Straight laws, so that the middle of a long wire follows T = Ta + P'/G (1 - exp(-G t/m' cp)) in closed form.
    const laws = { loss: (c: number) => 0.1 * (c - 20), ohmPerM: () => 8 };
    const off = (stepS: number) => {
      const course = followAxial({ ...bar, foam: undefined, cells: 30, phases: [{ seconds: 2, drive: 2, inFoam: false }] }, { stepS, laws });
      const capacity = massKgPerM(wire) * wire.alloy.specificHeatJKgK;
      return Math.abs((course.middleC.at(-1) as number) - (20 + (32 / 0.1) * (1 - Math.exp((-0.1 * 2) / capacity))));
    };
    const ratio = off(0.4) / off(0.2);
    expect(ratio).toBeGreaterThan(3);
    expect(ratio).toBeLessThan(5.5);
  });

  it("closes its energy to 1e-6 through warming, cutting, leaving and cooling, and settles where the steady solution stands", () => {
    for (const each of [wire, stainless]) {
      const own = {
        ...bar,
        wire: each,
        foam: { ...foam, pair: { ...pair, wire: each } },
        edges: [{ atM: 0.05, thicknessM: 0.0013, material: "aluminium" as const }],
      };
      const course = followAxial({
        ...own,
        phases: [
          { seconds: 25, drive: 2, inFoam: false },
          { seconds: 60, drive: 2, inFoam: true },
          { seconds: 3, drive: 2, inFoam: false },
          { seconds: 30, drive: 0, inFoam: false },
        ],
      });
      expect(Math.abs(course.energyImbalance)).toBeLessThan(1e-6);
      const steady = solveAxial({ ...own, currentA: 2, cells: 200 });
      const settled = course.profilesC[1] as Float64Array;
      for (let i = 0; i < 200; i += 7) expect(Math.abs((settled[i] as number) - (steady.temperatureC[i] as number))).toBeLessThan(0.6);
      expect(Math.max(...(course.profilesC[3] as Float64Array))).toBeLessThan(45);
    }
  });

  it("a supply's current falls as the wire's ohms rise: the drive may follow the wire", () => {
    const course = followAxial({ ...bar, wire: stainless, foam: undefined, phases: [{ seconds: 20, drive: (ohm) => 6 / (ohm + 0.1), inFoam: false }] });
    expect(course.currentA[1] as number).toBeGreaterThan((course.currentA.at(-1) as number) * 1.1);
    expect(Math.abs(course.energyImbalance)).toBeLessThan(1e-6);
  });

  it("hot spots lie outside foam narrower than the span; a metal edge cools the wire there, laminate hardly", () => {
    const narrow = { ...bar, foam: { ...foam, fromM: 0.26, toM: 0.46 }, currentA: 2.2 };
    const profile = solveAxial(narrow);
    const spots = hotSpots(profile, narrow);
    expect(spots.hottestM < 0.26 || spots.hottestM > 0.46).toBe(true);
    expect(spots.hottestC - (spots.meanInFoamC as number)).toBeGreaterThan(30);
    const dip = (material: "aluminium" | "laminate") => {
      const edged = solveAxial({ ...narrow, edges: [{ atM: 0.13, thicknessM: 0.0013, material }] });
      const i = edged.positionM.findIndex((x) => x > 0.13);
      return (profile.temperatureC[i] as number) - (edged.temperatureC[i] as number);
    };
    expect(dip("aluminium")).toBeGreaterThan(2 * dip("laminate"));
    expect(dip("laminate")).toBeGreaterThan(0);
    expect(templateEdgeWPerMK(wire, "aluminium")).toBeGreaterThan(templateEdgeWPerMK(wire, "laminate"));
  });

  it("steps one by one as the bench does, and books the same energy", () => {
    const inTime = new BarInTime({ ...bar, cells: 60 });
    for (let i = 0; i < 240; i++) inTime.step(1 / 60, i < 120 ? 2 : 0);
    expect(inTime.timeS).toBeCloseTo(4, 9);
    expect(Math.abs(inTime.energyImbalance())).toBeLessThan(1e-6);
    expect(inTime.newtons / 480).toBeLessThan(4);
  });
});

describe("entry into foam", () => {
  it("bites a mouth wider than the settled kerf and settles at the cut's own temperature and kerf", () => {
    const entry = enterFoam(pair, 0.006, 2);
    const cut = cutAtCurrent(pair, 0.006, 2);
    expect(entry.mouthM).toBeGreaterThan(1.1 * cut.kerfM);
    expect(Math.abs((entry.wireC.at(-1) as number) - cut.wireC)).toBeLessThan(1);
    expect(Math.abs((entry.kerfM.at(-1) as number) / cut.kerfM - 1)).toBeLessThan(0.01);
  });

  it("the bite of a 0.64 mm bow wire is about half an inch to an inch; a fine wire bites little (common practice: half an inch, judge after an inch)", () => {
    const bite = (diameter_mm: number, amps: number, feed: number, alloy = "ss-304") =>
      1000 * enterFoam({ ...pair, wire: resolveWire({ alloy, diameter_mm }) }, feed, amps).biteM;
    expect(bite(0.64, 3.9, 0.006)).toBeGreaterThan(10);
    expect(bite(0.64, 3.9, 0.006)).toBeLessThan(20);
    expect(bite(0.15, 0.65, 0.006)).toBeLessThan(4);
  });

  it("the bite is the stored heat over what a metre of cut takes: m' cp (T_air - T_kerf) v/q' (by hand)", () => {
    const heavy = { ...pair, wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.64 }) };
    const entry = enterFoam(heavy, 0.006, 3.9);
    const cut = cutAtCurrent(heavy, 0.006, 3.9);
    const bare = bareWireDriven(heavy.wire, { currentA: 3.9 }, { ambientC: 20 }).temperatureC;
    const storedJPerM = ((Math.PI * 0.64e-3 ** 2) / 4) * 8400 * 450 * (bare - cut.wireC);
    expect(entry.biteM).toBeCloseTo((storedJPerM * 0.006) / cut.powerWPerM, 9);
    // The tail of it, until the kerf is within 5 %, is longer.
    expect(entry.settlesM as number).toBeGreaterThan(entry.biteM);
  });

  it("refuses a feed past the top feed", () => {
    expect(() => enterFoam(pair, 0.1, 0.6)).toThrow(/top feed/);
  });
});

describe("leads", () => {
  it("warm copper resists more: rise and ohms close on each other (heat balance worked by hand)", () => {
    const leads = { gauge_awg: 20, oneWay_m: 1, joint_ohm: 0.02 };
    const { leadC, jointC } = leadHeat(leads, 6, 20);
    const d = 0.127e-3 * 92 ** (16 / 39);
    const perM = (0.0172e-6 * (1 + 0.00393 * (leadC - 20))) / ((Math.PI * d * d) / 4);
    expect(Math.abs(36 * perM - 10 * Math.PI * (d + 1.6e-3) * (leadC - 20))).toBeLessThan(1e-3);
    expect(leadsOhm(leads, 20, 6)).toBeCloseTo(2 * perM + 0.02, 5);
    expect(jointC - leadC).toBeCloseTo((36 * 0.005) / 0.02, 9);
    expect(leadHeat(leads, 100, 20).leadC).toBe(520);
  });
});

describe("against a circuit simulator (ngspice, from Debian's packages)", () => {
  it("a wire warming on a sagging battery: temperature and current, then the steady state", () => {
    const supply = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 7, internal_ohm: 0.12 } as const;
    const input: CircuitInput = {
      wire: stainless,
      lengthM: 1.1,
      supply,
      control: { kind: "rheostat", ohm: 1.5 },
      leads: { gauge_awg: 18, oneWay_m: 1, joint_ohm: 0.02 },
      ambientC: 20,
    };
    // Tables of ohms and loss over temperature; the simulator does the coupling and the integration by its own means.
    const grid = Array.from({ length: 70 }, (_, i) => 20 + 10 * i);
    const pwl = (read: (c: number) => number) => `pwl(v(th), ${grid.map((c) => `${c}, ${read(c).toPrecision(9)}`).join(", ")})`;
    const outside = 0.12 + 1.5 + leadsOhm(input.leads, 20);
    const deck = `wire warming on a battery
V1 s 0 ${6 * 2.12}
R1 s a ${outside}
BR r 0 V = ${pwl((c) => resistanceOhmPerM(stainless, c) * 1.1)}
RR r 0 1k
BW a 0 I = v(a)/v(r)
BQ 0 th I = v(a)*v(a)/v(r) - ${pwl((c) => (c <= 20 ? 0 : bareLossWPerM(stainless, c, { ambientC: 20 }) * 1.1))}
CT th 0 ${massKgPerM(stainless) * stainless.alloy.specificHeatJKgK * 1.1} IC=20
`;
    const rows = simulate(deck, "tran 20m 40 0 20m uic", ["v(th)", "i(V1)"]);
    const mine = warmUpOnSupply(input, 40);
    for (const at of [1, 3, 8, 20, 39]) {
      const theirs = rows.find((row) => (row[0] as number) >= at) as number[];
      const i = Math.round(((theirs[0] as number) / 40) * 120);
      const t = mine.timeS[i] as number;
      const near = rows.reduce((best, row) => (Math.abs((row[0] as number) - t) < Math.abs((best[0] as number) - t) ? row : best));
      expect(Math.abs((mine.temperatureC[i] as number) - (near[1] as number))).toBeLessThan(1);
    }
    const end = rows.at(-1) as number[];
    const steady = solveCircuit(input);
    // The full solution also warms the leads: a little less current.
    expect(Math.abs(steady.currentA / -(end[2] as number) - 1)).toBeLessThan(0.005);
    expect(Math.abs(steady.wireC - (end[1] as number))).toBeLessThan(3);
    expect(Math.abs(mine.steadyC - bareWireDriven(stainless, { currentA: steady.currentA }, { ambientC: 20 }).temperatureC)).toBeLessThan(1e-6);
  });
});
