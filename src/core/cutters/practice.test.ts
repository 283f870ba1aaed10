import { describe, expect, it } from "vitest";
import { runVerb } from "@/cli/verbs";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import type { Design } from "@/core/cutters/design/schema";
import { compareDesigns } from "@/core/cutters/solve/compare";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import { noCut } from "@/core/cutters/solve/describe";
import { calibrationOf, evaluateDesign, pairOf } from "@/core/cutters/solve/evaluate";
import { offcutOf } from "@/core/cutters/solve/offcut";
import { blocksOf } from "@/core/cutters/solve/readiness";
import { diagnose } from "@/core/diagnosis/diagnosis";
import { measureSupply } from "@/core/drawer/measuredSupply";
import { CoreError } from "@/core/kernel/errors";
import { demoLog } from "@/core/log/demoLog";
import type { TestCut } from "@/core/log/entries";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { leastKerfM } from "@/core/physics/cut/cut";
import { resolveWire } from "@/core/physics/heat/wire";
import { rateFromWeight } from "@/core/physics/mechanics/springs";
import { stiffBowM } from "@/core/physics/mechanics/stiffBow";
import { solderingTip, wandCut } from "@/core/physics/mechanics/stiffTools";
import { solveCircuit } from "@/core/physics/power/circuit";
import { schematicOf } from "@/core/sheets/schematic";
import type { SafetyKey } from "./design/vocabulary";
import { requireHonestReady } from "./solve/readiness";
import { safetyQuestions, unansweredSafety, withSafetyAnswer } from "./solve/safety";

const [longTom, gatepost, , , limpet] = DEMO_CUTTERS as [Design, Design, Design, Design, Design];
const codes = (design: Design) => evaluateDesign(design).cautions.map((caution) => caution.code);

describe("working practice comes out usable, with its caution (common practice)", () => {
  it.each([
    ["ss-304", 67],
    ["nicr-80-20", 110],
  ] as const)("0.64 mm annealed %s at %f N over 1.2 m", (alloy, hot_N) => {
    const design: Design = {
      ...longTom,
      wire: { alloy, diameter_mm: 0.64, length_mm: 1200 },
      frame: undefined,
      job: { ...longTom.job, width_mm: 1000, feed_mm_s: 5 },
      tension: { device: "weight", hot_N },
    };
    expect(codes(design)).toContain("takes-a-set");
    expect(blocksOf(design)).toEqual([]);
  });

  it("thin in the middle: first slow down, then pull harder", () => {
    const cut = demoLog().find((entry): entry is TestCut => entry.kind === "test-cut" && entry.face === "thin-middle") as TestCut;
    const causes = diagnose(longTom, cut, [], "metric").remedies.map((remedy) => remedy.cause);
    expect(causes.slice(0, 2)).toEqual(["too fast", "slack"]);
  });
});

describe("a narrow offcut flatters", () => {
  const solved = evaluateDesign(longTom);
  it("by pull and by bow (taut string, by hand), and by the bite; a piece near the job's width is fair", () => {
    const found = offcutOf(longTom, solved, 100, heatCourseOf(longTom, solved), "metric");
    expect(found?.pullTimes).toBeCloseTo(11, 9);
    // 1100 (2600 - 1100) over 100 (2600 - 100).
    expect(found?.bowTimes).toBeCloseTo((1100 * 1500) / (100 * 2500), 9);
    expect(found?.words).toMatch(
      /flatters: .* pulls 11 times as hard .* bows 6\.6 times as far .* judge the face after that, and measure the kerf where it has settled/,
    );
    expect((found?.biteM ?? 0) * 1000).toBeGreaterThan(5);
    expect(offcutOf(longTom, solved, 900, null, "metric")).toBeNull();
  });
});

describe("no figures of a cut that nobody will make", () => {
  it("an overload, a wire that never warms, one too short and one that would glow say why in place of kerf and bow", () => {
    const cold: Design = { ...longTom, supply: { kind: "bench", voltage_V: 1, current_A: 8 } };
    const short: Design = { ...longTom, job: { ...longTom.job, width_mm: 1400 } };
    const glows: Design = { ...gatepost, supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 20 } };
    expect([limpet, cold, short, glows, longTom].map((design) => noCut(evaluateDesign(design)))).toEqual([
      "supply can't",
      "never warms",
      "wire too short",
      "would glow",
      null,
    ]);
    const { figures, summary } = compareDesigns(longTom, limpet, "metric");
    for (const label of ["Kerf", "Top feed", "Heat in the cut", "Wire in the cut", "Bow at mid-span", "Wait at a corner"])
      expect(figures.find((figure) => figure.label === label)).toMatchObject({ b: "supply can't" });
    expect(figures.every((figure) => figure.better === null)).toBe(true);
    expect(summary).not.toMatch(/limit of kerf|feed ratio/);
    const solved = runVerb("solve", limpet) as { cut: unknown; lag_mm: unknown; noCut: string; limits: { name: string }[] };
    expect(solved).toMatchObject({ cut: null, lag_mm: null, noCut: "supply can't" });
    expect(solved.limits.map((row) => row.name)).not.toContain("kerf");
    expect(JSON.stringify(figures)).not.toMatch(/92\.84|21\.5/);
  });
});

