import { describe, expect, it } from "vitest";
import { evaluateDesign } from "../cutters/solve/evaluate";
import { unansweredSafety } from "../cutters/solve/safety";
import type { Holdings } from "../drawer/holdings";
import { resolveFoam } from "../materials/foams";
import type { Supply } from "../physics/power/supplies";
import { FIRST_ANSWERS, sheetGrams } from "./answers";
import { fromBlock, heldBlocks, isBlock } from "./blocks";
import { atHand, chooseSetups, kindFor, nameFor, startJob } from "./choices";
import { jobCard, START_STEPS } from "./jobCard";
import { gramsALitre } from "./looks";
import { THINGS } from "./things";
import { EXACT_WORDS, KERF_MM, paceFor, WANTED_WORDS } from "./wishes";

/** A drawer of a few things: small enough to be searched at once. */
const holds = (wires: readonly object[], supplies: readonly Supply[], controls: readonly string[]): Holdings =>
  ({ wires: wires.map((spec) => ({ spec })), supplies: supplies.map((supply) => ({ supply })), controls: controls.map((kind) => ({ kind })) }) as never;
const steel = (diameter_mm: number) => ({ alloy: "ss-304", diameter_mm });
const bench: Supply = { kind: "bench", voltage_V: 30, current_A: 10 };
const SIZES = [steel(0.3), steel(0.41), steel(0.56)];

describe("the job behind the answers", () => {
  it("which cutter: a hand's span along the wire is a table's, more is a bow's or two templates'", () => {
    expect([kindFor("straight", 350), kindFor("straight", 351)]).toEqual(["table", "bow"]);
    expect([kindFor("shape", 350), kindFor("shape", 351)]).toEqual(["table", "template"]);
  });
  it("the pace: a third brisker, a seventh slower where it must be exact, by the root of the density, within what a hand keeps", () => {
    const pace = (more: object) => paceFor({ foam: { family: "eps", density_kg_m3: 20 }, brisk: false, exact: "fair", ...more });
    expect(pace({ brisk: true }) / pace({})).toBeCloseTo(1.35, 1);
    expect(pace({ exact: "fine" }) / pace({})).toBeCloseTo(0.85, 1);
    expect(pace({ exact: "rough" })).toBe(pace({}));
    expect(pace({ foam: { family: "eps", density_kg_m3: 45 } }) / pace({})).toBeCloseTo(2 / 3, 1);
    expect(pace({ foam: { family: "eps", density_kg_m3: 10 }, brisk: true })).toBe(9);
    expect(pace({ foam: { family: "epp", density_kg_m3: 200 } })).toBe(1.5);
  });
  it("reaches the search in metres, the kerf by how exact it must be", () => {
    const job = startJob({ ...FIRST_ANSWERS, width_mm: 640, exact: "fine" }, "inch");
    expect(job.widthM).toBeCloseTo(0.64, 12);
    expect(job.feedMPerS).toBeCloseTo(paceFor({ ...FIRST_ANSWERS, exact: "fine" }) / 1000, 12);
    expect(job.acceptedKerfM).toBeCloseTo(0.0016, 12);
    expect(job.bowM).toBeGreaterThan(0.64);
    expect(job.bowM).toBeLessThan(1);
    expect(job.units).toBe("inch");
  });
  it("what is at hand: what is ticked of each kind, and the drawer where it counts; straight on is always there, each control once", () => {
    const wire = THINGS.find(({ kind }) => kind === "wire");
    const supply = THINGS.find(({ kind }) => kind === "supply");
    const held = holds([steel(0.5)], [bench], ["pwm", "buck"]);
    const ticked = [wire?.id, supply?.id, "pwm"] as string[];
    const own = atHand({ ...FIRST_ANSWERS, drawer: false, things: ticked }, held);
    expect(own.wires).toEqual([wire && "wire" in wire && wire.wire]);
    expect(own.supplies).toEqual([supply && "supply" in supply && supply.supply]);
    expect(own.controls).toEqual(["direct", "pwm"]);
    const both = atHand({ ...FIRST_ANSWERS, drawer: true, things: ticked }, held);
    expect([both.wires.length, both.supplies.length]).toEqual([2, 2]);
    expect(both.controls).toEqual(["direct", "pwm", "buck"]);
    expect(atHand({ ...FIRST_ANSWERS, things: [] }, holds([], [], []))).toEqual({ wires: [], supplies: [], controls: ["direct"] });
  });
});

