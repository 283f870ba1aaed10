import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { resolveFoam } from "../../materials/foams";
import { sectionProperties } from "../../materials/framing";
import { cutAtPower } from "../cut/cut";
import { massKgPerM, resolveWire } from "../heat/wire";
import { MECHANICS_VERBS } from "./verbs";

/** Answer of a verb as a script gets it: millimetres and newtons in and out. */
const { runVerb: askFor, refusal } = headlessOf(MECHANICS_VERBS);
const runVerb = (name: string, input: object) => askFor(name, input) as Record<string, number>;

const wire = { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" };
const steel = resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" });
const AREA_MM2 = (Math.PI / 4) * 0.64 ** 2;
/** Modulus of stainless, N/mm2; its growth, 1/K (as the table of materials has them). */
const E = 193e3;
const GROWTH = steel.alloy.expansionPerK;

describe("mechanics by command line, in a script's own units", () => {
  it("tension: growth in mm, what device and wire share of it, and cold from hot", () => {
    const job = { wire, span_mm: 1220, hot_C: 330, ambient_C: 20, device: { kind: "spring", rate_N_per_mm: 2.4 } };
    const cold = runVerb("tension", { ...job, cold_N: 80 });
    const growth = GROWTH * 1220 * 310;
    const inARow = 1 / (1 / 2.4 + 1220 / (E * AREA_MM2));
    expect(cold.cold_N).toBe(80);
    expect(cold.growth_mm).toBeCloseTo(growth, 9);
    expect(cold.hot_N).toBeCloseTo(80 - inARow * growth, 6);
    // The spring gives back what it lost in pull over its rate.
    expect(cold.travel_mm).toBeCloseTo((80 - (cold.hot_N as number)) / 2.4, 6);
    expect(runVerb("tension", { ...job, hot_N: cold.hot_N }).cold_N).toBeCloseTo(80, 6);
    // A band gives as a spring of its rate does; two arms as a cantilever 3 E I/L^3, shared by two.
    const band = runVerb("tension", { ...job, cold_N: 80, device: { kind: "band", rate_N_per_mm: 2.4 } });
    expect(band.hot_N).toBeCloseTo(cold.hot_N as number, 9);
    const section = { shape: "rod", diameter_mm: 8 } as const;
    const arm = runVerb("tension", { ...job, cold_N: 80, device: { kind: "arm", material: "steel", length_mm: 250, section, arms: 2 } });
    const rate = (3 * 205e9 * sectionProperties(section).inertiaM4) / 0.25 ** 3 / 2 / 1000;
    expect(arm.travel_mm).toBeCloseTo((80 - (arm.hot_N as number)) / rate, 2);
    expect(runVerb("tension", { ...job, cold_N: 80, device: { kind: "weight" } }).hot_N).toBe(80);
  });

  it("tension: hot and cold alike need no warming, colder than the room is refused by name", () => {
    const job = { wire, span_mm: 1220, ambient_C: 20, cold_N: 60, device: { kind: "weight" } };
    expect(runVerb("tension", { ...job, hot_C: 20 }).growth_mm).toBe(0);
    expect(refusal("tension", { ...job, hot_C: 19 })).toBe("hot_C");
    expect(refusal("tension", { ...job, hot_C: 100, hot_N: 50 })).not.toBe("was not refused");
  });

  it("pluck: f = sqrt(T/m)/2L, a little more for the wire's stiffness, and back", () => {
    const thin = { alloy: "nicr-80-20", diameter_mm: 0.4 };
    const mass = massKgPerM(resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.4 }));
    const ideal = Math.sqrt(20 / mass) / (2 * 0.5);
    const heard = runVerb("pluck", { wire: thin, span_mm: 500, tension_N: 20 });
    expect(heard.mass_g_per_m).toBeCloseTo(mass * 1000, 12);
    expect(heard.tension_N).toBe(20);
    expect((heard.frequency_Hz as number) / ideal).toBeGreaterThan(1);
    expect((heard.frequency_Hz as number) / ideal).toBeLessThan(1.02);
    const back = runVerb("pluck", { wire: thin, span_mm: 500, frequency_Hz: heard.frequency_Hz });
    expect(back.tension_N).toBeCloseTo(20, 6);
    expect(back.frequency_Hz).toBe(heard.frequency_Hz);
    expect(refusal("pluck", { wire: thin, span_mm: 500 })).not.toBe("was not refused");
  });

  it("ends: four diameters for hard wire; span and two ends to cut; what a break releases only where a pull is given", () => {
    const bare = runVerb("ends", { wire, span_mm: 1300 });
    expect(bare.bendRadius_mm).toBeCloseTo(4 * 0.64, 9);
    expect(bare.end_mm).toBeCloseTo(Math.PI * (2 * 4 + 1) * 0.64 + 20 * 0.64 + 60, 9);
    expect(bare.cut_mm).toBeCloseTo(1300 + 2 * (bare.end_mm as number), 9);
    expect(bare).not.toHaveProperty("device_J");
    const strung = runVerb("ends", { wire, span_mm: 1300, tension_N: 65, rate_N_per_mm: 2.4 });
    // Half the pull times the way, newtons by millimetres being thousandths of a joule.
    expect(strung.device_J).toBeCloseTo((65 * (65 / 2.4)) / 2 / 1000, 9);
    expect(strung.wire_J).toBeCloseTo((65 * ((65 * 1300) / (E * AREA_MM2))) / 2 / 1000, 6);
    expect(runVerb("ends", { wire, span_mm: 1300, tension_N: 65 }).device_J).toBe(0);
  });

  it("strung: drawn, cut short, or bent back, the same pull by three ways; hot as tension says", () => {
    const arm = { wire, span_mm: 350, rate_N_per_mm: 1.1 };
    const drawn = runVerb("strung", { ...arm, drawn_mm: 20 });
    expect(drawn.cold_N).toBeCloseTo(22, 9);
    expect(drawn.drawn_mm).toBeCloseTo(20, 9);
    expect(drawn.hot_N).toBeCloseTo(22, 9);
    // A wire so much shorter is made up by the device and by the wire's own stretch.
    const stretch = (22 * 350) / (E * AREA_MM2);
    const short = runVerb("strung", { ...arm, short_mm: 20 + stretch });
    expect(short.cold_N).toBeCloseTo(22, 3);
    expect(short.drawn_mm).toBeCloseTo(20, 3);
    const bent = runVerb("strung", { ...arm, bend_deg: 10, arm_mm: 200 });
    expect(bent.drawn_mm).toBeCloseTo(200 * Math.sin((10 * Math.PI) / 180), 0);
    expect(bent.cold_N).toBeCloseTo(1.1 * (bent.drawn_mm as number), 9);
    const hot = runVerb("strung", { ...arm, drawn_mm: 20, hot_C: 300 });
    const same = runVerb("tension", { wire, span_mm: 350, hot_C: 300, cold_N: 22, device: { kind: "spring", rate_N_per_mm: 1.1 } });
    expect(hot.hot_N).toBeCloseTo(same.hot_N as number, 9);
    expect(refusal("strung", { ...arm, bend_deg: 10 })).toBe("arm_mm");
    expect(refusal("strung", { ...arm, drawn_mm: 20, hot_C: 10 })).toBe("hot_C");
    expect(refusal("strung", { ...arm, drawn_mm: 20, hot_C: 20, ambient_C: 20 })).toBe("was not refused");
  });

  it("spring: one weight less what it is wound with, or two readings and its rest", () => {
    expect(runVerb("spring", { force_N: 19.6, stretch_mm: 16 })).toEqual({ rate_N_per_mm: 19.6 / 16, initial_N: 0 });
    expect(runVerb("spring", { force_N: 19.6, stretch_mm: 16, initial_N: 3.6 }).rate_N_per_mm).toBeCloseTo(1, 9);
    const readings = [20, 44, 68].map((force_N, i) => ({ force_N, length_mm: 110 + 10 * i }));
    const found = runVerb("spring", { rest_mm: 105, readings });
    expect(found.rate_N_per_mm).toBeCloseTo(2.4, 9);
    expect(found.initial_N).toBeCloseTo(8, 6);
    expect(found.worstMiss_N).toBeCloseTo(0, 6);
    // One reading out by 3 N: the straight line takes a third of it at each end and two at the middle.
    const off = runVerb("spring", { rest_mm: 105, readings: readings.map((row, i) => ({ ...row, force_N: row.force_N + (i === 1 ? 3 : 0) })) });
    expect(off.worstMiss_N).toBeCloseTo(2, 6);
    expect(refusal("spring", { force_N: 19.6 })).toBe("stretch_mm");
    expect(refusal("spring", { readings })).toBe("rest_mm");
    expect(refusal("spring", { force_N: 3, stretch_mm: 16, initial_N: 3 })).toBe("force_N");
    expect(refusal("spring", { rest_mm: 110, readings })).toBe("rest_mm");
  });

  const foam = resolveFoam({ family: "eps", density_kg_m3: 20 });
  const cutter = { wire: { alloy: "nicr-80-20", diameter_mm: 0.8 }, foam: "eps-20", ambient_C: 20 };
  const pair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.8 }), foam, ambientC: 20 } as const;

  it("loop: the groove is its width and what the wire melts beside itself; bends as a frame of two legs; stiff enough within a tenth of its depth", () => {
    const loop = { ...cutter, feed_mm_s: 3, power_W_per_m: 40, depth_mm: 20, width_mm: 30 };
    const result = runVerb("loop", loop);
    const cut = cutAtPower(pair, 0.003, 40);
    expect(result.kerf_mm).toBeCloseTo(cut.kerfM * 1000, 12);
    expect(result.groove_mm).toBeCloseTo(30 + cut.kerfM * 1000 - 0.8, 9);
    expect(result.verdict).toBe(cut.verdict);
    const bends = result.bends_mm as number;
    expect(bends).toBeGreaterThan(0);
    expect(result.stiffEnough).toBe(bends <= 2);
    // Down, across and up.
    expect(result.wire_mm).toBeCloseTo(20 + 30 + 20, 9);
    const long = runVerb("loop", { ...loop, depth_mm: 200 });
    expect(long.bends_mm).toBeGreaterThan(50 * bends);
    expect(long.stiffEnough).toBe((long.bends_mm as number) <= 20);
    // Faster than it melts nothing pulls it back by the models' drag: there is no bend to tell.
    const torn = runVerb("loop", { ...loop, power_W_per_m: 0.5 });
    expect(torn.bends_mm).toBeNull();
    expect(torn.stiffEnough).toBe(false);
  });

  it("wand: melts two wires' way and the gap between; deeper bends more; a torn wire has no bend", () => {
    const wand = { ...cutter, feed_mm_s: 3, power_W_per_m: 40, depth_mm: 60 };
    const result = runVerb("wand", wand);
    const wide = runVerb("wand", { ...wand, gap_mm: 3 });
    expect(result.kerf_mm).toBeGreaterThan(2 * 0.8);
    expect(result.kerf_mm).toBeLessThan(10);
    expect(wide.maxFeed_mm_s).toBeLessThanOrEqual(result.maxFeed_mm_s as number);
    expect(result.feedRatio).toBeCloseTo(3 / (result.maxFeed_mm_s as number), 9);
    expect(result.wireTemperature_C).toBeGreaterThan(foam.collapseC);
    const deep = runVerb("wand", { ...wand, depth_mm: 480 });
    expect(result.wire_mm).toBeCloseTo(2 * 60, 9);
    expect(deep.bends_mm).toBeGreaterThan(100 * (result.bends_mm as number));
    expect(result.stiffEnough).toBe((result.bends_mm as number) <= 6);
    expect(deep.stiffEnough).toBe((deep.bends_mm as number) <= 48);
    const torn = runVerb("wand", { ...wand, power_W_per_m: 0.5 });
    expect([torn.bends_mm, torn.stiffEnough]).toEqual([null, false]);
  });

  it("tip: in millimetres, hottest at the root, no deeper than it is", () => {
    const tip = { metal: "copper", diameter_mm: 2, depth_mm: 40, iron_W: 40, iron_C: 350, foam: "eps-20", ambient_C: 20, feed_mm_s: 3 };
    const result = runVerb("tip", tip);
    expect(result.root_C).toBeLessThanOrEqual(350);
    expect(result.end_C).toBeLessThan(result.root_C as number);
    expect(result.rootKerf_mm).toBeGreaterThan(2);
    expect(result.rootKerf_mm).toBeLessThan(20);
    expect(result.endKerf_mm).toBeLessThanOrEqual(result.rootKerf_mm as number);
    expect(result.cuts_mm).toBeGreaterThan(1);
    expect(result.cuts_mm).toBeLessThanOrEqual(40);
    expect(runVerb("tip", { ...tip, feed_mm_s: 9 }).rootKerf_mm).toBeLessThan(result.rootKerf_mm as number);
    expect(runVerb("tip", { ...tip, diameter_mm: 1 }).takes_W).toBeLessThan(result.takes_W as number);
  });
});
