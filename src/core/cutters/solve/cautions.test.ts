import { describe, expect, it } from "vitest";
import { JUDGEMENT } from "../../kernel/constants";
import { leastOhm } from "../../physics/power/circuit";
import { FUSE_HEADROOM, fuseAdvice } from "../../physics/power/powerAdvice";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { type Design, designSchema } from "../design/schema";
import { CAUTION_RULES, cautionsFor } from "./cautions";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";

const tom = designSchema.parse(DEMO_CUTTERS.find(({ name }) => name === "Long Tom"));
const solved = evaluateDesign(tom);

/** The demo's bow as it was solved, with some of its figures changed: the tests look at its cautions. */
interface Change {
  design?: Partial<Design>;
  circuit?: Partial<DesignEvaluation["circuit"]>;
  foam?: Partial<DesignEvaluation["pair"]["foam"]>;
  tension?: Partial<DesignEvaluation["tension"]>;
  wireInKerfC?: number;
}
function result({ design = {}, circuit = {}, foam = {}, tension = {}, wireInKerfC }: Change) {
  const cut = solved.circuit.cut && wireInKerfC !== undefined ? { cut: { ...solved.circuit.cut, wireC: wireInKerfC } } : {};
  return cautionsFor(
    { ...tom, ...design },
    { ...solved.circuit, ...cut, ...circuit },
    { ...solved.pair, foam: { ...solved.pair.foam, ...foam } },
    { ...solved.tension, ...tension },
  );
}
const codes = (change: Change) => result(change).map(({ code }) => code);
const says = (code: string, change: Change, units: "metric" | "inch" = "metric") => {
  const caution = result(change).find((each) => each.code === code);
  if (!caution) throw new Error(`${code} is not raised`);
  return caution.words(units);
};
/** Raised on one side of a border and not on it nor on the other. */
function border(code: string, over: Change, at: Change, under: Change) {
  expect([code, codes(over).includes(code)]).toEqual([code, true]);
  expect([code, codes(at).includes(code)]).toEqual([code, false]);
  expect([code, codes(under).includes(code)]).toEqual([code, false]);
}
const { foam } = solved.pair;
const limits = { setN: 100, creepsN: 150, breaksN: 200, recommendedN: 60 } as DesignEvaluation["tension"]["hotLimits"];

