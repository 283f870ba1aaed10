import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../../../tests/helpers/runs";
import { designSchema } from "../cutters/design/schema";
import { evaluateDesign } from "../cutters/solve/evaluate";
import { DEMO_DRAWER } from "../drawer/demoDrawer";
import { holdingsOf } from "../drawer/holdings";
import { readPlate } from "../drawer/plate";
import { COMMON_SUPPLIES } from "../physics/power/common";
import { supplySchema } from "../physics/power/supplySchema";
import { type Answers, EXACTNESS, FIRST_ANSWERS, WANTED } from "./answers";
import { answersSchema } from "./answersSchema";
import { atHand, chooseSetups, kindFor } from "./choices";
import { THINGS } from "./things";
import { paceFor } from "./wishes";

const nothing = holdingsOf([]);
const shed = holdingsOf(DEMO_DRAWER.map((item, i) => ({ id: `id-${i}`, item })));

describe("from the job to a cutter", () => {
  it("a newcomer with a laptop brick and a PWM module: three that differ, all on that brick or with one thing to buy, each clean and unblocked", () => {
    const { choices, mustBuy } = chooseSetups({ ...FIRST_ANSWERS, things: ["laptop-19", "pwm"] }, nothing);
    expect(choices).toHaveLength(3);
    // No wire was ticked: that is bought, the rest is there.
    expect(choices[0]?.buy).toEqual(["wire"]);
    expect(mustBuy).toBe(true);
    for (const choice of choices) {
      expect(evaluateDesign(choice.design).verdict).toBe("clean");
      expect(choice.blocked).toEqual([]);
      expect(designSchema.safeParse(choice.design).success).toBe(true);
      // A safety question is answered by a person.
      expect(choice.design.wiring).toBeUndefined();
      expect(choice.design.notes).toMatch(/measure the kerf at the far end/);
    }
    expect(choices.slice(1).every((choice) => choice.differs !== null)).toBe(true);
  });

  it("with everything ticked nothing need be bought for the first choice", () => {
    const { choices, mustBuy } = chooseSetups({ ...FIRST_ANSWERS, things: THINGS.map((thing) => thing.id) }, nothing);
    expect(choices[0]?.buy).toEqual([]);
    expect(mustBuy).toBe(false);
  });

  it("a wire that is owned is that very one: its temper and its strands count", () => {
    const { choices } = chooseSetups({ ...FIRST_ANSWERS, width_mm: 900, wanted: "shape", things: ["laptop-19", "pwm", "lock-064"] }, nothing);
    const lock = THINGS.find(({ id }) => id === "lock-064");
    if (lock?.kind !== "wire") throw new Error("no lock wire");
    for (const { buy, design } of choices)
      if (!buy.includes("wire"))
        expect([design.wire.temper ?? "annealed", design.wire.strands ?? 1, design.wire.diameter_mm]).toEqual([
          lock.wire.temper ?? "annealed",
          1,
          lock.wire.diameter_mm,
        ]);
    const hard = choices.filter(({ design }) => design.wire.temper === "spring");
    for (const { buy } of hard) expect(buy).toContain("wire");
  });

  it("mains-side parts are offered only to one who asked for them", () => {
    for (const mains of [true, false]) {
      const have = atHand({ ...FIRST_ANSWERS, mains, things: ["transformer-24", "dimmer"] }, nothing);
      expect(have.supplies.some((supply) => supply.kind === "transformer")).toBe(mains);
    }
    const { choices } = chooseSetups({ ...FIRST_ANSWERS, things: ["transformer-24"] }, nothing);
    for (const choice of choices) expect(choice.design.supply.kind).not.toBe("transformer");
  });

  it("the demo's shed serves its own jobs from the drawer", () => {
    const { choices } = chooseSetups({ ...FIRST_ANSWERS, width_mm: 300 }, shed);
    expect(choices[0]?.buy).toEqual([]);
  });

  it("which cutter, and what pace: sheets on a slicer, pockets with a loop, denser foam slower (common practice)", () => {
    expect(kindFor("sheets", 200)).toBe("slicer");
    expect(kindFor("pockets", 40)).toBe("loop");
    expect(kindFor("straight", 250)).toBe("table");
    expect(kindFor("straight", 900)).toBe("bow");
    expect(kindFor("shape", 900)).toBe("template");
    const pace = (family: "eps" | "xps" | "epp", density_kg_m3: number) => paceFor({ foam: { family, density_kg_m3 }, brisk: false, exact: "fair" });
    // Four seconds an inch in light bead foam.
    expect(Math.abs(pace("eps", 18) - 6.35)).toBeLessThan(0.3);
    expect(pace("xps", 35)).toBeLessThan(pace("eps", 18));
    expect(pace("epp", 30)).toBeLessThan(pace("xps", 35));
  });

  it("any answers give cutters that are clean, valid and not blocked, or say why there is none", () => {
    const answers: fc.Arbitrary<Answers> = fc.record({
      foam: fc.constantFrom<Answers["foam"]>(
        { family: "eps", density_kg_m3: 15 },
        { family: "xps", density_kg_m3: 35 },
        { family: "xps", density_kg_m3: 48, recycled: true },
        { family: "epp", density_kg_m3: 30 },
        { family: "pe", density_kg_m3: 33, weighed: true },
      ),
      width_mm: fc.integer({ min: 20, max: 2000 }),
      thickness_mm: fc.integer({ min: 2, max: 600 }),
      wanted: fc.constantFrom(...WANTED),
      pieces: fc.integer({ min: 1, max: 500 }),
      exact: fc.constantFrom(...EXACTNESS),
      drawer: fc.boolean(),
      sheet: fc.record({ thick_mm: fc.double({ min: 0.5, max: 20, noNaN: true }), along_mm: fc.integer({ min: 50, max: 2000 }) }),
      things: fc.subarray(THINGS.map((thing) => thing.id)),
      mains: fc.boolean(),
      brisk: fc.boolean(),
    });
    fc.assert(
      fc.property(answers, (requested) => {
        expect(answersSchema.safeParse(requested).success).toBe(true);
        const { choices, why } = chooseSetups(requested, shed);
        if (choices.length === 0) {
          expect(why?.length).toBeGreaterThan(5);
          return;
        }
        for (const { design, candidate } of choices) {
          expect(designSchema.safeParse(design).success).toBe(true);
          expect(design.job.width_mm).toBe(requested.width_mm);
          // At a very border a hand's rounded setting may tip over.
          if (Math.min(...Object.entries(candidate.margins).map(([name, margin]) => (name === "fuse" || name === "knob" ? 1 : margin))) > 0.06)
            expect(evaluateDesign(design).verdict, JSON.stringify([requested, candidate.control, candidate.margins])).toBe("clean");
        }
      }),
      { numRuns: runs(60), seed: 11 },
    );
  });
});

