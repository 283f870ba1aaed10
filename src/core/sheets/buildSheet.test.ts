import { describe, expect, it } from "vitest";
import { corners, overlaps } from "../../../tests/helpers/drawn";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { evaluateDesign, knobOf } from "../cutters/solve/evaluate";
import { type Item, itemSchema } from "../drawer/items";
import { parseOrThrow } from "../kernel/parse";
import { resolveWire } from "../physics/heat/wire";
import { wireEnds } from "../physics/mechanics/wireEnds";
import { fuseAdvice } from "../physics/power/powerAdvice";
import { formatQuantity } from "../units/units";
import { buildSheet, CHECKLIST, knobWords, settingFor } from "./buildSheet";
import { netlistOf } from "./netlist";

const demo = DEMO_CUTTERS.map((design) => designSchema.parse(design));
const tom = demo.find(({ name }) => name === "Long Tom") as Design;
const gatepost = demo.find(({ name }) => name === "Gatepost") as Design;
const change = (base: Design, more: object) => designSchema.parse({ ...base, ...more });
const thing = (item: object): Item => parseOrThrow(itemSchema, item);
const sheetOf = (design: Design, drawer: readonly object[] = [], units: "metric" | "inch" = "metric", page?: number) =>
  buildSheet(design, drawer.map(thing), [], units, page);
