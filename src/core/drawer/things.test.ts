import { describe, expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { jobOf } from "../cutters/search/job";
import { ready } from "../cutters/search/readyWire";
import { knobOf, verdictOf, withSetting } from "../cutters/solve/evaluate";
import { drawingToSvg } from "../kernel/drawing";
import { parseOrThrow } from "../kernel/parse";
import { resistanceOhmPerM, resolveWire } from "../physics/heat/wire";
import { awgDiameterMm } from "../units/gauges";
import { COLUMNS, cellText, itemFromCells, withCell } from "./columns";
import { drawerToCsv, MAX_CSV_ROWS, previewCsv } from "./csv";
import type { HeldSupply, HeldWire, Holdings } from "./holdings";
import { type Item, itemSchema } from "./items";
import { oneThing, takenM } from "./matches";
import { nearestSetup } from "./nearest";
import { readPlate } from "./plate";
import { identifySpool } from "./spool";
import { spoolLabel, spoolLines } from "./spoolLabel";
import { foamOf, MAX_CSV_CHARACTERS } from "./things";

const item = (fields: object): Item => parseOrThrow(itemSchema, fields);
const refused = (work: () => unknown): [string, string] => {
  const { path, message } = refusal(work);
  return [path, message];
};

describe("a thing in the drawer", () => {
  it("a spring needs its rate, a weight its heft, and neither what the other needs", () => {
    const tensioner = (fields: object) => ({ kind: "tensioner", name: "x", ...fields });
    expect(refused(() => item(tensioner({ device: "spring", force_N: 20 })))).toEqual(["rate_N_per_mm", expect.stringMatching(/is required for a spring/)]);
    expect(refused(() => item(tensioner({ device: "weight" })))).toEqual(["force_N", expect.stringMatching(/is required for a weight/)]);
    expect(item(tensioner({ device: "spring", rate_N_per_mm: 1 }))).toMatchObject({ device: "spring" });
    expect(item(tensioner({ device: "weight", force_N: 12 }))).toMatchObject({ force_N: 12 });
    expect(item(tensioner({ device: "turnbuckle" }))).toMatchObject({ device: "turnbuckle" });
  });
  it("a foam needs its density, or three sizes and a mass that give one; and what they give is a foam's", () => {
    const foam = (fields: object) => ({ kind: "foam", name: "x", family: "eps", ...fields });
    const block = { block_length_mm: 1000, block_width_mm: 500, block_thickness_mm: 100 };
    expect(refused(() => item(foam({})))[0]).toBe("density_kg_m3");
    expect(refused(() => item(foam({ mass_g: 900 })))).toEqual(["block_length_mm", expect.stringMatching(/required with a mass/)]);
    expect(refused(() => item(foam({ mass_g: 900, density_kg_m3: 18 })))[0]).toBe("block_length_mm");
    expect(refused(() => item(foam(block)))[0]).toBe("density_kg_m3");
    // A twentieth of a cubic metre: 250 g are 5 kg/m3, 25 kg are 500; beyond either it is no foam.
    const gives = (mass_g: number) => item(foam({ ...block, mass_g }));
    expect(foamOf(gives(900) as never)).toMatchObject({ densityKgM3: expect.closeTo(18, 9), weighed: true });
    expect(foamOf(item(foam({ density_kg_m3: 30 })) as never)).toMatchObject({ densityKgM3: 30, weighed: false });
    const [path, words] = refused(() => gives(50));
    const [, min, max] = /a foam has ([\d.]+) to ([\d.]+)/.exec(words) as unknown as [string, string, string];
    expect(path).toBe("mass_g");
    expect(words).toMatch(/gives 1\.00 kg\/m3/);
    for (const [density, good] of [
      [Number(min), true],
      [Number(min) * 0.99, false],
      [Number(max), true],
      [Number(max) * 1.01, false],
    ] as const) {
      if (good) expect(gives(density * 50)).toMatchObject({ kind: "foam" });
      else expect(refused(() => gives(density * 50))[0]).toBe("mass_g");
    }
  });
});

describe("columns", () => {
  const column = (key: string) => {
    const found = COLUMNS.find((each) => each.key === key);
    if (!found) throw new Error(`no ${key}`);
    return found;
  };
  it("a supply is in full next to its label only where the label does not tell all", () => {
    const result = item({ kind: "supply", name: "Brick", plate: "19 V 4.74 A", supply: readPlate("19 V 4.74 A").supply });
    expect(cellText(result, column("supply"), "file")).toBe("");
    const more = item({ kind: "supply", name: "Brick", plate: "19 V 4.74 A", supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4.74, internal_ohm: 0.3 } });
    expect(JSON.parse(cellText(more, column("supply"), "file"))).toMatchObject({ internal_ohm: 0.3 });
    const unread = item({ kind: "supply", name: "Brick", plate: "worn off", supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4 } });
    expect(cellText(unread, column("supply"), "file")).toMatch(/"voltage_V":19/);
    expect(cellText(item({ kind: "fuse", name: "f", rating_A: 5 }), column("supply"), "file")).toBe("");
  });
  it("shows gauges, sizes, yes and no, figures bare in a file and with their names on screen", () => {
    const wire = (fields: object) => item({ kind: "wire", name: "w", alloy: "nicr-80-20", length_m: 3, ...fields });
    expect(cellText(wire({ gauge_awg: 26 }), column("size"), "metric")).toBe("26 awg");
    expect(cellText(wire({ gauge_swg: 27 }), column("size"), "file")).toBe("27 swg");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("size"), "file")).toBe("0.4 mm");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("size"), "inch")).toMatch(/in$/);
    expect(cellText(wire({ diameter_mm: 0.4, owned: false }), column("owned"), "file")).toBe("no");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("owned"), "file")).toBe("yes");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("length_m"), "file")).toBe("3");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("length_m"), "metric")).toMatch(/^3\.\d+ m$/);
    expect(cellText(wire({ diameter_mm: 0.4, price_per_m: 0.4 }), column("price_per_m"), "metric")).toBe("0.4");
    expect(cellText(wire({ diameter_mm: 0.4 }), column("price_per_m"), "metric")).toBe("");
    // A column of another kind's says nothing of it.
    expect(cellText(item({ kind: "fuse", name: "f", rating_A: 5 }), column("size"), "file")).toBe("");
  });
  it("reads strands as a count, a figure with a comma, and refuses what is no figure, choice or supply by its column", () => {
    const wire = item({ kind: "wire", name: "w", alloy: "ss-304", diameter_mm: 0.15, length_m: 3 });
    expect(withCell(wire, column("strands"), "7", "metric")).toMatchObject({ strands: 7 });
    expect(withCell(wire, column("alloy"), " NICR-80-20 ", "metric")).toMatchObject({ alloy: "nicr-80-20" });
    expect(withCell(wire, column("price_per_m"), "0,35", "metric")).toMatchObject({ price_per_m: 0.35 });
    expect(refused(() => withCell(wire, column("price_per_m"), "cheap", "metric"))).toEqual([
      "price_per_m",
      'Price per metre must be a number; "cheap" is not',
    ]);
    expect(refused(() => withCell(wire, column("price_per_m"), "Infinity", "metric"))[0]).toBe("price_per_m");
    expect(refused(() => withCell(wire, column("length_m"), "long", "metric"))[0]).toBe("length_m");
    expect(refused(() => withCell(wire, column("size"), "thick", "metric"))[0]).toBe("size");
    expect(withCell(wire, column("owned"), "N", "metric")).toMatchObject({ owned: false });
    expect(refused(() => withCell(wire, column("owned"), "perhaps", "metric"))[0]).toBe("owned");
    expect(refused(() => itemFromCells({ kind: "supply", name: "x", plate: "12 V 2 A", supply: "{" }))).toEqual([
      "supply",
      expect.stringMatching(/not a supply in JSON/),
    ]);
  });
});

