import { describe, expect, it } from "vitest";
import { DEMO_DRAWER } from "../../drawer/demoDrawer";
import { CoreError } from "../../kernel/errors";
import { resolveWire } from "../../physics/heat/wire";
import { wireEnds } from "../../physics/mechanics/wireEnds";
import { buildSheet, settingFor } from "../../sheets/buildSheet";
import { schematicOf } from "../../sheets/schematic";
import { DEMO_CUTTERS } from "../design/demoCutters";
import type { Design } from "../design/schema";
import { isBlocked } from "./blocked";
import { CAUTION_RULES } from "./cautions";
import { compareDesigns } from "./compare";
import { evaluateDesign } from "./evaluate";
import { blocksOf, requireHonestReady } from "./readiness";

const [longTom, gatepost, , , limpet] = DEMO_CUTTERS as [Design, Design, Design, Design, Design];
const battery: Design["supply"] = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 18 };

/** One design for each hazard that blocks. */
const HAZARDS: Record<string, Design> = {
  overload: limpet,
  glowing: { ...gatepost, control: { kind: "pwm", duty: 1 }, supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 20 } },
  "touch-voltage": { ...longTom, supply: { kind: "bench", voltage_V: 80, current_A: 0.5 } },
  "short-wire": { ...gatepost, wire: { ...gatepost.wire, length_mm: 250 } },
  "leads-hot": { ...longTom, leads: { gauge_awg: 30, oneWay_m: 1 } },
  "breaks-hot": { ...gatepost, tension: { device: "weight", hot_N: 80 } },
  // A turnbuckle set for 25 N hot pulls far more when cold than this soft fine wire stands.
  "breaks-cold": { ...gatepost, wire: { alloy: "ss-304", diameter_mm: 0.41, length_mm: 420 }, tension: { device: "turnbuckle", hot_N: 25 } },
  "trips-cold": {
    ...gatepost,
    supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 2.4, make: "train-modern" },
    wire: { alloy: "ss-304", diameter_mm: 0.33, length_mm: 420 },
    control: { kind: "direct" },
  },
  "isolation-unknown": { ...longTom, wiring: { isolation: "unknown" } },
  "no-fuse": { ...longTom, supply: battery, wiring: { fuse_A: null } },
  "fuse-too-large": { ...longTom, wiring: { fuse_A: 40 } },
  "frame-live": { ...longTom, wiring: { insulatedPost: false } },
  "frame-weak": {
    ...longTom,
    frame: { kind: "c-frame", throat_mm: 300, back_mm: 1300, material: "pvc", section: { shape: "tube", diameter_mm: 20, wall_mm: 2 } },
  },
  "current-through-spring": { ...longTom, wiring: { jumper: false } },
};

describe("ready", () => {
  it("has an example here for every caution that blocks", () => {
    expect(Object.keys(HAZARDS).sort()).toEqual(
      CAUTION_RULES.filter((rule) => rule.blocks)
        .map((rule) => rule.code)
        .sort(),
    );
  });

  it.each(Object.entries(HAZARDS))("%s keeps a design from being called ready, says so, and its cure takes that hazard away", (code, design) => {
    const block = blocksOf(design).find((each) => each.caution.code === code);
    expect(block?.caution.words("metric").length).toBeGreaterThan(20);
    expect(isBlocked(design)).toBe(true);
    expect(() => requireHonestReady({ ...design, ready: true })).toThrow(CoreError);
    if (block?.cure) expect(evaluateDesign(block.cure.design).cautions.map((caution) => caution.code)).not.toContain(code);
    // Only a wire that would glow on any setting may be beyond one change.
    else expect(["glowing", "overload", "short-wire", "frame-weak"]).toContain(code);
  });

  it("lets a sound design through", () => {
    expect(blocksOf(longTom)).toEqual([]);
    expect(() => requireHonestReady({ ...longTom, ready: true })).not.toThrow();
  });
});

describe("wiring", () => {
  it("draws each choice: fuse, switch, insulator, jumper, and the mains side only as a boundary", () => {
    const words = (design: Design) =>
      schematicOf(design, evaluateDesign(design), "metric")
        .drawing.shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []))
        .join("|");
    expect(words(longTom)).toMatch(/mains side: by a licensed\|electrician, to local code/);
    expect(words({ ...longTom, supply: battery })).not.toMatch(/mains/);
    expect(words(longTom)).toMatch(/7\.5 A\|.*foot switch/);
    expect(words({ ...longTom, wiring: { fuse_A: null, switch: "none", insulatedPost: false } })).toMatch(
      /no fuse\|no switch.*post not insulated.*frame: live/,
    );
    expect(words({ ...gatepost, supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }, control: { kind: "phase", delay_deg: 100 } })).toMatch(
      /dimmer for\|transformers/,
    );
    expect(schematicOf(gatepost, evaluateDesign(gatepost), "metric").notes.filter((note) => note.never).length).toBeGreaterThan(3);
  });
});