describe("files of the version before", () => {
  const learnt = {
    foam: { family: "eps", density_kg_m3: 18 },
    at: "2026-10-30T10:00:00.000Z",
    cuts: 5,
    heatShare: 0.8,
    collapseShift_K: 2,
    densityShare: 1.05,
    dragShare: 1.6,
    extra_ohm: 0.1,
    factor: [0.05, 0.4, 3, 0.01, 0.02, 0.06, 0.1, 0.1, 0.1, 0.2],
  };
  it("open: what cuts taught of heat, collapse and density stands, drag begins again next to the clearance", () => {
    const design = migrateDesign({ ...longTom, version: 1, calibrations: [learnt] });
    expect(design.version).toBe(3);
    const saved = calibrationOf(design);
    expect(saved).toMatchObject({ heatShare: 0.8, collapseShift_K: 2, densityShare: 1.05, dragShare: 1, clearanceShare: 1, extra_ohm: 0.1 });
    expect(saved?.factor.slice(0, 6)).toEqual(learnt.factor.slice(0, 6));
    expect(saved?.factor).toHaveLength(15);
    expect(pairOf(design).heatShare).toBe(0.8);
    expect(migrateDesign({ ...longTom, version: 1 })).toEqual(migrateDesign({ ...longTom, wiring: undefined }));
    expect(() => migrateDesign({ ...longTom, version: 4 })).toThrow(/newer/);
    expect(() => migrateDesign({ ...longTom, version: 1, calibrations: [{ ...learnt, factor: "x" }] })).toThrow(/calibrations.0/);
  });
  it("safety answers that nobody is on record for become unknown, and a ready mark falls back with a notice", () => {
    const { answered: _answered, ...wiring } = longTom.wiring ?? {};
    for (const version of [1, 2]) {
      const old = migrateDesign({ ...longTom, version, wiring, ready: true });
      expect(old).toMatchObject({ version: 3, readyWithdrawn: true });
      expect([old.wiring, old.ready]).toEqual([undefined, undefined]);
      expect(unansweredSafety(old)).toEqual(["isolation", "fuse_A", "switch", "insulatedPost", "jumper"]);
      expect(() => requireHonestReady({ ...old, ready: true })).toThrow(/Not answered yet/);
      expect(migrateDesign({ ...longTom, version, wiring }).readyWithdrawn).toBeUndefined();
    }
  });
  it("each question answered by a person makes it ready; a value without an answer does not", () => {
    const bare = { ...longTom, wiring: { isolation: "isolated", fuse_A: 7.5, switch: "foot", insulatedPost: true, jumper: true } } as typeof longTom;
    let open = unansweredSafety(bare).length;
    expect(open).toBe(5);
    let design = bare;
    for (const [key, value] of Object.entries(bare.wiring ?? {})) {
      design = withSafetyAnswer(design, key as SafetyKey, value as never, "2026-12-01T10:00:00.000Z", "Rowan");
      open -= 1;
      expect(unansweredSafety(design)).toHaveLength(open);
      if (open > 0) expect(() => requireHonestReady({ ...design, ready: true })).toThrow(/Not answered yet/);
    }
    expect(() => requireHonestReady({ ...design, ready: true })).not.toThrow();
    // A weight has no spring to bridge, a battery no mains to be isolated from.
    expect(safetyQuestions({ ...design, tension: { device: "weight", hot_N: 12 } })).not.toContain("jumper");
    expect(safetyQuestions({ ...design, supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 } })).not.toContain("isolation");
  });
});