describe("the drawer as a file", () => {
  const fuses = (count: number) => Array.from({ length: count }, (_, i) => item({ kind: "fuse", name: `Fuse ${i}`, rating_A: 5 }));
  it("a line a thing, ended as text files are; names match regardless of their case and the spaces round them", () => {
    const text = drawerToCsv(fuses(2));
    expect(text.split("\n")).toHaveLength(4);
    expect(text).not.toContain("\r");
    const [first] = previewCsv("kind, NAME ,rating_A\nfuse,  fUSE 0  ,5\n", [{ id: "a", item: fuses(1)[0] as Item }]).rows;
    expect(first).toMatchObject({ status: "change", id: "a", changed: ["Name"] });
  });
  it("up to the stated length and no longer, by characters and by rows", () => {
    const line = "fuse,F,5\n";
    const head = "kind,name,rating_A\n";
    const filled = (length: number) => head + line + " ".repeat(length - head.length - line.length);
    expect(refused(() => previewCsv(filled(MAX_CSV_CHARACTERS + 1), []))[1]).toMatch(/at most \d+ characters/);
    expect(previewCsv(filled(MAX_CSV_CHARACTERS), []).rows[0]).toMatchObject({ status: "new" });
    const rows = (count: number) => head + Array.from({ length: count }, (_, i) => `fuse,F${i},5\n`).join("");
    expect(previewCsv(rows(MAX_CSV_ROWS), []).rows).toHaveLength(MAX_CSV_ROWS);
    expect(refused(() => previewCsv(rows(MAX_CSV_ROWS + 1), []))[1]).toMatch(new RegExp(`at most ${MAX_CSV_ROWS} rows`));
  });
  it("a line that cannot be read is refused by its number, with how many a quotation mark left open took along; what was before is taken", () => {
    const refusal = (text: string) => {
      const { rows } = previewCsv(`kind,name,rating_A\nfuse,A,5\n${text}`, []);
      expect(rows.map(({ line, status }) => [line, status])).toEqual([
        [2, "new"],
        [3, "refused"],
      ]);
      return rows[1];
    };
    expect(refusal('fuse,"B"x,5\nfuse,C,5\nfuse,D,5\n')).toMatchObject({
      column: "",
      message: expect.stringMatching(/cannot be read.*takes the 2 lines after it along$/),
    });
    expect(refusal('fuse,"B,5\nfuse,C,5\n')).toMatchObject({ message: expect.stringMatching(/takes the line after it along$/) });
    expect(refusal('fuse,"B,5\n')).toMatchObject({ message: expect.not.stringMatching(/along/) });
    expect(previewCsv("kind;name;rating_A\nfuse;A;5\n", []).rows[0]).toMatchObject({ status: "new" });
  });
});