describe("the build sheet", () => {
  const foams = DEMO_CUTTERS.map((design) => design.job.foam);

  it("finds in the drawer what is there and prices what is not", () => {
    const sheet = buildSheet(longTom, DEMO_DRAWER, foams, "metric");
    const part = (name: string) => sheet.parts.find((each) => each.part === name);
    expect(part("Wire")).toMatchObject({ inDrawer: true, drawer: "Rib wire, hard-drawn", price: 0 });
    const { cutM } = wireEnds(resolveWire(longTom.wire), 1.3);
    expect(part("Wire")?.words).toContain(`cut ${(cutM * 1000).toFixed(0)} mm with its ends`);
    expect(part("Tension")?.drawer).toBe("Gate spring");
    const short = buildSheet(
      longTom,
      DEMO_DRAWER.map((item) => (item.name === "Rib wire, hard-drawn" ? { ...item, length_m: 1.2 } : item) as never),
      [],
      "metric",
    );
    expect(short.parts.find((each) => each.part === "Wire")).toMatchObject({
      inDrawer: false,
      drawer: expect.stringContaining("only 1.2 m left"),
      price: expect.closeTo(0.4 * cutM, 9),
    });
    expect(short.toBuy.sum).toBeCloseTo(0.4 * cutM, 9);
    // What it comes to in words: nothing, money alone, money and an unknown price, unknown prices alone.
    expect(buildSheet(gatepost, DEMO_DRAWER, foams, "metric").toBuy.words).toMatch(/^Nothing to buy but small parts/);
    const noBrick = DEMO_DRAWER.map((item) => (item.name === "Strip-light brick" ? { ...item, owned: false, price: 14.5 } : item) as never);
    expect(buildSheet(gatepost, noBrick, foams, "metric").toBuy.words).toBe("To buy: 14.5 in your own money.");
    expect(short.toBuy.words).toBe(`To buy: ${Number((0.4 * cutM).toFixed(2))} in your own money, and 1 part of unknown price.`);
    expect(buildSheet(longTom, [], [], "metric").toBuy.words).toMatch(/^To buy: \d parts of unknown price\.$/);
  });

  it("every setting on the card is clean when set so", () => {
    for (const design of [longTom, gatepost]) {
      const { settings } = buildSheet(design, [], foams, "metric");
      expect(settings.length).toBe(5);
      expect(settings.some((setting) => setting.setting !== null)).toBe(true);
    }
    const card = settingFor(gatepost, { family: "eps", density_kg_m3: 20 }, "metric");
    const duty = Number(/PWM (\d+) %/.exec(card.setting ?? "")?.[1]) / 100;
    const set: Design = {
      ...gatepost,
      job: { ...gatepost.job, foam: { family: "eps", density_kg_m3: 20 }, feed_mm_s: Number.parseFloat(card.feed) },
      control: { kind: "pwm", duty },
    };
    expect(evaluateDesign(set).verdict).toBe("clean");
  });
});

describe("comparison", () => {
  it("names who is better off in each figure, the same whichever is first", () => {
    const fine: Design = { ...gatepost, name: "Fine", control: { kind: "pwm", duty: 0.25 } };
    const there = compareDesigns(gatepost, fine, "metric");
    const back = compareDesigns(fine, gatepost, "metric");
    const kerf = there.figures.find((figure) => figure.label === "Kerf");
    expect(kerf?.better).toBe("b");
    expect(kerf?.words).toMatch(/kerf/);
    for (const [i, figure] of there.figures.entries()) {
      const other = back.figures[i];
      expect(other?.better).toBe(figure.better === "a" ? "b" : figure.better === "b" ? "a" : null);
    }
    expect(there.summary).toContain("smokes");
    expect(compareDesigns(fine, fine, "inch").figures.every((figure) => figure.better === null)).toBe(true);
  });

  it("beside one whose supply cannot warm its wire nothing is better, and no kerf, ratio or temperature is made up", () => {
    const starved: Design = {
      ...gatepost,
      name: "Starved",
      supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 6 },
      control: { kind: "direct" },
      wire: { alloy: "nicr-80-20", diameter_mm: 0.644, length_mm: 110 },
      job: { ...gatepost.job, width_mm: 45 },
    };
    const { figures, summary } = compareDesigns(gatepost, starved, "metric");
    for (const figure of figures) {
      expect(figure.better, figure.label).toBeNull();
      expect(figure.words).toBe("");
    }
    for (const label of ["Kerf", "Top feed", "Wire in air", "Bow at mid-span"])
      expect(figures.find((figure) => figure.label === label)?.b).toBe("supply can't");
    expect(summary).toContain("Starved does not cut as set up");
    expect(summary).not.toMatch(/times/);
  });
});