describe("thin sheets from a block at hand", () => {
  const rows = [
    {
      id: "a",
      item: {
        kind: "foam",
        name: "beam end",
        owned: true,
        family: "eps",
        density_kg_m3: 18,
        block_length_mm: 120,
        block_width_mm: 600,
        block_thickness_mm: 180,
      },
    },
    { id: "b", item: { kind: "foam", name: "no sizes", owned: true, family: "xps", density_kg_m3: 30 } },
    {
      id: "c",
      item: { kind: "foam", name: "to buy", owned: false, family: "xps", density_kg_m3: 30, block_length_mm: 9, block_width_mm: 9, block_thickness_mm: 9 },
    },
  ] as never;
  it("the block gives its foam and its sizes: the shortest side stands, the longest lies along the cut", () => {
    const [block, ...others] = heldBlocks(rows);
    expect(others).toEqual([]);
    expect(block).toMatchObject({ name: "beam end", width_mm: 180, along_mm: 600, thickness_mm: 120 });
    const answers = { ...FIRST_ANSWERS, ...(block && fromBlock(FIRST_ANSWERS, block)) };
    expect(answers).toMatchObject({ foam: { family: "eps", density_kg_m3: 18 }, width_mm: 180, thickness_mm: 120, sheet: { thick_mm: 2, along_mm: 600 } });
    expect([block && isBlock(answers, block), block && isBlock(FIRST_ANSWERS, block)]).toEqual([true, false]);
  });
  it("a sheet weighs its volume of foam: 2 mm of 1 m by 0.5 m at 20 kg/m3 is 20 g, and the card says so", () => {
    const answers = { ...FIRST_ANSWERS, wanted: "sheets" as const, width_mm: 500, sheet: { thick_mm: 2, along_mm: 1000 }, pieces: 10 };
    expect(sheetGrams(answers)).toBeCloseTo(20, 9);
    expect(jobCard(answers, "metric", false).block).toMatch(/10 sheets of 2 mm, about 20\.0 g each/);
  });
});

describe("choices from a small drawer", () => {
  const choose = (held: Holdings, more: object = {}) => chooseSetups({ ...FIRST_ANSWERS, ...more }, held);
  it("what is owned comes first with nothing to buy; every choice differs from the others, and cautions are the desk's", () => {
    const { choices, mustBuy, why } = choose(holds([...SIZES, steel(0.42)], [bench], []));
    expect(choices[0]).toMatchObject({ kind: "owned", buy: [], differs: null });
    expect([mustBuy, why]).toEqual([false, null]);
    expect(choices).toHaveLength(3);
    expect(choices.slice(1).every(({ differs }) => differs !== null)).toBe(true);
    for (const { design, hurts, bowMm } of choices) {
      const { cautions } = evaluateDesign(design);
      const own = hurts.filter(({ words }) => !words.startsWith("At mid-span"));
      expect(own).toEqual(cautions.map(({ severity, words }) => ({ danger: severity === "danger", words: words("metric") })));
      expect(hurts.length > own.length).toBe(bowMm > 6);
    }
  });
  it("with nothing at hand the cheapest is a brick with a light dimmer's module, not a bench supply; the best cut bows and melts least", () => {
    const { choices } = choose(holds([], [], []));
    const [cheapest, best] = choices;
    expect(cheapest).toMatchObject({ kind: "cheapest", design: { supply: { kind: "dc" } } });
    expect(["pwm", "clip", "direct"]).toContain(cheapest?.design.control.kind);
    const deviation = (choice: (typeof choices)[number] | undefined) => (choice ? choice.bowMm + choice.candidate.cut.kerfM * 1000 : Number.NaN);
    expect(best?.kind).toBe("best-cut");
    for (const other of choices) expect(deviation(best)).toBeLessThan(deviation(other) + 0.5);
    // The smallest supply that serves.
    const supply = cheapest?.design.supply as { maxCurrent_A: number };
    expect(supply.maxCurrent_A).toBeLessThan(3 * (cheapest?.candidate.currentA ?? 0));
  });
  it("for a finer cut none bows more than it bears where any bows less", () => {
    for (const [exact, most] of [
      ["fine", 3],
      ["fair", 6],
    ] as const)
      for (const { bowMm } of choose(holds([], [], []), { exact, width_mm: 1100 }).choices) expect(bowMm).toBeLessThanOrEqual(most);
  });
  it("an owned supply that no choice uses says why", () => {
    const weak: Supply = { kind: "dc", voltage_V: 5, maxCurrent_A: 0.3 };
    const { passedOver } = choose(holds(SIZES, [bench, weak], []));
    expect(passedOver).toHaveLength(1);
    expect(passedOver[0]?.why).toBe("With no wire does it give heat enough for 6.0 mm/s.");
    expect(choose(holds(SIZES, [bench], []), { things: ["charger-smart"] }).passedOver[0]?.why).toMatch(/without a battery/);
  });
  it("an owned supply that is too weak for the usual pace is offered at the fastest one that it serves", () => {
    const block: Supply = { kind: "battery", chemistry: "alkaline", cells: 6, capacity_Ah: 0.55 };
    const given = { wanted: "sheets" as const, width_mm: 180, thickness_mm: 50 };
    const { choices } = choose(holds([], [block], []), given);
    const slow = choices.find(({ kind }) => kind === "slower");
    expect(slow?.design.supply).toEqual(block);
    expect(slow?.buy).not.toContain("supply");
    const feed = slow?.design.job.feed_mm_s ?? 0;
    expect(feed).toBeLessThan(paceFor({ ...FIRST_ANSWERS, ...given }));
    // Clean there, and at no pace that was tried before it.
    expect(slow && evaluateDesign(slow.design).verdict).toBe("clean");
    expect(slow && evaluateDesign({ ...slow.design, job: { ...slow.design.job, feed_mm_s: 2 * feed } }).verdict).not.toBe("clean");
    // One that serves is taken as it is.
    expect(choose(holds(SIZES, [bench], [])).choices.map(({ kind }) => kind)).not.toContain("slower");
  });
  it("a supply that must not be touched is not offered, nor a transformer unasked", () => {
    for (const choice of choose(holds(SIZES, [{ kind: "dc", voltage_V: 125, maxCurrent_A: 5 }, bench], ["pwm"])).choices)
      expect(choice.design.supply.kind).toBe("bench");
    const iron: Supply = { kind: "transformer", voltage_Vrms: 24, rating_VA: 250, internal_ohm: 0.2 };
    const kinds = (mains: boolean) => choose(holds(SIZES, [iron, bench], ["phase"]), { mains }).choices.map(({ design }) => design.supply.kind);
    expect(kinds(false)).not.toContain("transformer");
  });
  it("the cutter is strung as the search computed, on a stiffer spring for a strong pull, no safety question answered for its maker, with its first steps noted", () => {
    for (const [width_mm, rate] of [
      [400, 0.5],
      [900, 1.2],
    ] as const) {
      const [choice] = choose(holds([steel(0.41), steel(0.56), steel(0.71)], [bench], []), { width_mm, pieces: 1, exact: "rough" }).choices;
      if (!choice) throw new Error("none");
      const { design, candidate } = choice;
      expect(design.tension).toMatchObject({ device: "spring", hot_N: Math.round(candidate.tensionN), rate_N_per_mm: rate });
      expect(design.wire.length_mm).toBeCloseTo(candidate.lengthM * 1000, 9);
      expect(unansweredSafety(design).length).toBeGreaterThan(3);
      expect(design.job).toMatchObject({ width_mm, maxKerf_mm: KERF_MM.rough });
      expect(design.notes).toMatch(new RegExp(`^For 1 piece, ${WANTED_WORDS.straight}, ${EXACT_WORDS.rough}\\.\nFirst: `));
      expect(design.name).toBe(nameFor({ ...FIRST_ANSWERS, width_mm }));
      expect(design.name).toMatch(/ for EPS 20/);
    }
    expect(choose(holds(SIZES, [bench], []), { pieces: 3 }).choices[0]?.design.notes).toMatch(/^For 3 pieces,/);
  });
});