describe("sources people own", () => {
  const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.33 });
  const base = { wire, lengthM: 0.42, control: { kind: "direct" }, ambientC: 20 } as const;

  it("a newer train controller trips on a cold wire where an older one works (common practice)", () => {
    const plate = { kind: "dc", voltage_V: 8, maxCurrent_A: 2.2 } as const;
    const old = solveCircuit({ ...base, supply: { ...plate, make: "train" } });
    const fresh = solveCircuit({ ...base, supply: { ...plate, make: "train-modern" } });
    // Hot, the wire asks less than the plate; cold, more.
    expect(old.supplyCurrentA).toBeLessThan(2.2);
    expect(old.inrushA).toBeGreaterThan(2.2);
    expect(old.state).toBe("ok");
    expect(fresh.state).toBe("overload");
    expect(fresh.warnings.map((warning) => warning.code)).toContain("trips-cold");
  });

  it("its own knob turns the heat, and ends at its plate", () => {
    const design: Design = { ...gatepost, supply: { kind: "dc", voltage_V: 8, maxVoltage_V: 16, maxCurrent_A: 5, make: "train" }, control: { kind: "direct" } };
    const reach = evaluateDesign(design).reach;
    expect(reach.knob).toBe("voltage");
    expect(reach.toWPerM).toBeGreaterThan(3 * evaluateDesign(design).cut.powerWPerM);
  });

  it("a computer supply's drawing holds its power-on line to ground, and both lamps behind 330 ohm (common practice)", () => {
    const design: Design = { ...gatepost, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 18, make: "computer" } };
    const { drawing, notes } = schematicOf(design, evaluateDesign(design), "metric");
    const words = drawing.shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []));
    for (const text of ["power-on", "standby, 5 V", "power good, 5 V"]) expect(words).toContain(text);
    expect(words.filter((text) => text === "330 ohm")).toHaveLength(2);
    expect(notes.some((note) => !note.never && /power-on line to ground/.test(note.words))).toBe(true);
    expect(notes.some((note) => note.never && /Never open a computer supply/.test(note.words))).toBe(true);
    const plain = schematicOf(gatepost, evaluateDesign(gatepost), "metric");
    expect(plain.drawing.shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []))).not.toContain("power-on");
  });

  it("a supply without a plate: EMF and ohms from two readings (Ohm's law by hand), and no more than it was tried with", () => {
    // 14 V open; 12 V across 6 ohm is 2 A, so 2 V are lost on 1 ohm inside.
    const { supply, internalOhm, provenA, notes } = measureSupply({ openV: 14, loadedV: 12, loadOhm: 6, alternating: false });
    expect(internalOhm).toBeCloseTo(1, 12);
    expect(provenA).toBeCloseTo(2, 12);
    expect(supply).toEqual({ kind: "dc", voltage_V: 14, maxCurrent_A: 2, internal_ohm: 1, make: "hot-knife" });
    expect(notes.join()).toMatch(/2 A, not more/);
    expect(measureSupply({ openV: 14, loadedV: 12, loadOhm: 6, alternating: true }).supply).toMatchObject({ kind: "transformer", rating_VA: 28 });
    expect(measureSupply({ openV: 14, loadedV: 13.9, loadOhm: 100, alternating: false }).notes.join()).toMatch(/hardly fell/);
    expect(() => measureSupply({ openV: 12, loadedV: 14, loadOhm: 6, alternating: false })).toThrow(/never raises/);
    expect(() => measureSupply({ openV: 230, loadedV: 200, loadOhm: 60, alternating: true })).toThrow(CoreError);
    expect(() => measureSupply({ openV: 55, loadedV: 50, loadOhm: 60, alternating: true })).toThrow(/at most 50 V alternating/);
  });

  it("a spring by one weight: 2 kg stretch it 16 mm (Hooke by hand)", () => {
    expect(rateFromWeight(2 * 9.80665, 0.016)).toBeCloseTo(1225.83, 2);
    expect(rateFromWeight(20, 0.01, 5)).toBeCloseTo(1500, 9);
    expect(() => rateFromWeight(5, 0.01, 6)).toThrow(/more than the 6 N/);
    expect(runVerb("spring", { force_N: 20, stretch_mm: 10 })).toMatchObject({ rate_N_per_mm: 2 });
  });

  it("run time of a battery by verb agrees with charge over mean current", () => {
    const input = {
      wire: { alloy: "nicr-80-20", gauge_awg: 26 },
      length_mm: 420,
      supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 7 },
      control: { kind: "pwm", duty: 0.25 },
    };
    const run = runVerb("battery", input) as { runTime_s: number; endedBy: string };
    const on = (runVerb("circuit", input) as { supplyCurrent_A: number }).supplyCurrent_A;
    // The volts sag a little on the way, so a little longer than at its first current.
    expect(run.runTime_s / ((7 * 3600) / (0.25 * on))).toBeGreaterThan(1);
    expect(run.runTime_s / ((7 * 3600) / (0.25 * on))).toBeLessThan(1.1);
    expect(() => runVerb("battery", { ...input, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 } })).toThrow(/nothing else runs down/);
  });

  it("recycled board on the desk: a caution, and less sure of every figure", () => {
    const recycled: Design = { ...longTom, job: { ...longTom.job, foam: { ...longTom.job.foam, recycled: true } } };
    expect(codes(recycled)).toContain("recycled");
    expect(evaluateDesign(recycled).doubts.clearanceShare).toBeGreaterThan(evaluateDesign(longTom).doubts.clearanceShare);
    expect(evaluateDesign(recycled).cut).toEqual(evaluateDesign(longTom).cut);
  });
});