const part = (design: Design, name: string, drawer: readonly object[] = [], units: "metric" | "inch" = "metric") => {
  const found = sheetOf(design, drawer, units).parts.find((each) => each.part === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};

describe("the parts list, each line from the drawer where the thing lies there", () => {
  const { cutM } = wireEnds(resolveWire(tom.wire), 1.3);
  const wire = { kind: "wire", name: "Mine", alloy: "ss-304", diameter_mm: 0.64, temper: "spring", length_m: 10, price_per_m: 0.4 };
  it("wire: alloy, size within a fiftieth, strands and temper must be its own; and enough of it be left, ends counted", () => {
    expect(part(tom, "Wire", [wire])).toMatchObject({ drawer: "Mine", inDrawer: true, price: 0 });
    expect(part(tom, "Wire", [{ ...wire, diameter_mm: 0.65 }]).inDrawer).toBe(true);
    for (const other of [{ alloy: "ss-316" }, { diameter_mm: 0.66 }, { diameter_mm: 0.62 }, { temper: "annealed" }, { diameter_mm: 0.242, strands: 7 }])
      expect(part(tom, "Wire", [{ ...wire, ...other }]), JSON.stringify(other)).toMatchObject({ drawer: "to get", inDrawer: false, price: null });
    const exactly = Math.ceil(cutM * 1000) / 1000;
    expect(part(tom, "Wire", [{ ...wire, length_m: exactly }]).inDrawer).toBe(true);
    const short = part(tom, "Wire", [{ ...wire, length_m: exactly - 0.01 }]);
    expect(short).toMatchObject({ inDrawer: false, price: expect.closeTo(0.4 * cutM, 9) });
    expect(short.drawer).toBe(`Mine: only ${formatQuantity("leadLength", exactly - 0.01, "metric")} left`);
    // In the shop: named, and priced by the metre.
    expect(part(tom, "Wire", [{ ...wire, owned: false }])).toMatchObject({ drawer: "Mine, to buy", inDrawer: false, price: expect.closeTo(0.4 * cutM, 9) });
    // What is owned comes before what is to be had, wherever it is.
    const shop = { ...wire, name: "Shop", owned: false };
    expect(part(tom, "Wire", [shop, wire]).drawer).toBe("Mine");
    expect(part(tom, "Wire", [wire, shop]).drawer).toBe("Mine");
  });
  it("wire in words: size, strands, alloy, temper, and what to cut", () => {
    expect(part(tom, "Wire").words).toBe(
      `${formatQuantity("diameter", 0.64, "metric")} stainless 304, hard-drawn: cut ${formatQuantity("length", cutM * 1000, "metric")} with its ends`,
    );
    const cable = change(tom, { wire: { alloy: "ss-304", diameter_mm: 0.15, strands: 7, length_mm: 1300 } });
    expect(part(cable, "Wire").words).toMatch(/^0\.15\d? mm 7-strand stainless 304, temper not known: cut /);
  });
  it("supply: of its kind and enough; its price where it is to be had", () => {
    const brick = (more: object = {}, about: object = {}) => ({
      kind: "supply",
      name: "Brick",
      supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 8, ...more },
      ...about,
    });
    expect(part(gatepost, "Supply", [brick()])).toMatchObject({ drawer: "Brick", inDrawer: true, price: 0 });
    expect(part(gatepost, "Supply", [brick({}, { owned: false, price: 14 })])).toMatchObject({ drawer: "Brick, to buy", inDrawer: false, price: 14 });
    expect(part(gatepost, "Supply", [brick({ voltage_V: 24 })]).inDrawer).toBe(false);
    expect(part(gatepost, "Supply", [{ kind: "supply", name: "Bench", supply: { kind: "bench", voltage_V: 12, current_A: 8 } }]).inDrawer).toBe(false);
  });
  it("control: of its kind, and carrying what flows while it is on; none where nothing is turned", () => {
    const on = evaluateDesign(gatepost).circuit.onCurrentA;
    const module = (max_A?: number, control = "pwm") => ({ kind: "control", name: "Module", control, price: 9, ...(max_A === undefined ? {} : { max_A }) });
    expect(part(gatepost, "Control", [module(on + 0.1)])).toMatchObject({ drawer: "Module", price: 0 });
    expect(part(gatepost, "Control", [module(on - 0.1)]).inDrawer).toBe(false);
    // One whose limit is not known is taken.
    expect(part(gatepost, "Control", [module()]).inDrawer).toBe(true);
    expect(part(gatepost, "Control", [module(20, "buck")]).inDrawer).toBe(false);
    expect(part(gatepost, "Control", [{ ...module(20), owned: false }])).toMatchObject({ drawer: "Module, to buy", price: 9 });
    expect(part(gatepost, "Control").words).toContain(`carrying ${formatQuantity("current", on, "metric", 1)} or more`);
    expect(sheetOf(change(gatepost, { control: { kind: "direct" } })).parts.map((each) => each.part)).not.toContain("Control");
  });
  it("leads: as thick or thicker, and long enough there and back; no line where none are named", () => {
    const lead = (gauge_awg: number, length_m: number, more: object = {}) => ({ kind: "lead", name: "Flex", gauge_awg, length_m, price: 5, ...more });
    const { gauge_awg, oneWay_m } = tom.leads as { gauge_awg: number; oneWay_m: number };
    expect(part(tom, "Leads").words).toBe(`${formatQuantity("leadLength", 2 * oneWay_m, "metric")} of ${gauge_awg} AWG copper, there and back`);
    expect(part(tom, "Leads", [lead(gauge_awg, 2 * oneWay_m)])).toMatchObject({ drawer: "Flex", price: 0 });
    expect(part(tom, "Leads", [lead(gauge_awg - 2, 20)]).inDrawer).toBe(true);
    expect(part(tom, "Leads", [lead(gauge_awg + 2, 20)]).inDrawer).toBe(false);
    expect(part(tom, "Leads", [lead(gauge_awg, 2 * oneWay_m - 0.1)]).inDrawer).toBe(false);
    expect(part(tom, "Leads", [lead(gauge_awg, 20, { owned: false })]).price).toBe(5);
    expect(sheetOf(change(tom, { leads: undefined })).parts.map((each) => each.part)).not.toContain("Leads");
  });
  it("fuse: the one that was chosen, else the one advised, and one at least of it; none for leads too thin, with the gauge to take", () => {
    const blade = (rating_A: number, count = 1, more: object = {}) => ({ kind: "fuse", name: "Blade", rating_A, count, price: 0.5, ...more });
    const { fuseA } = fuseAdvice(evaluateDesign(tom).circuit.supplyCurrentA, tom.leads?.gauge_awg);
    const unset = change(tom, { wiring: {} });
    expect(part(unset, "Fuse").words).toMatch(new RegExp(`^${fuseA} A, at `));
    expect(part(unset, "Fuse", [blade(fuseA as number)])).toMatchObject({ drawer: "Blade", price: 0 });
    expect(part(unset, "Fuse", [blade(fuseA as number, 0)]).inDrawer).toBe(false);
    expect(part(unset, "Fuse", [blade((fuseA as number) + 1)]).inDrawer).toBe(false);
    expect(part(unset, "Fuse", [blade(fuseA as number, 1, { owned: false })]).price).toBe(0.5);
    expect(part(change(tom, { wiring: { fuse_A: 5 } }), "Fuse").words).toMatch(/^5 A, at /);
    const thin = change(tom, { wiring: {}, leads: { gauge_awg: 26, oneWay_m: 1 } });
    const { leadGaugeAwg } = fuseAdvice(evaluateDesign(thin).circuit.supplyCurrentA, 26);
    expect(part(thin, "Fuse").words).toBe(`none fits these leads: take ${leadGaugeAwg} AWG`);
  });
  it("tension: a device of its kind within a seventh of its rate; the pull hot and cold", () => {
    const spring = (rate_N_per_mm: number, more: object = {}) => ({
      kind: "tensioner",
      name: "Door spring",
      device: "spring",
      rate_N_per_mm,
      travel_mm: 200,
      force_N: 65,
      price: 3,
      ...more,
    });
    const rate = (tom.tension as { rate_N_per_mm: number }).rate_N_per_mm;
    expect(part(tom, "Tension", [spring(rate)])).toMatchObject({ drawer: "Door spring", price: 0 });
    expect(part(tom, "Tension", [spring(rate * 1.5)]).inDrawer).toBe(false);
    expect(part(tom, "Tension", [spring(rate, { device: "band" })]).inDrawer).toBe(false);
    expect(part(tom, "Tension", [spring(rate, { owned: false })]).price).toBe(3);
    const { tension } = evaluateDesign(tom);
    expect(part(tom, "Tension").words).toMatch(
      new RegExp(`; ${formatQuantity("force", 65, "metric")} hot, ${formatQuantity("force", tension.coldN, "metric")} cold$`),
    );
    // What the spring must stretch, in millimetres of the wire's growth and a little more.
    expect(part(tom, "Tension").words).toContain(`${formatQuantity("length", tension.travelM * 1000 + 10, "metric")} of travel in hand`);
  });
});

