import { describe, expect, it } from "vitest";
import { JUDGEMENT } from "../../kernel/constants";
import { cutAtPower } from "../../physics/cut/cut";
import { midSpanLag } from "../../physics/cut/lag";
import { bareWireDriven } from "../../physics/heat/bareWire";
import { resistanceOhmPerM } from "../../physics/heat/wire";
import { pullLimits } from "../../physics/mechanics/tension";
import { fuseAdvice } from "../../physics/power/powerAdvice";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { designSchema } from "../design/schema";
import { jobOf } from "./job";
import { isRefused, type ReadyWire, ready } from "./readyWire";
import { reasonsOf, searchSetups } from "./search";
import { ALLOY_COST, type Candidate, frailty, LEAST_REACH, partCost, trySetup, turnOf, withoutEnds } from "./setups";

const tom = designSchema.parse(DEMO_CUTTERS.find(({ name }) => name === "Long Tom"));
const job = { ...jobOf(tom), leads: undefined, extraOhm: 0, leadGaugeAwg: 14 };
const spec = { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" } as const;
const wire = ready(spec, job) as ReadyWire;
const bench = { kind: "bench", voltage_V: 30, current_A: 10 } as const;
const found = trySetup(job, wire, bench, "direct", 12) as Candidate;

describe("a wire made ready for a job", () => {
  it("a third of the way from dragging to too hot; what it needs and how far it is from each limit, by the models", () => {
    expect(wire.cut.powerWPerM).toBeCloseTo(wire.heats.from + 0.35 * (wire.heats.to - wire.heats.from), 6);
    const pair = { wire: wire.wire, foam: job.foam, ambientC: job.ambientC };
    const cut = cutAtPower(
      { ...pair, heatShare: job.heatShare, dragShare: job.dragShare, clearanceShare: job.clearanceShare },
      job.feedMPerS,
      wire.cut.powerWPerM,
      job.acceptedKerfM,
    );
    expect(wire.cut.kerfM).toBeCloseTo(cut.kerfM, 12);
    expect(wire.currentA ** 2 * resistanceOhmPerM(wire.wire, cut.wireC)).toBeCloseTo(wire.cut.powerWPerM, 9);
    expect(wire.bareC).toBeCloseTo(bareWireDriven(wire.wire, { currentA: wire.currentA }, { ambientC: job.ambientC }).temperatureC, 6);
    const bare = job.bowM - job.widthM;
    expect(wire.wireOhm).toBeCloseTo(resistanceOhmPerM(wire.wire, wire.bareC) * bare + resistanceOhmPerM(wire.wire, cut.wireC) * job.widthM, 9);
    const limits = pullLimits(wire.wire, Math.max(wire.bareC, cut.wireC));
    expect([wire.withstandsN, wire.breaksN]).toEqual([limits.recommendedN, limits.breaksN]);
    // Practice pulls no more than 70 N a metre of foam and 80 N in all; and no more than seven tenths of what it withstands.
    expect(wire.tensionN).toBeCloseTo(Math.min(80, 70 * job.widthM, 0.7 * limits.recommendedN), 9);
    const { lagM } = midSpanLag(cut.dragNPerM as number, job.bowM, job.widthM, wire.tensionN);
    expect(wire.margins).toEqual({
      drag: expect.closeTo(1 - wire.heats.from / wire.cut.powerWPerM, 9),
      kerf: expect.closeTo(1 - cut.kerfM / job.acceptedKerfM, 9),
      fumes: expect.closeTo(1 - cut.wireC / job.foam.fumeLimitC, 9),
      ignition: expect.closeTo(Math.max(0, 1 - wire.bareC / job.foam.selfIgnitionC), 9),
      lag: expect.closeTo(1 - lagM / (job.bowM * JUDGEMENT.lagValidBelowSpanShare), 6),
      tension: expect.closeTo(1 - wire.tensionN / limits.recommendedN, 9),
    });
  });

  it("refused in words: too thick for the kerf, too thin to pull across, hair that would smoke", () => {
    const why = (diameter_mm: number, more: object = {}) => {
      const outcome = ready({ alloy: "ss-304", diameter_mm }, { ...job, ...more });
      return isRefused(outcome) ? [outcome.code, outcome.say()] : null;
    };
    expect(why(0.64)).toBeNull();
    expect(why(2, { acceptedKerfM: 1e-3 })).toEqual(["wide", expect.stringMatching(/too thick for the accepted kerf/)]);
    expect(why(0.03, { feedMPerS: 0.03 })?.[0]).toMatch(/smokes|bows|glows/);
    expect(why(0.05, { feedMPerS: 0.04 })?.[1]).toMatch(/smoke|bow|glow/);
  });
});

describe("a set-up for it", () => {
  it("volts, amperes, fuse, reach and price as the circuit has them; each margin a share of its own limit", () => {
    const volts = wire.currentA * wire.wireOhm;
    expect(found).toMatchObject({
      setting: expect.closeTo(volts, 6),
      currentA: wire.currentA,
      voltsV: expect.closeTo(volts, 9),
      price: 12,
      lengthM: job.bowM,
      control: { kind: "direct" },
    });
    expect(found.reach).toBeCloseTo(Math.min((30 / volts) ** 2, (10 / wire.currentA) ** 2), 6);
    expect(found.fuseA).toBe(fuseAdvice(wire.currentA, 14).fuseA);
    expect(found.margins).toMatchObject({
      ...wire.margins,
      fuse: expect.closeTo(1 - wire.currentA / found.fuseA, 9),
      supply: expect.closeTo(Math.min(1 - wire.currentA / 10, 1 - 1 / Math.sqrt(found.reach)), 9),
    });
    expect(found.margins.knob).toBeLessThanOrEqual(1);
    expect(turnOf(found)).toBeCloseTo(1 / Math.sqrt(found.reach), 12);
  });

  it("score: 55 times the least margin and 45 times their mean, each full at a half; off for weakness, amperes, parts and dear wire", () => {
    const { fuse: _, ...counted } = found.margins;
    const shares = Object.values(counted).map((margin) => Math.min(1, margin / 0.5));
    const least = Math.min(...shares);
    const mean = shares.reduce((sum, each) => sum + each, 0) / shares.length;
    const short = (value: number, border: number) => 1 / (1 + (value / border) ** 4);
    const off =
      40 * short(found.withstandsN / job.widthM, 40) +
      30 * frailty(found.breaksN, job.bowM) +
      1.5 * found.currentA +
      partCost("direct") +
      0 +
      (ALLOY_COST["ss-304"] ?? 0);
    expect(found.score).toBeCloseTo(Math.max(0, 55 * least + 45 * mean - off), 9);
    expect(frailty(60, 0.8)).toBeCloseTo(0.5, 12);
    expect(frailty(25, 0.3)).toBeCloseTo(0.5, 12);
    expect(frailty(120, 0.8)).toBeCloseTo(1 / 17, 12);
  });

  it("refused by name: what falls short, trips, cannot reach, wastes, shocks or finds no fuse; eased where less heat would do", () => {
    const why = (supply: Parameters<typeof trySetup>[2], kind: Parameters<typeof trySetup>[3] = "direct", more: object = {}) => {
      const outcome = trySetup({ ...job, ...more }, wire, supply, kind, null);
      return isRefused(outcome) ? [outcome.code, outcome.say()] : [null, outcome.cut.powerWPerM];
    };
    const volts = wire.currentA * wire.wireOhm;
    expect(why({ kind: "dc", voltage_V: 3, maxCurrent_A: 20 })).toEqual(["too-cold", expect.stringMatching(/no knob, and it is too cold: .* needed/)]);
    expect(why({ kind: "dc", voltage_V: 48, maxCurrent_A: 60 })).toEqual(["too-hot", expect.stringMatching(/no knob, and it is too hot: .* at most/)]);
    expect(why(bench, "phase")[0]).toBe("mismatch");
    expect(why({ kind: "dc", voltage_V: volts * 2, maxCurrent_A: 2 }, "pwm")).toEqual([
      "overload",
      expect.stringMatching(/overload: .* A asked, 2\.0 A on the plate/),
    ]);
    expect(why({ kind: "bench", voltage_V: 100, current_A: 10 })).toEqual(["touch", "touch voltage: 100 V on a bare wire"]);
    expect(why(bench, "rheostat")[0]).toMatch(/wastes|no-reach|too-hot/);
    expect(why({ kind: "dc", voltage_V: volts * 1.05, maxCurrent_A: 20 }, "pwm")).toEqual([null, expect.any(Number)]);
    // Asked for what it can give: cooler than wished, and still enough in hand.
    expect(why({ kind: "dc", voltage_V: volts * 1.05, maxCurrent_A: 20 }, "pwm")[1]).toBeLessThan(wire.cut.powerWPerM);
    expect(LEAST_REACH).toBeGreaterThan(1.05 ** 2);
    expect(why(bench, "direct", { leadGaugeAwg: 30 })).toEqual(["no-fuse", expect.stringMatching(/30 AWG.*thicker leads/)]);
    expect(why({ kind: "battery", chemistry: "lead-acid", cells: 12, capacity_Ah: 1 }, "pwm")).toEqual([
      "overload",
      expect.stringMatching(/empty this battery within the hour.*1 A at most/),
    ]);
  });

  it("a control at an end of its turn gives way to a simpler one that is not", () => {
    const at = (kind: "direct" | "pwm", reach: number, duty = 0.5): Candidate => ({ ...found, reach, control: kind === "pwm" ? { kind, duty } : { kind } });
    const simple = at("direct", 4);
    expect(withoutEnds([simple, at("pwm", 4, 0.97)])).toMatchObject({ saved: [simple], dropped: [{ control: { duty: 0.97 } }] });
    expect(withoutEnds([simple, at("pwm", 4, 0.95)]).dropped).toEqual([]);
    expect(withoutEnds([simple, at("pwm", 4, 0.04)]).dropped).toHaveLength(1);
    expect(withoutEnds([at("pwm", 4, 0.97)]).dropped).toEqual([]);
    // One that is at its end itself serves nobody better.
    expect(withoutEnds([at("direct", 1), at("pwm", 4, 0.97)]).dropped).toEqual([]);
  });
});

describe("reasons in words", () => {
  const say = (more: Partial<Candidate>, units: "metric" | "inch" = "metric", widthM?: number) => reasonsOf({ ...found, ...more }, units, [], widthM);

  it("kerf, heat, amperes and volts; what it withstands, for each metre of foam too; how far the knob can go", () => {
    const lines = say({});
    expect(lines[0]).toBe(
      `kerf ${(found.cut.kerfM * 1000).toFixed(2)} mm at ${found.cut.powerWPerM.toFixed(0)} W/m, ${found.currentA.toFixed(2)} A and ${found.voltsV.toFixed(1)} V on the wire`,
    );
    expect(lines[1]).toBe(`withstands ${found.withstandsN.toFixed(0)} N hot`);
    expect(say({ withstandsN: 15 })[1]).toBe("withstands 15.0 N hot");
    expect(say({ withstandsN: 100 }, "metric", 0.5)[1]).toBe("withstands 100 N hot (200 N a metre of foam)");
    expect(say({ reach: 3.25 })[2]).toMatch(/the knob can still go to 3\.[23] times this heat/);
    expect(say({ reach: 10 })[2]).toContain("ten times and more");
    expect(say({ reach: 9.94 })[2]).toContain("9.9 times");
    expect(say({ setting: null })[2]).toMatch(/no knob/);
    expect(reasonsOf(found, "metric", ["thicker wants more"])[1]).toBe("thicker wants more");
  });

  it("names what it gives up most, and says what speaks against it only where that is so", () => {
    const margins = { drag: 0.9, kerf: 0.8, fumes: 0.7, ignition: 0.6, lag: 0.5, tension: 0.4, supply: 0.3, fuse: 0.95, knob: 0.2 };
    expect(say({ margins })).toContain("least to spare: 20 % of the fineness a knob should have");
    expect(say({ margins: { ...margins, lag: 0.05 } })).toContain("least to spare: 5 % of the bow it may have");
    expect(say({}).join()).toContain("no part beyond the bench supply");
    const chopped = say({ control: { kind: "pwm", duty: 0.5 } }).join();
    expect(chopped).not.toContain("no part beyond");
    expect(say({ control: { kind: "rheostat", ohm: 2 } }).join()).toContain("throws its share away as heat");
    expect(say({ supply: { kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 } }).join()).toContain("fused at its terminal");
    expect(say({ breaksN: 5 }).join()).toMatch(/breaks easily: it parts at 5\.0 N hot/);
    expect(say({ breaksN: 500 }).join()).not.toContain("breaks easily");
    expect(say({ margins: { ...margins, ignition: 0 } }).join()).toContain("switched on in foam only");
    expect(say({ margins, bareC: 401 }).join()).toContain("bare stretches near 401 °C");
    expect(say({ margins, bareC: 400 }).join()).not.toContain("bare stretches");
    expect(say({ margins }, "inch")[0]).toMatch(/ in at .* W\/in/);
  });
});

describe("the search", () => {
  const wires = [0.4, 0.5, 0.64, 0.8].flatMap((diameter_mm) => [
    { ...spec, diameter_mm },
    { ...spec, alloy: "ss-316", diameter_mm },
  ]);

  it("ranks by points, ties by hard, strong, cheap, middle, parts; folds twins; counts what it tried", () => {
    const result = searchSetups(job, wires, [bench], ["direct", "pwm"]);
    expect(result.tried).toBe(wires.length * 2);
    const scores = result.candidates.map(({ score }) => score);
    expect(scores).toEqual([...scores].sort((a, b) => b - a));
    // Stainless 304 and 316 of one size are one row.
    expect(result.candidates.length).toBeLessThanOrEqual(4);
    expect(result.candidates.every(({ also }) => also.length >= 1)).toBe(true);
    expect(result.works).toBeGreaterThanOrEqual(result.candidates.length);
    for (const { reasons } of result.candidates) expect(reasons[0]).toMatch(/^kerf /);
    const schools = result.schools.map(({ alloy }) => alloy).sort();
    expect(schools).toEqual(["ss-304", "ss-316"]);
    expect(result.schools[0]).toMatchObject({ behind: 0 });
  });

  it("a price is wire by the metre, supply and control together; unknown where one of them is", () => {
    const priced = (prices: Parameters<typeof searchSetups>[4], kind: "direct" | "pwm" = "pwm") =>
      searchSetups(job, [spec], [bench], [kind], prices).candidates[0]?.price;
    const all = { wires: [0.5], supplies: [30], controls: { pwm: 8 } };
    // A chopper behind a bench supply is of no use where that turns the heat itself; a brick needs one.
    const brick = { kind: "dc", voltage_V: 24, maxCurrent_A: 10 } as const;
    const ofBrick = (prices: Parameters<typeof searchSetups>[4]) => searchSetups(job, [spec], [brick], ["pwm"], prices).candidates[0]?.price;
    expect(ofBrick(all)).toBeCloseTo(0.5 * job.bowM + 30 + 8, 9);
    expect(ofBrick({ ...all, wires: [null] })).toBeNull();
    expect(ofBrick({ ...all, supplies: [null] })).toBeNull();
    expect(ofBrick({ ...all, controls: {} })).toBeNull();
    expect(priced({ wires: [0.5], supplies: [30] }, "direct")).toBeCloseTo(0.5 * job.bowM + 30, 9);
  });

  it("why this size: the next thinner and thicker of the same wire, what they withstand and need, or why they are refused", () => {
    const sizes = [0.3, 0.5, 0.64, 0.8, 1.6].map((diameter_mm) => ({ ...spec, diameter_mm }));
    const strict = { ...job, acceptedKerfM: 2e-3 };
    const { candidates } = searchSetups(strict, sizes, [{ kind: "bench", voltage_V: 30, current_A: 30 }], ["direct"]);
    const of = (diameter_mm: number) => candidates.find(({ wire: { diameter_mm: d } }) => d === diameter_mm) as Candidate;
    const at = (diameter_mm: number) => ready({ ...spec, diameter_mm }, strict) as ReadyWire;
    const middle = of(0.64);
    expect(middle.reasons).toContain(`thinner (0.50 mm) withstands ${at(0.5).withstandsN.toFixed(0)} N in place of ${middle.withstandsN.toFixed(0)} N`);
    expect(middle.reasons).toContain(`thicker (0.80 mm) wants ${at(0.8).currentA.toFixed(1)} A in place of ${middle.currentA.toFixed(1)}`);
    const thick = of(0.8);
    expect(thick.reasons.join()).toMatch(/thicker \(1\.60 mm\) is refused: too thick for the accepted kerf/);
    // Another alloy, temper or strand is no size of this wire.
    const { candidates: mixed } = searchSetups(
      strict,
      [
        { ...spec, diameter_mm: 0.64 },
        { alloy: "ss-304", diameter_mm: 0.5 },
        { ...spec, diameter_mm: 0.2, strands: 7 },
      ],
      [bench],
      ["direct"],
    );
    expect(mixed.find(({ wire: each }) => each.diameter_mm === 0.64)?.reasons.join()).not.toMatch(/thinner|thicker/);
  });

  it("each school of wire: how far behind the best, and by what a maker would feel", () => {
    const schools = ["ss-304", "ss-316", "nicr-80-20", "cuni-44"].map((alloy) => ({ alloy, diameter_mm: 0.64 }));
    const { schools: output, candidates } = searchSetups(job, schools, [{ kind: "bench", voltage_V: 30, current_A: 15 }], ["direct"]);
    expect(output.map(({ behind }) => behind)).toEqual(output.map(({ behind }) => behind).sort((a, b) => a - b));
    const [first, ...others] = output;
    expect(first).toMatchObject({ behind: 0, words: "the best found" });
    expect(candidates[0]?.wire.alloy).toBe(first?.alloy);
    for (const { best, words } of others) {
      const lead = first?.best as Candidate;
      if (!best) continue;
      const amperes = best.currentA - lead.currentA;
      if (Math.abs(amperes) > 0.15) expect(words).toContain(`${Math.abs(amperes).toFixed(1)} A ${amperes > 0 ? "more" : "less"}`);
      const kerf = best.cut.kerfM - lead.cut.kerfM;
      expect([words, words.includes("kerf")]).toEqual([words, Math.abs(kerf) > 0.05e-3]);
      expect(words.split(", ").length).toBeLessThanOrEqual(3);
      if (words === "hardly any difference") expect(Math.abs(amperes)).toBeLessThanOrEqual(0.15);
    }
    const none = searchSetups(job, [{ ...spec }, { alloy: "cuni-44", diameter_mm: 0.05 }], [bench], ["direct"]).schools.find(
      ({ alloy }) => alloy === "cuni-44",
    );
    expect(none).toMatchObject({ best: null, behind: 100, words: expect.stringMatching(/^no set-up works; most often: /) });
  });

  it("a tie near the top says why one is first: harder, then stronger, then cheaper, then its knob, then its parts", () => {
    const two = (prices: Parameters<typeof searchSetups>[4] = {}) =>
      searchSetups(
        job,
        [
          { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" },
          { alloy: "ss-304", diameter_mm: 0.645, temper: "spring" },
        ],
        [bench],
        ["direct"],
        prices,
      ).candidates;
    const [one, other] = two();
    expect(Math.abs((one?.score ?? 0) - (other?.score ?? 99))).toBeLessThanOrEqual(1);
    expect(one?.reasons.at(-1)).toMatch(/^as good as the next within a point/);
    expect(other?.reasons.at(-1)).not.toMatch(/as good as the next/);
    const priced = two({ wires: [2, 1], supplies: [30] });
    expect(priced[0]?.price).toBeLessThan(priced[1]?.price as number);
    expect(priced[0]?.reasons.at(-1)).toBe("as good as the next within a point; first because it is cheaper");
    const hard = searchSetups(
      job,
      [
        { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" },
        { alloy: "nicr-80-20", diameter_mm: 0.64 },
      ],
      [bench],
      ["direct"],
    ).candidates;
    // Points far apart need no word.
    if (Math.abs((hard[0]?.score ?? 0) - (hard[1]?.score ?? 0)) >= 1) expect(hard[0]?.reasons.at(-1)).not.toMatch(/as good as/);
  });

  it("refusals are once a reason, with how many, most first", () => {
    const { rejected } = searchSetups(job, [spec, { alloy: "cuni-44", diameter_mm: 1.6 }], [{ kind: "dc", voltage_V: 3, maxCurrent_A: 2 }], ["direct", "pwm"]);
    expect(rejected.length).toBeGreaterThan(0);
    expect(rejected.map(({ count }) => count)).toEqual(rejected.map(({ count }) => count).sort((a, b) => b - a));
    expect(new Set(rejected.map(({ code, reason }) => `${code} ${reason.replace(/[\d.]+/g, "#")}`)).size).toBe(rejected.length);
  });
});