const cutter = (name: string): Design => designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name));
const gatepost = cutter("Gatepost");
const job = jobOf(gatepost);
const wire = (spec: object, more: object = {}): HeldWire => ({ id: "w", name: "W", spec, lengthM: 50, pricePerM: 0, ...more }) as HeldWire;
const source = (supply: object, more: object = {}): HeldSupply => ({ id: "s", name: "S", supply, price: 0, ...more }) as HeldSupply;
const controls = (...kinds: string[]): Holdings["controls"] => kinds.map((kind) => ({ kind, price: 0 })) as Holdings["controls"];
const fence = { alloy: "nicr-80-20", gauge_awg: 26 };

describe("the nearest that a refused pair comes", () => {
  it("where it can be turned to clean it is, at its coolest that is; without a knob it is what it is", () => {
    const found = nearestSetup(gatepost, job, wire(fence), source({ kind: "dc", voltage_V: 12, maxCurrent_A: 8 }), controls("pwm"));
    expect(found?.verdict).toBe("clean");
    const at = knobOf(found?.design as Design)?.value as number;
    // A step of forty-eight cooler it drags.
    expect(verdictOf(withSetting(found?.design as Design, at - 1 / 40))).not.toBe("clean");
    expect(verdictOf(found?.design as Design)).toBe("clean");
    const straight = nearestSetup(gatepost, job, wire(fence), source({ kind: "dc", voltage_V: 12, maxCurrent_A: 8 }), controls("direct"));
    expect(straight?.verdict).toBe(verdictOf(straight?.design as Design));
    expect(straight?.design.control.kind).toBe("direct");
    expect(straight?.verdict).not.toBe("clean");
  });
  it("of what only drags the hottest is taken; of what is wide or smokes the coolest", () => {
    // Two volts warm this wire, never enough: all the way up is nearest.
    const weak = nearestSetup(gatepost, job, wire(fence), source({ kind: "dc", voltage_V: 2.6, maxCurrent_A: 8 }), controls("pwm"));
    expect(["drags", "too-cold"]).toContain(weak?.verdict);
    const most = knobOf(weak?.design as Design);
    expect(most?.value).toBe(most?.max);
    const thick = nearestSetup(
      { ...gatepost, job: { ...gatepost.job, maxKerf_mm: 0.6 } },
      { ...job, acceptedKerfM: 0.0006 },
      wire({ alloy: "ss-304", diameter_mm: 1.2 }),
      source({ kind: "dc", voltage_V: 12, maxCurrent_A: 60 }),
      controls("pwm"),
    );
    if (thick?.verdict === "wide") {
      const knob = knobOf(thick.design);
      expect(verdictOf(withSetting(thick.design, (knob?.value as number) - 0.05))).not.toBe("wide");
    }
    expect(thick).not.toBeNull();
  });
  it("the best of the controls at hand; none where none goes with the supply, the volts must not be touched, or too little is left", () => {
    const brick = source({ kind: "dc", voltage_V: 12, maxCurrent_A: 8 });
    expect(nearestSetup(gatepost, job, wire(fence), brick, controls("direct", "pwm"))?.design.control.kind).toBe("pwm");
    expect(nearestSetup(gatepost, job, wire(fence), brick, controls("pwm", "direct"))?.design.control.kind).toBe("pwm");
    expect(nearestSetup(gatepost, job, wire(fence), brick, controls("phase"))).toBeNull();
    expect(nearestSetup(gatepost, job, wire(fence), brick, [])).toBeNull();
    expect(nearestSetup(gatepost, job, wire(fence), source({ kind: "dc", voltage_V: 60, maxCurrent_A: 60 }), controls("direct"))?.verdict).toBeDefined();
    expect(nearestSetup(gatepost, job, wire(fence), source({ kind: "dc", voltage_V: 60.1, maxCurrent_A: 60 }), controls("direct"))).toBeNull();
    const needs = takenM(wire(fence), job);
    expect(nearestSetup(gatepost, job, wire(fence, { lengthM: needs }), brick, controls("pwm"))).not.toBeNull();
    expect(nearestSetup(gatepost, job, wire(fence, { lengthM: needs - 1e-6 }), brick, controls("pwm"))).toBeNull();
  });
});

