import { describe, expect, it } from "vitest";
import { headlessOf, refusal } from "../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { pairOf } from "../cutters/solve/evaluate";
import { bareLossWPerM } from "../physics/heat/bareWire";
import { resistanceOhmPerM } from "../physics/heat/wire";
import { degreesAPercent } from "../physics/power/controls/held";
import { heldResponse } from "./heldResponse";
import { LESSONS } from "./lessons";
import { BENCH_VERBS } from "./verbs";
import { BENCH_DEFAULTS, BenchWorld } from "./world";

const design = designSchema.parse(DEMO_CUTTERS[1]);
const pair = pairOf(design);
const opened = () => new BenchWorld(design, { ...BENCH_DEFAULTS, block_mm: 80, even: true });

describe("a wire on the bench that does not move", () => {
  it("in air comes to where its loss is the heat made in it", () => {
    const world = opened();
    world.heat(true);
    world.turn(0.3);
    world.run(30);
    const { sim } = world;
    const made = sim.currentA ** 2 * resistanceOhmPerM(pair.wire, sim.airC);
    expect(sim.airC).toBeGreaterThan(200);
    expect(bareLossWPerM(pair.wire, sim.airC, pair) / made).toBeCloseTo(1, 2);
    expect(sim.wireC[sim.middle]).toBeCloseTo(sim.airC, 1);
  });
  it("in foam that it no longer melts comes to where a quarter of the foam's own 2 pi k takes its heat, colder than in air; its ends outside do not", () => {
    const world = opened();
    world.heat(true);
    world.turn(0.35);
    world.run(6);
    world.hand({ mode: "pace", mPerS: 0.005 });
    world.run(6);
    const { sim } = world;
    expect(sim.inFoam[sim.middle]).toBe(1);
    world.hand({ mode: "still" });
    world.turn(0.03);
    world.run(40);
    const at = sim.wireC[sim.middle] as number;
    expect(at).toBeLessThan(pair.foam.collapseC);
    expect(at).toBeGreaterThan(pair.ambientC + 1);
    const made = sim.currentA ** 2 * resistanceOhmPerM(pair.wire, at);
    expect((0.25 * 2 * Math.PI * pair.foam.conductivityWMK * (at - pair.ambientC)) / made).toBeCloseTo(1, 1);
    const bare = sim.currentA ** 2 * resistanceOhmPerM(pair.wire, sim.airC);
    expect(bareLossWPerM(pair.wire, sim.airC, pair) / bare).toBeCloseTo(1, 2);
    // Nothing melts there: no kerf widens, no feed is to be had.
    expect(sim.topFeedOf(sim.middle)).toBe(0);
  });
  it("off, it is as cold as the room, and stays so", () => {
    const world = opened();
    world.run(20);
    expect([world.sim.airC, world.sim.wireC[0], world.sim.currentA]).toEqual([pair.ambientC, pair.ambientC, 0]);
    expect(world.sim.supply).toBe("off");
  });
});