describe("the sheet's figures and words", () => {
  it("are the desk's own, in the maker's units", () => {
    for (const units of ["metric", "inch"] as const) {
      const { circuit, cut, tension } = evaluateDesign(tom);
      const show = (quantity: Parameters<typeof formatQuantity>[0], value: number, decimals?: number) => formatQuantity(quantity, value, units, decimals);
      expect(sheetOf(tom, [], units).figures).toEqual([
        { label: "heat in the cut", value: show("heat", cut.powerWPerM) },
        { label: "on the wire", value: `${show("voltage", circuit.wireVoltageV)}, ${show("current", circuit.currentA)}` },
        { label: "in air, in the cut", value: `${show("temperature", circuit.wireC)}, ${show("temperature", cut.wireC)}` },
        { label: "feed, kerf", value: `${show("feed", 6.5)}, ${show("kerf", cut.kerfM * 1000)}` },
        { label: "wire, cold and hot", value: `${show("resistance", circuit.coldOhm)}, ${show("resistance", circuit.hotOhm)}` },
        { label: "tension, hot and cold", value: `${show("force", tension.hotN, 1)}, ${show("force", tension.coldN, 1)}` },
        { label: "wire grows", value: show("kerf", tension.growthM * 1000) },
        { label: "plucked cold", value: `${tension.pitchColdHz.toFixed(0)} Hz` },
      ]);
    }
  });
  it("where there is no cut the reason is in place of its figures", () => {
    const starved = change(tom, { supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 0.5 }, control: { kind: "direct" } });
    const { figures } = sheetOf(starved);
    const heat = figures.find(({ label }) => label === "heat in the cut")?.value as string;
    expect(heat).not.toMatch(/\d/);
    for (const label of ["in air, in the cut", "feed, kerf"]) expect(figures.find((figure) => figure.label === label)?.value.endsWith(`, ${heat}`)).toBe(true);
  });
  it("ready only where it was marked so and nothing is against it; cautions and blocks in words; the checklist whole", () => {
    const honest = change(tom, { ready: true });
    expect(sheetOf(honest).ready).toBe(true);
    expect(sheetOf(change(tom, { ready: undefined })).ready).toBe(false);
    const live = { ...honest, wiring: { ...honest.wiring, insulatedPost: false } };
    const sheet = sheetOf(live);
    expect(sheet.ready).toBe(false);
    expect(sheet.blocks.length).toBeGreaterThan(0);
    const { cautions } = evaluateDesign(live);
    expect(sheet.cautions).toEqual(cautions.map(({ severity, words }) => ({ severity, words: words("metric") })));
    for (const block of sheet.blocks) expect(sheet.cautions.map(({ words }) => words)).toContain(block);
    expect(sheet.checklist).toEqual(CHECKLIST);
    expect(sheet.kind).toBe("Hand bow");
  });
  it("a setting for each foam: kerf to a tenth of a millimetre or a thousandth of an inch; none where it cuts cleanly at no setting", () => {
    expect(settingFor(tom, { family: "eps", density_kg_m3: 18 }, "metric")).toMatchObject({
      feed: expect.stringMatching(/^\d\.\d mm\/s$/),
      setting: expect.stringMatching(/^1\d\.\d V$/),
      kerf: expect.stringMatching(/^\d\.\d mm$/),
    });
    expect(settingFor(tom, { family: "eps", density_kg_m3: 18 }, "inch").kerf).toMatch(/^0\.\d{3} in$/);
    expect(
      settingFor(
        change(gatepost, { control: { kind: "direct" }, supply: { kind: "dc", voltage_V: 1, maxCurrent_A: 8 } }),
        { family: "eps", density_kg_m3: 18 },
        "metric",
      ),
    ).toEqual({
      foam: "EPS 18",
      feed: "",
      setting: null,
      kerf: "",
    });
  });
});