describe("the one thing to buy", () => {
  const nothing: Holdings = { wires: [], supplies: [], controls: [] };
  const brick = source({ kind: "dc", voltage_V: 12, maxCurrent_A: 8 });
  const jobs = [{ name: "Gatepost", job }];
  const bought = (held: Holdings, offers: Partial<Holdings>) => oneThing(jobs, held, { ...nothing, ...offers });
  it("a wire, a supply or a control that opens the job, with what it costs and brings; a spool of it is never too short", () => {
    const missingWire: Holdings = { wires: [], supplies: [brick], controls: controls("pwm") };
    const [first] = bought(missingWire, { wires: [wire(fence, { name: "", lengthM: 0, pricePerM: 1.1 })] });
    expect(first).toMatchObject({ kind: "wire", wire: fence, price: 1.1, opens: ["Gatepost"] });
    expect(first?.gain).toBeGreaterThan(10);
    expect(
      bought({ wires: [wire(fence)], supplies: [], controls: controls("pwm") }, { supplies: [source(brick.supply, { name: "Brick", price: 15 })] })[0],
    ).toMatchObject({
      kind: "supply",
      name: "Brick",
      supply: brick.supply,
      price: 15,
      opens: ["Gatepost"],
    });
    const noControl: Holdings = { wires: [wire(fence)], supplies: [brick], controls: controls("direct") };
    expect(bought(noControl, { controls: [{ kind: "pwm", price: 9 }] as never })).toEqual([
      expect.objectContaining({ kind: "control", control: "pwm", name: "pwm", price: 9, opens: ["Gatepost"] }),
    ]);
  });
  it("what is there already is not named, nor a direct connection; what opens nothing only where it betters much", () => {
    const whole: Holdings = { wires: [wire(fence)], supplies: [brick], controls: controls("direct", "pwm") };
    expect(bought(whole, { controls: controls("direct", "pwm") })).toEqual([]);
    expect(bought(whole, { supplies: [brick] })).toEqual([]);
    const better = bought(whole, { supplies: [source({ kind: "bench", voltage_V: 30, current_A: 10 }, { name: "Bench", price: 140 })] });
    for (const each of better) {
      expect(each.opens).toEqual([]);
      expect(each.gain).toBeGreaterThan(1);
    }
  });
  it("gauges of one alloy represent one another: only the best of those without a name; those with names each for itself", () => {
    const missingWire: Holdings = { wires: [], supplies: [brick], controls: controls("pwm") };
    const sizes = [24, 26, 28].map((gauge_awg) => wire({ alloy: "nicr-80-20", gauge_awg }, { name: "" }));
    const found = bought(missingWire, { wires: sizes });
    expect(found).toHaveLength(1);
    const named = bought(missingWire, { wires: sizes.map((each, i) => ({ ...each, name: `Spool ${i}` })) });
    expect(named.length).toBeGreaterThan(1);
    const gains = named.map(({ gain }) => gain);
    expect(gains).toEqual([...gains].sort((a, b) => b - a));
    expect(found[0]?.gain).toBe(gains[0]);
  });
  it("is ready for a wire of its own", () => expect("say" in ready(fence as never, job)).toBe(false));
});