describe("the job card", () => {
  it("a line for each question, in the maker's units", () => {
    const card = jobCard({ ...FIRST_ANSWERS, things: ["laptop-19", "pwm"] }, "metric", true);
    expect(Object.keys(card)).toEqual([...START_STEPS]);
    expect(card.foam).toBe(`Cut ${resolveFoam(FIRST_ANSWERS.foam).name}.`);
    expect(card.block).toBe(`400 mm along the wire, 75 mm thick, ${WANTED_WORDS.straight}, 4 pieces.`);
    const named = THINGS.filter(({ id }) => id === "laptop-19" || id === "pwm").map(({ name }) => name);
    expect(card.bench).toBe(`At hand: what is in the drawer, ${named.join(", ")}.`);
    expect(card.care).toBe("Within about a millimetre, at 6.0 mm/s; nothing on the mains side.");
  });
  it("what was weighed and recycled; one piece; nothing at hand; what may be on the mains side", () => {
    const card = jobCard(
      { ...FIRST_ANSWERS, foam: { family: "eps", density_kg_m3: 20, weighed: true, recycled: true }, pieces: 1, drawer: false, mains: true },
      "inch",
      true,
    );
    expect(card.foam).toMatch(/, weighed, partly recycled\.$/);
    expect(card.block).toMatch(/^15\.75 in along the wire, .* 1 piece\.$/);
    expect(card.bench).toBe("Nothing at hand: all of it may be bought.");
    expect(card.care).toMatch(/; a transformer may be used\.$/);
    // A drawer that counts and holds nothing is nothing at hand.
    expect(jobCard(FIRST_ANSWERS, "metric", false).bench).toBe("Nothing at hand: all of it may be bought.");
  });
  it("a litre weighs as many grams as a cubic metre does kilograms", () => expect(gramsALitre(18)).toBe(18));
});