describe("what people have", () => {
  it("is one list: ticked at the start, chosen on the desk, typed as a plate; a 9 V block is the same everywhere", () => {
    const block = COMMON_SUPPLIES.find(({ id }) => id === "block-9")?.supply;
    expect(block).toMatchObject({ kind: "battery", chemistry: "alkaline", cells: 6 });
    const answers = { ...FIRST_ANSWERS, things: ["block-9"], drawer: false };
    expect(atHand(answers, nothing).supplies).toEqual([block]);
    expect(readPlate("9 V block").supply).toEqual(block);
    for (const { name, supply, refused } of COMMON_SUPPLIES) {
      if (refused) expect(() => readPlate(name)).toThrow(refused);
      else expect(readPlate(` ${name.toUpperCase()} `).supply).toEqual(supply);
      expect(supplySchema.safeParse(supply).success).toBe(true);
    }
  });
  it("what must not be used is listed with its reason, and serves no set-up: a variable transformer of unknown isolation, a smart charger", () => {
    for (const id of ["variable-unknown", "charger-smart"]) {
      expect(THINGS.find((thing) => thing.id === id)?.refused).toBeDefined();
      expect(atHand({ ...FIRST_ANSWERS, things: [id], drawer: false, mains: true }, nothing).supplies).toEqual([]);
    }
    expect(atHand({ ...FIRST_ANSWERS, things: ["variable-isolated"], drawer: false, mains: true }, nothing).supplies).toHaveLength(1);
  });
});