describe("what wire is this", () => {
  const truth = { alloy: "nicr-80-20", gauge_awg: 26 } as const;
  const perM = resistanceOhmPerM(resolveWire(truth), 20);
  it("ohms a metre: what was read, less the leads, over the length; the spread of meter, contact and unknown leads as squares", () => {
    const known = identifySpool({ lengthM: 5, readingOhm: 5 * perM + 0.3, leadsOhm: 0.3 });
    expect(known.ohmPerM).toBeCloseTo(perM, 9);
    expect(known.spreadOhmPerM).toBeCloseTo(Math.hypot(0.01 * (5 * perM + 0.3), 0.05) / 5, 9);
    const unknown = identifySpool({ lengthM: 5, readingOhm: 5 * perM + 0.3 });
    expect(unknown.ohmPerM).toBeCloseTo(perM + 0.1 / 5, 9);
    expect(unknown.spreadOhmPerM).toBeCloseTo(Math.hypot(0.01 * (5 * perM + 0.3), 0.05, 0.1) / 5, 9);
  });
  it("every candidate fits within three spreads, nearest first; a calliper leaves those of its size", () => {
    const { candidates } = identifySpool({ lengthM: 5, readingOhm: 5 * perM, leadsOhm: 0 });
    expect(candidates.length).toBeGreaterThan(1);
    expect(candidates.length).toBeLessThanOrEqual(12);
    expect(candidates.map(({ apart }) => apart)).toEqual([...candidates.map(({ apart }) => apart)].sort((a, b) => a - b));
    for (const { apart, off, ohmPerM } of candidates) {
      expect(apart).toBeLessThan(3);
      expect(off).toBeCloseTo(ohmPerM / perM - 1, 9);
    }
    const callipered = identifySpool({ lengthM: 5, readingOhm: 5 * perM, leadsOhm: 0, diameterMm: awgDiameterMm(26) });
    for (const { wire: spec } of callipered.candidates) expect(Math.abs(resolveWire(spec).diameterM * 1000 - awgDiameterMm(26))).toBeLessThan(0.04 * 0.41);
    expect(callipered.candidates[0]?.wire).toMatchObject(truth);
  });
  it("says how good the reading is, and what would better it", () => {
    const advice = (reading: Parameters<typeof identifySpool>[0]) => identifySpool(reading).advice;
    expect(advice({ lengthM: 10, readingOhm: 80, leadsOhm: 0 })).toBe("good to 1.0 %; a calliper over the wire narrows it further");
    expect(advice({ lengthM: 10, readingOhm: 80, leadsOhm: 0, diameterMm: 0.4 })).toBe("good to 1.0 %");
    // 0.05 of an ohm in 0.5: a tenth, so five times as long for a fiftieth.
    expect(advice({ lengthM: 0.1, readingOhm: 0.5, leadsOhm: 0 })).toMatch(/only good to 10 %.*0\.5 ohm\. Measure a piece 6 times as long$/);
    expect(advice({ lengthM: 0.1, readingOhm: 0.7 })).toMatch(/hold the meter's leads together/);
    expect(advice({ lengthM: 1, readingOhm: 0.1 })).toMatch(/as much as the wire/);
    expect(identifySpool({ lengthM: 1, readingOhm: 0.1 }).ohmPerM).toBe(0);
  });
});

describe("a spool's label", () => {
  const spool = { kind: "wire" as const, name: "Rib wire & <b>", notes: "", owned: true, alloy: "ss-304" as const, diameter_mm: 0.64, length_m: 12.5 };
  it("names alloy, size, temper and ohms; a temper that nobody knows is named so", () => {
    const [name, what, temper, ohms] = spoolLines({ ...spool, temper: "spring" }, "metric");
    expect([name, what, temper]).toEqual(["Rib wire & <b>", "stainless 304, 0.64 mm", "hard-drawn"]);
    // Resistivity of the table over the wire's section.
    const perM = Number.parseFloat(ohms as string);
    expect(perM).toBeCloseTo((0.72e-6 * 4) / (Math.PI * 0.64e-3 ** 2), 1);
    expect(ohms).toContain("12.5 m");
    expect(spoolLines(spool, "metric")[2]).toBe("temper not known: counts as annealed");
    expect(spoolLines({ ...spool, breaking_N: 271 }, "metric")[2]).toBe("breaks at 271 N");
    // Of an alloy with one temper there is nothing to say.
    expect(spoolLines({ ...spool, alloy: "fecral" }, "metric")).toHaveLength(3);
  });
  it("is drawn at its own size, its words within it and safe as a file", () => {
    const drawing = spoolLabel({ ...spool, name: "A spool with a name of eighty characters that somebody wrote down in full length" }, "inch");
    expect([drawing.width, drawing.height]).toEqual([62, 25]);
    for (const shape of drawing.shapes) if (shape.kind === "text") expect(shape.y).toBeLessThan(24);
    const long = drawing.shapes.find((shape) => shape.kind === "text" && shape.bold);
    expect(long).toMatchObject({ size: expect.closeTo((1.75 * 56) / 80, 1) });
    expect(drawingToSvg(spoolLabel(spool, "metric"))).toContain("Rib wire &amp; &lt;b&gt;");
  });
});