describe("the rod to scale", () => {
  const rod = (more: object = {}, page = 180) => {
    const { rod: drawing } = sheetOf(change(tom, { ...more }), [], "metric", page);
    const pens = drawing.shapes.flatMap((shape) => (shape.kind === "path" ? [shape] : []));
    const words = drawing.shapes.flatMap((shape) => (shape.kind === "text" ? [shape] : []));
    const xs = (i: number) => corners(pens[i] as never).map(([x]) => x);
    const ys = (i: number) => corners(pens[i] as never).map(([, y]) => y);
    return { drawing, pens, words, xs, ys };
  };
  it("1300 mm of wire and 1100 of foam on a page of 180: one to ten, in its middle, with the scale named", () => {
    const { drawing, pens, words, xs, ys } = rod();
    expect([drawing.width, drawing.height, drawing.title]).toEqual([180, 38, "Long Tom, to scale"]);
    // Foam, bare wire, wire in the foam, posts, the measure.
    expect([Math.min(...xs(0)), Math.max(...xs(0))]).toEqual([35, 145]);
    expect([Math.min(...xs(1)), Math.max(...xs(1))]).toEqual([25, 155]);
    expect(xs(1)).toEqual(expect.arrayContaining([25, 35, 145, 155]));
    expect([Math.min(...xs(2)), Math.max(...xs(2))]).toEqual([35, 145]);
    expect([Math.min(...xs(3)), Math.max(...xs(3))]).toEqual([25, 155]);
    expect([Math.min(...xs(4)), Math.max(...xs(4))]).toEqual([25, 155]);
    // The foam about the wire, as thick as it is to scale; the posts a finger above and below.
    const thick = (tom.job.thickness_mm ?? 0) / 10;
    expect([Math.min(...ys(0)), Math.max(...ys(0))]).toEqual([17 - thick / 2, 17 + thick / 2]);
    expect([Math.min(...ys(3)), Math.max(...ys(3))]).toEqual([9, 25]);
    expect(words.map(({ text }) => text)).toEqual(["1300 mm between posts, scale 1 : 10", `EPS 18, 1100 mm wide, ${tom.job.thickness_mm} mm thick`]);
    expect(words.every(({ x, anchor }) => x === 90 && anchor === "middle")).toBe(true);
    expect(overlaps(drawing.shapes)).toEqual([]);
    expect(pens[0]?.stroke).toBe("soft");
  });
  it("the next whole scale that fits; a very long one just fits the page; foam is never wider than its wire, thinner than three nor thicker than 22", () => {
    const scaled = (length_mm: number, page = 180) => rod({ wire: { ...tom.wire, length_mm }, job: { ...tom.job, width_mm: 100 } }, page).words[0]?.text;
    expect(scaled(164)).toMatch(/1 : 1$/);
    expect(scaled(165)).toMatch(/1 : 2$/);
    expect(scaled(410)).toMatch(/1 : 2\.5$/);
    expect(scaled(411)).toMatch(/1 : 5$/);
    expect(scaled(1300, 100)).toMatch(/1 : 20$/);
    const long = rod({ wire: { ...tom.wire, length_mm: 1300 } }, 20);
    expect(long.words[0]?.text).toMatch(/1 : 325$/);
    expect([Math.min(...long.xs(1)), Math.max(...long.xs(1))]).toEqual([8, 12]);
    const thin = rod({ job: { ...tom.job, thickness_mm: 5 } });
    expect(Math.max(...thin.ys(0)) - Math.min(...thin.ys(0))).toBe(3);
    const thick = rod({ job: { ...tom.job, thickness_mm: 600 } });
    expect(Math.max(...thick.ys(0)) - Math.min(...thick.ys(0))).toBe(22);
    const wide = rod({ wire: { ...tom.wire, length_mm: 1100 }, job: { ...tom.job, width_mm: 1100 } });
    expect(wide.xs(0)).toEqual(expect.arrayContaining([Math.min(...wide.xs(1)), Math.max(...wide.xs(1))]));
  });
  it("is drawn in the ink of its heat: soft, straw, amber, ember", () => {
    const inks = (volts: number) => {
      const design = { supply: { kind: "bench", voltage_V: volts, current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 } };
      const { pens } = rod(design);
      const { circuit, cut } = evaluateDesign(change(tom, design));
      return [pens[1]?.stroke, pens[2]?.stroke, circuit.wireC, cut.wireC] as const;
    };
    const of = (c: number) => (c < 120 ? "soft" : c < 260 ? "straw" : c < 400 ? "amber" : "ember");
    const seen = new Set<string>();
    for (const volts of [2, 5, 8, 11, 14.4, 20, 28]) {
      const [air, foam, airC, foamC] = inks(volts);
      expect([air, foam], `${volts} V`).toEqual([of(airC), of(foamC)]);
      seen.add(air as string);
    }
    expect([...seen].sort()).toEqual(["amber", "ember", "soft", "straw"]);
  });
});