describe("cautions", () => {
  it("nothing is raised of the demo's bow; a rule's place, weight and source are its own", () => {
    expect(codes({})).toEqual([]);
    expect(new Set(CAUTION_RULES.map(({ code }) => code)).size).toBe(CAUTION_RULES.length);
    for (const { source, basis } of CAUTION_RULES) expect([source.length > 5, basis.length > 5]).toEqual([true, true]);
    // What kills or burns blocks; what wears or annoys does not.
    const blocking = CAUTION_RULES.filter(({ blocks }) => blocks).map(({ code }) => code);
    expect(blocking).toEqual(
      expect.arrayContaining([
        "trips-cold",
        "overload",
        "glowing",
        "touch-voltage",
        "leads-hot",
        "breaks-hot",
        "breaks-cold",
        "frame-weak",
        "isolation-unknown",
        "no-fuse",
        "fuse-too-large",
        "frame-live",
        "current-through-spring",
        "short-wire",
      ]),
    );
    expect(blocking).toHaveLength(14);
    for (const { severity, code } of CAUTION_RULES.filter(({ blocks }) => blocks))
      expect([code, severity]).toEqual([code, code === "short-wire" ? "caution" : "danger"]);
  });

  it("the gravest come first", () => {
    const order = result({
      design: { wiring: { switch: "none", insulatedPost: false, isolation: "unknown" } } as Partial<Design>,
      circuit: { jointC: 95 },
    }).map(({ severity }) => severity);
    expect(order).toEqual([...order].sort((a, b) => (a === b ? 0 : a === "danger" ? -1 : 1)));
    expect(order).toContain("caution");
    expect(order[0]).toBe("danger");
  });

  it("heat in air: glowing, self-ignition and flash ignition, each over its own border, the last two never together", () => {
    const at = (wireC: number): Change => ({ circuit: { wireC } });
    border("glowing", at(JUDGEMENT.glowingC + 0.1), at(JUDGEMENT.glowingC), at(JUDGEMENT.glowingC - 1));
    border("above-self-ignition", at(foam.selfIgnitionC + 0.1), at(foam.selfIgnitionC), at(foam.selfIgnitionC - 1));
    border("above-flash-ignition", at(foam.flashIgnitionC + 0.1), at(foam.flashIgnitionC), at(foam.flashIgnitionC - 1));
    expect(codes(at(foam.selfIgnitionC))).toContain("above-flash-ignition");
    expect(codes(at(foam.selfIgnitionC + 0.1))).not.toContain("above-flash-ignition");
    expect(says("glowing", at(700))).toContain("700 °C");
    expect(says("above-self-ignition", at(600))).toMatch(new RegExp(`600 °C; vapour of this foam lights on its own near ${foam.selfIgnitionC.toFixed(0)} °C`));
    expect(says("above-flash-ignition", at(foam.flashIgnitionC + 5))).toContain(
      `${(foam.flashIgnitionC + 5).toFixed(0)} °C, above this foam's flash ignition near ${foam.flashIgnitionC.toFixed(0)} °C`,
    );
  });

  it("fumes by the wire's heat in the kerf, and not where there is no cut", () => {
    border("fumes", { wireInKerfC: foam.fumeCautionC + 0.1 }, { wireInKerfC: foam.fumeCautionC }, { wireInKerfC: 150 });
    expect(codes({ wireInKerfC: 500, circuit: { cut: undefined } })).not.toContain("fumes");
    expect(says("fumes", { wireInKerfC: foam.fumeCautionC + 20 })).toContain(
      `at about ${(foam.fumeCautionC + 20).toFixed(0)} °C; above ${foam.fumeCautionC.toFixed(0)} °C`,
    );
  });

  it("supply: overload and what trips on a cold wire are different cautions; a lower duty does not help where the on-current stands", () => {
    const trips = [{ code: "trips-cold", message: "" }];
    expect(codes({ circuit: { state: "overload" } })).toEqual(["overload"]);
    expect(codes({ circuit: { state: "overload", warnings: trips } })).toEqual(["trips-cold"]);
    expect(says("trips-cold", { circuit: { state: "overload", warnings: trips, inrushA: 12.3 } })).toMatch(
      /would draw 12\.\d+ A; this make cuts out at 8\.?0* A/,
    );
    const overload = says("overload", { circuit: { state: "overload", supplyCurrentA: 9.5 } });
    expect(overload).toMatch(/asks 9\.5\d* A of a supply rated 8\.?0* A/);
    expect(overload).not.toContain("lower duty");
    expect(
      says("overload", {
        design: { supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 4 }, control: { kind: "pwm", duty: 0.4 } },
        circuit: { state: "overload" },
      }),
    ).toContain("A lower duty does not help");
    const brick: Partial<Design> = { supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 7 } };
    const least = leastOhm(brick.supply as Design["supply"]);
    expect(least).toBe(2);
    border("under-wire", { design: brick, circuit: { coldOhm: 1.99 } }, { design: brick, circuit: { coldOhm: 2 } }, { design: brick, circuit: { coldOhm: 3 } });
    // What holds its own limit does not mind.
    expect(codes({ circuit: { coldOhm: 0.1 } })).not.toContain("under-wire");
    expect(says("under-wire", { design: brick, circuit: { coldOhm: 1.5, inrushA: 9.3 } })).toMatch(
      /cold wire is 1\.50? ohm; this supply wants at least 2\.?0* ohm .* draw 9\.3\d* A/,
    );
  });

  it("touch: by the kind of current, and says which", () => {
    const dc = (voltage_V: number, control: Design["control"] = { kind: "direct" }): Change => ({
      design: { supply: { kind: "bench", voltage_V, current_A: 8 }, control },
    });
    border("touch-voltage", dc(JUDGEMENT.touchDcCautionV + 0.1), dc(JUDGEMENT.touchDcCautionV), dc(12));
    border("touch-voltage", dc(JUDGEMENT.touchAcV + 0.1, { kind: "pwm", duty: 0.5 }), dc(JUDGEMENT.touchAcV, { kind: "pwm", duty: 0.5 }), dc(12));
    expect(says("touch-voltage", dc(90))).toMatch(new RegExp(`^90\\.?0* V on a bare wire can shock: stay at or under ${JUDGEMENT.touchDcCautionV} V direct`));
    expect(says("touch-voltage", dc(90, { kind: "pwm", duty: 0.5 }))).toContain(`under ${JUDGEMENT.touchAcV} V chopped or alternating`);
  });

  it("leads end at 70 degC and joints at 90; hot leads are said alone", () => {
    border("leads-hot", { circuit: { leadC: 70.1 } }, { circuit: { leadC: 70 } }, { circuit: { leadC: 40 } });
    border("joints-hot", { circuit: { jointC: 90.1 } }, { circuit: { jointC: 90 } }, { circuit: { jointC: 40 } });
    expect(codes({ circuit: { jointC: 200, leadC: 71 } })).toEqual(["leads-hot"]);
    expect(codes({ circuit: { jointC: 200, leadC: 70 } })).toEqual(["joints-hot"]);
    expect(says("leads-hot", { circuit: { leadC: 88, currentA: 6.5 } })).toMatch(
      /14 AWG leads would run near 88 °C at 6\.50? A; ordinary insulation ends at 70 °C/,
    );
    expect(says("joints-hot", { circuit: { jointC: 111 } })).toContain("near 111 °C");
  });

  it("pull against what the wire withstands, hot and cold, each over its own border and once", () => {
    const hot = (hotN: number): Change => ({ tension: { hotN, hotLimits: limits, coldN: 10, coldLimits: limits } });
    border("breaks-hot", hot(150.1), hot(150), hot(50));
    border("takes-a-set", hot(100.1), hot(100), hot(50));
    expect(codes(hot(150))).toEqual(["takes-a-set"]);
    expect(codes(hot(151))).toEqual(["breaks-hot"]);
    const cold = (coldN: number, hotN = 50): Change => ({
      design: { tension: { device: "weight", hot_N: 50 } },
      tension: { coldN, hotN, hotLimits: limits, coldLimits: limits },
    });
    border("breaks-cold", cold(200.1), cold(200), cold(50));
    border("yields-cold", cold(100.1), cold(100), cold(50));
    expect(codes(cold(200))).toEqual(["yields-cold"]);
    expect(codes(cold(201))).toEqual(["breaks-cold"]);
    // Where it takes its set hot anyway that is enough to say.
    expect(codes(cold(150, 120))).toEqual(["takes-a-set"]);
    expect(codes(cold(150, 100))).toEqual(["yields-cold"]);
    expect(says("breaks-hot", hot(160))).toMatch(/breaks at 200 N: under 160 N .* Keep under 150 N/);
    expect(says("breaks-cold", cold(210))).toMatch(/pulls 210 N, and this wire breaks at 200 N/);
    expect(says("takes-a-set", hot(120))).toMatch(/^120 N is past the proof load of 100 N/);
    expect(says("yields-cold", cold(130))).toMatch(/pulls 130 N: past this wire's proof load of 100 N/);
  });

  it("a spring keeps ten millimetres in hand: usable stretch less what the cold pull makes beyond what it is wound with", () => {
    const spring = (coldN: number, more: object = {}): Change => ({
      design: { tension: { device: "spring", hot_N: 60, rate_N_per_mm: 2, initial_N: 10, travel_mm: 50, ...more } },
      tension: { coldN, hotN: 40, hotLimits: limits, coldLimits: limits },
    });
    // (90 - 10)/2 = 40 mm of 50.
    border("spring-travel", spring(90.1), spring(90), spring(60));
    expect(says("spring-travel", spring(94))).toMatch(/only 8\.0\d* mm of stretch in hand; at least 10 mm/);
    expect(says("spring-travel", spring(98, { travel_mm: 40 }))).toMatch(/4\.0\d* mm past its usable stretch/);
    expect(codes(spring(90.1, { travel_mm: undefined }))).toEqual([]);
    expect(codes(spring(90.1, { rate_N_per_mm: undefined }))).toEqual([]);
    expect(codes(spring(90.1, { device: "weight" }))).toEqual([]);
    expect(codes(spring(5, { travel_mm: 10 }))).toEqual([]);
    expect(codes(spring(5, { travel_mm: 9.9 }))).toEqual(["spring-travel"]);
    // Without winding all of the pull stretches it.
    expect(codes(spring(80.1, { initial_N: undefined }))).toEqual(["spring-travel"]);
  });

  it("fuses: none where something can burn, too large for the leads, too small for the work", () => {
    const wiring = (fuse_A: number | null): Partial<Design> => ({ wiring: { ...tom.wiring, fuse_A } as Design["wiring"] });
    const { leadRatingA, fuseA } = fuseAdvice(solved.circuit.supplyCurrentA, tom.leads?.gauge_awg);
    border("fuse-too-large", { design: wiring(leadRatingA + 1) }, { design: wiring(leadRatingA) }, { design: wiring(fuseA) });
    const needs = FUSE_HEADROOM * solved.circuit.supplyCurrentA;
    border("fuse-too-small", { design: wiring(needs * 0.999) }, { design: wiring(needs) }, { design: wiring(needs * 1.2) });
    expect(says("fuse-too-large", { design: wiring(40) })).toBe(
      `A 40 A fuse does not protect leads good for ${leadRatingA} A: they burn first. ${fuseA} A is right here.`,
    );
    expect(says("fuse-too-small", { design: wiring(2) })).toMatch(new RegExp(`A 2 A fuse will blow at ${solved.circuit.supplyCurrentA.toFixed(2)} A of work`));
    // A bench supply of 8 A on leads good for more burns nothing; a strong one does, and a battery always.
    expect(codes({ design: wiring(null) })).toEqual([]);
    const strong: Partial<Design> = { ...wiring(null), supply: { kind: "bench", voltage_V: 14, current_A: leadRatingA + 1 } };
    expect(codes({ design: strong })).toContain("no-fuse");
    expect(codes({ design: { ...strong, supply: { kind: "bench", voltage_V: 14, current_A: leadRatingA } } })).not.toContain("no-fuse");
    expect(says("no-fuse", { design: strong })).toMatch(/this supply drives more .* at the supply's output/);
    const battery: Partial<Design> = { ...wiring(null), supply: { kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 } };
    expect(codes({ design: battery })).toEqual(expect.arrayContaining(["no-fuse", "battery-fuse"]));
    expect(says("no-fuse", { design: battery })).toMatch(/this battery drives more .* at the battery's terminal/);
    expect(says("battery-fuse", { design: battery })).toContain(`(${fuseAdvice(solved.circuit.supplyCurrentA).fuseA} A for this wire)`);
    expect(codes({})).not.toContain("battery-fuse");
  });

  it("wiring and what else is chosen: each by its own word alone", () => {
    const wired = (more: object): Change => ({ design: { wiring: { ...tom.wiring, ...more } as Design["wiring"] } });
    expect(codes(wired({ isolation: "unknown" }))).toEqual(["isolation-unknown"]);
    expect(
      codes({ design: { ...wired({ isolation: "unknown" }).design, supply: { kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 } } }),
    ).not.toContain("isolation-unknown");
    expect(codes(wired({ insulatedPost: false }))).toEqual(["frame-live"]);
    expect(codes(wired({ insulatedPost: true }))).toEqual([]);
    expect(codes(wired({ jumper: false }))).toEqual(tom.tension.device === "spring" ? ["current-through-spring"] : []);
    expect(codes({ design: { ...wired({ jumper: false }).design, tension: { device: "weight", hot_N: 65 } } })).not.toContain("current-through-spring");
    expect(codes(wired({ switch: "none" }))).toEqual(["no-switch"]);
    expect(codes(wired({ switch: "foot" }))).toEqual([]);
    expect(codes({ design: { supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 200 }, control: { kind: "direct" } } })).toContain("mains-side");
    expect(codes({ design: { job: { ...tom.job, foam: { ...tom.job.foam, recycled: true } } } })).toEqual(["recycled"]);
    expect(codes({ design: { job: { ...tom.job, width_mm: tom.wire.length_mm } } })).toEqual([]);
    const short: Change = { design: { job: { ...tom.job, width_mm: tom.wire.length_mm + 1 } } };
    expect(codes(short)).toEqual(["short-wire"]);
    expect(says("short-wire", short)).toContain(`${tom.wire.length_mm + 1} mm wide and the wire ${tom.wire.length_mm} mm long`);
    expect(codes({ design: { control: { kind: "clip", live_mm: tom.job.width_mm - 1 } } })).toContain("short-wire");
    expect(says("above-self-ignition", { circuit: { wireC: 600 } }, "inch")).toContain("1112 °F");
  });

  it("held by its ohms, a wire whose ohms show little or nothing of its heat is a caution; stainless shows it", () => {
    const held = (alloy: string, hold_C = 300) =>
      evaluateDesign({
        ...tom,
        supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 20 },
        control: { kind: "held", hold_C },
        wire: { ...tom.wire, alloy, temper: undefined } as Design["wire"],
      });
    const of = (alloy: string, hold_C?: number) =>
      held(alloy, hold_C)
        .cautions.find(({ code }) => code === "held-blind")
        ?.words("metric");
    expect(of("ss-304")).toBeUndefined();
    expect(of("nicr-80-20")).toMatch(/hardly tell its heat: one per cent of reading is \d+ °C|do not rise with heat here/);
    expect(of("nicr-80-20", 600)).toMatch(/do not rise with heat here|hardly tell/);
  });
});