describe("how a cutter is set on the bench", () => {
  it("seventeen stretches across the foam, in the middle of the wire; foam no wider than the wire leaves room for", () => {
    const { sim } = opened();
    const spanM = sim.setup.circuit.lengthM;
    const width = design.job.width_mm / 1000;
    expect([...sim.xM]).toEqual(Array.from({ length: 17 }, (_, i) => expect.closeTo(spanM / 2 + ((i - 8) * width) / 17, 12)));
    expect([...sim.p].every((p) => p === -0.012)).toBe(true);
    const wide = new BenchWorld({ ...design, job: { ...design.job, width_mm: spanM * 1000 } }, { ...BENCH_DEFAULTS, even: true }).sim;
    expect((wide.xM[1] as number) - (wide.xM[0] as number)).toBeCloseTo((0.98 * spanM) / 17, 12);
    // Its first moment is kept, before anything moved.
    sim.run(0.01);
    expect(sim.traces.timeS).toEqual([0.01]);
  });
  it("what is made is what went into air and foam and what is held; into foam nothing before it is there", () => {
    const world = opened();
    const { sim } = world;
    world.heat(true);
    world.turn(0.35);
    world.run(6);
    expect(sim.ledger.toFoam).toBe(0);
    expect(sim.ledger.toAir).toBeGreaterThan(0);
    expect(sim.ledger.generated).toBeGreaterThan(sim.ledger.toAir);
    expect(Math.abs(sim.energyImbalance())).toBeLessThan(1e-9);
    // From cold to here by the wire's own heat, its length and its rise.
    expect(sim.storedJ() / (sim.ledger.generated - sim.ledger.toAir)).toBeCloseTo(1, 9);
    world.hand({ mode: "pace", mPerS: 0.005 });
    world.run(8);
    const before = { ...sim.ledger };
    world.run(1);
    const [air, foam] = [sim.ledger.toAir - before.toAir, sim.ledger.toFoam - before.toFoam];
    expect(foam).toBeGreaterThan(0);
    // Bare ends lose what bare wire does over their length.
    expect(air / (bareLossWPerM(pair.wire, sim.airC, pair) * (sim.setup.circuit.lengthM - design.job.width_mm / 1000))).toBeCloseTo(1, 1);
    expect(Math.abs(sim.energyImbalance())).toBeLessThan(1e-9);
  });
  it("round a corner the middle follows its ends sideways, both halves alike, and comes up to them while they rest", () => {
    const world = new BenchWorld(design, { ...BENCH_DEFAULTS, block_mm: 80, corner_mm: 20, even: true });
    const { sim } = world;
    world.heat(true);
    world.turn(0.35);
    world.run(10);
    world.hand({ mode: "pace", mPerS: 0.005 });
    world.run((12 + 20) / 5 + 3);
    const end = sim.endAt(sim.pathM);
    expect([end.p, end.q]).toEqual([expect.closeTo(0.02, 6), expect.closeTo(0.015, 6)]);
    const q = (i: number) => sim.q[i] as number;
    for (let i = 0; i < 8; i++) {
      expect(q(i)).toBeCloseTo(q(16 - i), 9);
      expect(q(i)).toBeGreaterThanOrEqual(q(i + 1) - 1e-12);
    }
    expect(q(8)).toBeGreaterThan(0.012);
    expect(q(8)).toBeLessThan(end.q);
    const trailed = end.q - q(8);
    world.hand({ mode: "still" });
    world.run(8);
    expect(end.q - q(8)).toBeLessThan(0.3 * trailed);
    expect(sim.p[8]).toBeCloseTo(0.02, 3);
  });
});