describe("the netlist's lines", () => {
  it("each part an element where it has ohms, a remark where it has none; a nameless or strangely named cutter on one line", () => {
    const lines = (more: object) => netlistOf(change(tom, more)).split("\n");
    expect(lines({})[0]).toMatch(/^\* Long Tom: cold circuit/);
    expect(netlistOf({ ...tom, name: "\n\u03b2" } as Design)).toMatch(/^\* cutter: cold circuit/);
    expect(netlistOf({ ...tom, name: "a\n\n\u03b2\u03b2b" } as Design)).toMatch(/^\* a b: cold circuit/);
    const jointed = lines({ leads: { gauge_awg: 16, oneWay_m: 1, joint_ohm: 0.02 } });
    expect(jointed).toContainEqual(expect.stringMatching(/^RJOINTS l1 l2 0\.02 ; joints$/));
    expect(jointed.filter((line) => /^RLEAD(OUT|BACK)/.test(line))).toHaveLength(2);
    const bare = lines({ leads: undefined });
    expect(bare).toContainEqual("* joints: none");
    expect(bare).toContainEqual("VBACK w2 0 0");
    expect(bare.filter((line) => line.startsWith("RLEAD") || line.startsWith("RJOINTS"))).toEqual([]);
  });
});

it("one foam and feed has one setting on a sheet: a clean set-up keeps its own", () => {
  const sheet = buildSheet(tom, [], [], "metric");
  const evaluation = evaluateDesign(tom);
  expect(evaluation.verdict).toBe("clean");
  expect(sheet.settings[0]?.feed).toBe(formatQuantity("feed", tom.job.feed_mm_s, "metric"));
  const knob = knobOf(tom);
  expect(sheet.settings[0]?.setting).toBe(knob && knobWords(knob.kind, knob.value, "metric"));
  // A setting that is not clean says which way to turn the knob.
  const cold = { ...tom, supply: { ...tom.supply, voltage_V: 5 } } as Design;
  expect(evaluateDesign(cold).verdict).not.toBe("clean");
  const coldKnob = knobOf(cold);
  expect(buildSheet(cold, [], [], "metric").settings[0]?.setting).not.toBe(coldKnob && knobWords(coldKnob.kind, coldKnob.value, "metric"));
});