describe("small tools", () => {
  const pair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.8 }), foam: resolveFoam(parseFoamId("eps-20")), ambientC: 20 };

  it("a wand's end bends as a cantilever does (beam table): F' L^4/(8 E I), E hot taken as 0.8, both legs together", () => {
    const EI = 2 * 0.8 * 214e9 * ((Math.PI * 0.8e-3 ** 4) / 64);
    expect(stiffBowM({ kind: "wand", depthM: 0.06 }, pair.wire, 2)).toBeCloseTo((2 * 0.06 ** 4) / (8 * EI), 12);
    // Twice as deep bends sixteen times as far; half as thick, sixteen times.
    expect(stiffBowM({ kind: "wand", depthM: 0.12 }, pair.wire, 2) / stiffBowM({ kind: "wand", depthM: 0.06 }, pair.wire, 2)).toBeCloseTo(16, 9);
    const thin = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.4 });
    expect(stiffBowM({ kind: "wand", depthM: 0.06 }, thin, 2) / stiffBowM({ kind: "wand", depthM: 0.06 }, pair.wire, 2)).toBeCloseTo(16, 9);
  });

  it("a loop bends more the wider its base", () => {
    const narrow = stiffBowM({ kind: "loop", widthM: 0.01, depthM: 0.03 }, pair.wire, 2);
    expect(stiffBowM({ kind: "loop", widthM: 0.05, depthM: 0.03 }, pair.wire, 2)).toBeGreaterThan(2 * narrow);
  });

  it("a wand brings twice its wire's heat, and asks room for two wires and their gap", () => {
    const cut = wandCut(pair, 0.003, 40, 0.001);
    // The fast limit of the line source: kerf goes with heat.
    const double = runVerb("cut", { wire: { alloy: "nicr-80-20", diameter_mm: 0.8 }, foam: "eps-20", feed_mm_s: 3, power_W_per_m: 80 }) as { kerf_mm: number };
    expect(cut.kerfM * 1000).toBeCloseTo(double.kerf_mm, 9);
    expect(cut.feedRatio * cut.kerfM).toBeCloseTo(leastKerfM(pair) + 0.8e-3 + 1e-3, 12);
  });

  it("a copper rod in an iron carries its heat deep, a steel one only a little way; a small iron cools", () => {
    const rod = (metal: "copper" | "steel", watts = 60) =>
      solderingTip({ foam: pair.foam, ambientC: 20 }, { metal, diameterM: 0.002, depthM: 0.05 }, { watts, atC: 350 }, 0.003);
    const [copper, steel, small] = [rod("copper"), rod("steel"), rod("copper", 3)];
    expect(copper.endC).toBeGreaterThan(steel.endC);
    expect(copper.cutsM).toBeGreaterThan(steel.cutsM);
    expect(copper.endC).toBeLessThan(copper.rootC);
    expect(copper.ironFalls).toBe(false);
    expect(small.ironFalls).toBe(true);
    expect(small.takesW).toBeLessThanOrEqual(3.0001);
    expect(small.rootC).toBeLessThan(350);
    expect(() => solderingTip({ foam: pair.foam, ambientC: 20 }, { metal: "copper", diameterM: 0.002, depthM: 0.05 }, { watts: 60, atC: 90 }, 0.003)).toThrow(
      /above the foam's collapse/,
    );
  });

  it("on the desk a loop bends by its own stiffness, not by a pull it does not have", () => {
    const loop: Design = { ...limpet, supply: { kind: "bench", voltage_V: 0.5, current_A: 10, maxVoltage_V: 5 } };
    const slack = evaluateDesign({ ...loop, tension: { ...loop.tension, hot_N: 1 } });
    const taut = evaluateDesign({ ...loop, tension: { ...loop.tension, hot_N: 6 } });
    expect(slack.lagM).toBe(taut.lagM);
  });
});