describe("what the bench notes", () => {
  const cutting = (more: object) => {
    const world = new BenchWorld(design, { ...BENCH_DEFAULTS, even: true, ...more });
    world.heat(true);
    world.turn(0.35);
    world.run(6);
    world.hand({ mode: "pace", mPerS: 0.005 });
    return world;
  };
  it("heat from past the entry on, and while it moves; no rest at a corner where there is none", () => {
    const world = cutting({ block_mm: 40 });
    world.run((12 + 8) / 5);
    expect(world.notes.heats).toEqual([]);
    expect(world.notes.feeds.length).toBeGreaterThan(20);
    world.run(3);
    const many = world.notes.heats.length;
    expect(many).toBeGreaterThan(20);
    world.hand({ mode: "still" });
    world.run(3);
    // A little still while its bow lets go.
    expect(world.notes.heats.length - many).toBeLessThan(60);
    expect(world.report().dwellS).toBe(0);
    expect(world.report().heatWPerM).toBeCloseTo(world.notes.heats.reduce((sum, each) => sum + each, 0) / world.notes.heats.length, 9);
  });
  it("rest at the corner, not on the way to it nor after it; out of the foam only past the corner's own way out", () => {
    const world = cutting({ block_mm: 60, corner_mm: 15 });
    world.run(3);
    world.hand({ mode: "still" });
    world.run(1);
    world.hand({ mode: "pace", mPerS: 0.005 });
    world.run((12 + 15) / 5 - 3);
    expect(world.report().dwellS).toBe(0);
    world.hand({ mode: "still" });
    world.run(2);
    expect(world.report().dwellS).toBeCloseTo(2, 1);
    world.hand({ mode: "pace", mPerS: 0.005 });
    world.run(4);
    world.hand({ mode: "still" });
    world.run(1);
    expect(world.report().dwellS).toBeCloseTo(2, 1);
    world.hand({ mode: "pace", mPerS: 0.01 });
    world.run(2.5);
    expect(world.sim.through).toBe(false);
    world.run(1.5);
    expect(world.sim.through).toBe(true);
  });
  it("straight through once the ends and the middle are out at the far face; its moments are kept no closer than a twentieth of a second", () => {
    const world = cutting({ block_mm: 20 });
    world.run((12 + 19) / 5);
    expect(world.sim.through).toBe(false);
    world.run(1.4);
    expect(world.sim.through).toBe(true);
    const { timeS } = world.sim.traces;
    // Steps of a hundredth of a second: the fifth, or by rounding the sixth.
    expect(timeS.length).toBeGreaterThan(world.sim.timeS * (100 / 6) - 2);
    expect(timeS.length).toBeLessThan(world.sim.timeS * 20 + 2);
    for (let i = 1; i < timeS.length; i++) expect((timeS[i] as number) - (timeS[i - 1] as number)).toBeGreaterThan(0.0499);
  });
  it("a brick that is asked for too much trips, tries again after a second and a half, and each time is counted once", () => {
    const lesson = LESSONS.find(({ id }) => id === "short-wire");
    const world = new BenchWorld(lesson?.design as never, BENCH_DEFAULTS);
    world.heat(true);
    world.run(1);
    expect([world.report().trips, world.sim.supply]).toEqual([1, "tripped"]);
    world.run(1);
    expect(world.report().trips).toBe(2);
    world.run(3);
    expect(world.report().trips).toBe(4);
  });
  it("a turn of the knob, by hand or by a device's own words; a question is none, a device that is not there says nothing", () => {
    const world = new BenchWorld(designSchema.parse(DEMO_CUTTERS[0]), BENCH_DEFAULTS);
    world.run(2);
    expect(world.say("supply", "VOLT?")).not.toBeNull();
    expect(world.notes.lastTurnS).toBe(0);
    world.say("supply", "VOLT 5");
    expect(world.notes.lastTurnS).toBeCloseTo(2, 6);
    world.run(1);
    // The same again changes nothing.
    world.say("supply", "VOLT 5");
    expect(world.notes.lastTurnS).toBeCloseTo(2, 6);
    world.heat(true);
    expect(world.notes.lastTurnS).toBeCloseTo(3, 6);
    expect(world.say("pwm", "*IDN?")).toBeUndefined();
  });
  it("how a held temperature responds, by command line: the bench's own figures, the meaning of one per cent, and only for controls that hold one", () => {
    const held = {
      ...design,
      wire: { alloy: "ss-304", diameter_mm: 0.41, length_mm: 420 },
      control: { kind: "held", hold_C: 320 },
      job: { ...design.job, feed_mm_s: 8 },
    };
    const verbs = headlessOf(BENCH_VERBS);
    const result = verbs.runVerb("held", { design: held }) as Record<string, number> & { alloys: { alloy: string; degC_per_percent: number | null }[] };
    const parsed = designSchema.parse(held);
    const own = heldResponse(parsed);
    expect([result.airDuty, result.cutDuty, result.air_C, result.lowest_C, result.cut_C, result.ends_C, result.settles_s]).toEqual([
      own.airDuty,
      own.cutDuty,
      own.airC,
      own.lowestC,
      own.cutC,
      own.endsC,
      own.settlesS,
    ]);
    expect(result.degC_per_percent).toBeCloseTo(degreesAPercent(pairOf(parsed).wire, 320), 9);
    expect(result.alloys.length).toBeGreaterThan(4);
    // Stainless shows far more than constantan, whose ohms hardly move.
    const of = (alloy: string) => result.alloys.find((each) => each.alloy === alloy)?.degC_per_percent ?? Number.POSITIVE_INFINITY;
    expect(of("ss-304")).toBeLessThan(0.2 * of("cuni-44"));
    expect(refusal(() => verbs.runVerb("held", { design }))).toMatchObject({ path: "design.control.kind", message: "design.control.kind must be held" });
  });
});
