import { describe, expect, it } from "vitest";
import { corners, extent, overlaps, touches } from "../../../../../tests/helpers/drawn";
import type { Shape } from "../../../kernel/drawing";
import { LIMITS } from "../../../units/limits";
import { formatQuantity, type Quantity } from "../../../units/units";
import { type Supply, supplyRecordOf } from ".";

const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const print = (value: number) => String(Number(value.toFixed(2)));
const AT = { x: 62, top: 40, bottom: 120, print, isolated: true, tap: null };
const sign = (supply: Supply, more: Partial<{ isolated: boolean; tap: number | null }> = {}) => {
  const { record, own } = supplyRecordOf(supply);
  return record.symbol(own, { ...AT, ...more });
};
const words = (shapes: readonly Shape[]) => shapes.flatMap((shape) => (shape.kind === "text" ? [shape] : []));
const said = (shapes: readonly Shape[], text: string | RegExp) =>
  words(shapes).find((shape) => (typeof text === "string" ? shape.text === text : text.test(shape.text))) as Extract<Shape, { kind: "text" }>;

const brick: Supply = { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 };
const bench: Supply = { kind: "bench", voltage_V: 12, current_A: 3 };
const transformer: Supply = { kind: "transformer", voltage_Vrms: 24, rating_VA: 80 };
const battery: Supply = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 };
const ALL: [string, Supply][] = [
  ["brick", brick],
  ["computer rail", { ...brick, make: "computer" } as Supply],
  ["train", { ...brick, make: "train" } as Supply],
  ["bench", bench],
  ["transformer", transformer],
  ["battery", battery],
];

describe("a supply's sign in the wiring", () => {
  it.each(ALL)("%s: ends on both rails, keeps to its place, and no words lie on words", (_, supply) => {
    const shapes = sign(supply);
    expect(touches(shapes, 62, 40) && touches(shapes, 62, 120)).toBe(true);
    expect(overlaps(shapes)).toEqual([]);
    const { left, right, top, bottom } = extent(shapes);
    // The mains side begins at 40; what a computer's rail needs besides is above it, up to the sheet's edge.
    expect([left >= 20, right <= 260, bottom <= 134]).toEqual([true, true, true]);
    expect(top).toBeGreaterThanOrEqual(supply.kind === "dc" && supply.make === "computer" ? 0 : 39);
  });

  it("a box of direct current: the plate's two lines in the middle of it, mains in at the left, its sign corner to corner", () => {
    for (const [supply, plate, called] of [
      [brick, ["19 V", "4.7 A"], "supply"],
      [bench, ["12 V", "limit 3 A"], "bench supply"],
    ] as const) {
      const shapes = sign(supply);
      const [volts, amperes] = plate.map((line) => said(shapes, line));
      expect(volts).toMatchObject({ x: 62, anchor: "middle", mono: true, bold: true });
      expect(amperes).toMatchObject({ x: 62, anchor: "middle", mono: true });
      expect([(volts?.y ?? 0) < (amperes?.y ?? 0), Math.abs(((volts?.y ?? 0) + (amperes?.y ?? 0)) / 2 - 80) <= 2]).toEqual([true, true]);
      expect(said(shapes, called)).toMatchObject({ anchor: "start", x: 43, y: 128, size: 4 });
      expect(said(shapes, "+")).toMatchObject({ anchor: "end", bold: true, x: 60 });
      expect(said(shapes, "+").y).toBeCloseTo(42.6, 9);
      // Box from 46 to 78, 53 to 107; leads out of it to the rails; two mains leads in.
      for (const [x, y] of [
        [46, 53],
        [78, 107],
        [46, 107],
        [78, 53],
        [62, 53],
        [62, 107],
        [40, 62],
        [46, 62],
        [40, 98],
        [46, 98],
      ] as const)
        expect([x, y, touches(shapes, x, y)]).toEqual([x, y, true]);
      expect(said(shapes, "~")).toMatchObject({ x: 55, y: 68, size: 7 });
      expect(said(shapes, "=")).toMatchObject({ x: 70, y: 98, size: 7 });
      // The plate's paper has no edge; mains and the bar across are drawn soft and thin.
      const strokes = shapes.flatMap((shape) => (shape.kind === "path" && shape.stroke ? [shape.stroke] : []));
      expect([...strokes].sort()).toEqual(["line", "none", "soft"]);
      const paper = shapes.find((shape) => shape.kind === "path" && shape.stroke === "none") as Shape;
      expect(extent([paper])).toEqual({ left: 49, right: 75, top: 73.5, bottom: 86 });
    }
  });

  it("isolation stands beneath, in soft ink where it is known, in the ink of danger where it is not", () => {
    for (const supply of [brick, bench, transformer]) {
      expect(said(sign(supply), /^isolated/)).toMatchObject({ ink: "soft", x: 43, y: 133, anchor: "start", size: 3.6 });
      expect(said(sign(supply, { isolated: false }), /not known/)).toMatchObject({ ink: "ember" });
    }
  });

  it("what a supply is called goes beneath it; a computer's rail has its other lines above: power-on to ground, two lamps", () => {
    expect(said(sign({ ...brick, make: "train" } as Supply), "train supply")).toBeDefined();
    const plain = sign(brick);
    const shapes = sign({ ...brick, make: "computer" } as Supply);
    expect(said(shapes, "12 V rail")).toBeDefined();
    expect(plain.length).toBeLessThan(shapes.length);
    const above = shapes.slice(plain.length);
    expect(extent(above).bottom).toBeLessThan(38);
    const names = ["power-on", "standby, 5 V", "power good, 5 V"].map((text) => said(above, text));
    expect(names.map((name) => [name.anchor, name.x, name.size])).toEqual(names.map(() => ["end", 60, 3.4]));
    expect(names.map(({ y }) => y)).toEqual([5, 14, 23].map((y) => y + 1.3));
    for (const text of ["held to ground, or nothing comes out", "lamp: plugged in", "lamp: running"]) {
      expect(said(above, text)).toMatchObject({ anchor: "start", x: 118, size: 3.2, ink: "soft" });
    }
    // Each line goes from its name to ground: three strokes, shorter and shorter.
    for (const y of [5, 14, 23]) {
      const ground = above.flatMap((shape) => corners(shape)).filter(([x, py]) => x > 111.9 && Math.abs(py - y) < 4);
      const heights = [112, 113.6, 115.2].map((x) => ground.filter(([px]) => Math.abs(px - x) < 1e-6).map(([, py]) => Math.abs(py - y)));
      expect(heights.map((each) => Math.max(...each))).toEqual([expect.closeTo(2.4, 6), expect.closeTo(1.5, 6), expect.closeTo(0.6, 6)]);
    }
    expect(touches(above, 62, 5) && touches(above, 112, 5) && touches(above, 90, 5) && touches(above, 76, 5)).toBe(true);
    // The switch is open between its two dots.
    expect(above.filter((shape) => shape.kind === "path" && shape.stroke === "ember")).toHaveLength(1);
    expect(
      above.filter((shape) => shape.kind === "path" && shape.fill === "graphite").map((shape) => (extent([shape]).left + extent([shape]).right) / 2),
    ).toEqual([76, 90]);
    for (const y of [14, 23]) {
      // Ohms before the lamp, the lamp's triangle, its bar, and on to ground.
      for (const x of [62, 68, 82, 90, 94.4, 112])
        expect([x, touches(above, x, y) || touches(above, x, y - 1.8) || touches(above, x, y - 2.4)]).toEqual([x, true]);
      expect(words(above).filter((word) => word.text === "330 ohm" && word.x === 75 && word.y === y - 3 && word.size === 2.8)).toHaveLength(1);
    }
  });

  it("a transformer: two coils back to back about an iron of two lines, its secondary on the rails; a tap where one is chosen", () => {
    const shapes = sign(transformer);
    const coils = shapes.filter((shape) => shape.kind === "path" && shape.d.includes("a4 4"));
    expect(coils).toHaveLength(2);
    expect(coils.map((coil) => (coil.kind === "path" ? (coil.d.match(/a4 4/g) ?? []).length : 0))).toEqual([6, 6]);
    const [primary, secondary] = coils.map((coil) => extent([coil]));
    // Both as high as each other about the middle, each turned away from its own leads.
    for (const coil of [primary, secondary]) expect([coil?.top, coil?.bottom]).toEqual([expect.closeTo(56, 6), expect.closeTo(104, 6)]);
    expect(primary?.left).toBeCloseTo(48, 6);
    expect(secondary?.right).toBeCloseTo(66, 6);
    for (const [x, y] of [
      [56, 54],
      [56, 106],
      [58, 54],
      [58, 106],
      [48, 56],
      [48, 104],
      [40, 62],
      [40, 98],
      [66, 104],
      [66, 56],
      [70, 40],
    ] as const)
      expect([x, y, touches(shapes, x, y)]).toEqual([x, y, true]);
    expect(said(shapes, "24 V, 80 VA")).toMatchObject({ anchor: "start", mono: true, x: 43, y: 128 });
    expect(said(shapes, /tap/)).toBeUndefined();
    const tapped = sign(transformer, { tap: 0.25 });
    // A quarter of its turns from the lower end up.
    expect(touches(tapped, 66, 104 - 12)).toBe(true);
    expect(said(tapped, "tap 25 %")).toMatchObject({ anchor: "start", x: 72, size: 3.6 });
    expect(said(tapped, "tap 25 %").y).toBeCloseTo(104 - 12 + 1.5, 9);
    expect(words(tapped)).toHaveLength(words(shapes).length + 1);
  });

  it("a battery: three cells, a long and a short stroke each, plus at the top, volts and ampere-hours next to it", () => {
    const shapes = sign(battery);
    const cells = shapes.find((shape) => shape.kind === "path" && shape.width === 1) as Shape;
    const strokes = corners(cells);
    expect(new Set(strokes.map(([, y]) => y)).size).toBe(6);
    for (const i of [0, 1, 2]) {
      expect(strokes).toContainEqual([53, 68 + 9 * i]);
      expect(strokes).toContainEqual([71, 68 + 9 * i]);
      expect(strokes).toContainEqual([57.5, 72 + 9 * i]);
      expect(strokes).toContainEqual([66.5, 72 + 9 * i]);
    }
    // From the rails to the outermost strokes.
    expect(touches(shapes, 62, 68) && touches(shapes, 62, 90)).toBe(true);
    const [volts, hours, plus] = [said(shapes, / V$/), said(shapes, "40 Ah"), said(shapes, "+")];
    expect([volts, hours]).toEqual([
      expect.objectContaining({ anchor: "end", mono: true, x: 48, y: 78 }),
      expect.objectContaining({ anchor: "end", mono: true, x: 48, y: 84 }),
    ]);
    expect(plus).toMatchObject({ anchor: "end", bold: true, x: 59, y: 46 });
  });
});

describe("a supply in words", () => {
  const of = (supply: Supply) => {
    const { record, own } = supplyRecordOf(supply);
    return { record, own, plate: record.plate(own, show), sentence: record.sentence(own, show), part: record.part(own), asks: record.asks(own) };
  };

  it("says its plate, itself and the part to get, each with its own figures", () => {
    expect(of(brick)).toMatchObject({ plate: ["19 V", "4.7 A"], sentence: "19 V 4.7 A brick", part: "19 V, 4.7 A or better, isolated" });
    expect(of({ ...brick, make: "computer" } as Supply).sentence).toBe("19 V 4.7 A rail of a computer supply");
    expect(of(bench)).toMatchObject({ plate: ["12 V", "≤ 3 A"], sentence: "bench supply at 12 V, limit 3 A", part: "bench supply of 12 V, 3 A or better" });
    expect(of({ ...bench, maxVoltage_V: 30, maxCurrent_A: 5 } as Supply).part).toBe("bench supply of 30 V, 5 A or better");
    expect(of(transformer)).toMatchObject({ plate: ["24 V AC", "80 VA"], sentence: "24 V 80 VA transformer", part: "24 V transformer, 80 VA, isolated" });
    expect(of({ ...battery, stateOfCharge: 0.4 } as Supply)).toMatchObject({
      sentence: "6-cell lead-acid battery of 40 Ah at 40 % charge",
      part: "6-cell lead-acid battery, 40 Ah",
    });
    expect(of(battery).sentence).toMatch(/at 100 % charge/);
    expect(of(battery).plate[1]).toBe("40 Ah");
    expect(of(battery).plate[0]).toMatch(/^12\.\d+ V$/);
  });

  it("asks for its figures by name, in the unit that is typed, and no further than its knobs go", () => {
    const fields = (supply: Supply) => of(supply).asks.map(({ key, value, min, max, scale = 1 }) => [key, value, min, max, scale]);
    const { voltage_V: V, maxCurrent_A: A, internal_ohm: OHM } = LIMITS;
    expect(fields({ ...brick, internal_ohm: 0.2 } as Supply)).toEqual([
      ["voltage_V", 19, V.min, V.max, 1],
      ["maxCurrent_A", 4.7, A.min, A.max, 1],
      ["internal_ohm", 0.2, OHM.min, OHM.max, 1],
    ]);
    // A knob of its own ends at its plate, where that is known; a brick's other plate is nobody's end.
    const train = { ...brick, make: "train", maxVoltage_V: 24 } as Supply;
    expect(fields(train)[0]).toEqual(["voltage_V", 19, V.min, 24, 1]);
    expect(fields({ ...train, make: undefined } as Supply)[0]).toEqual(["voltage_V", 19, V.min, V.max, 1]);
    expect(fields({ ...train, maxVoltage_V: undefined } as Supply)[0]).toEqual(["voltage_V", 19, V.min, V.max, 1]);
    expect(of(train).asks[0]?.label).toBe("Volts, as the knob is");
    expect(of(brick).asks[0]?.label).toBe("Volts on the plate");
    expect(fields({ ...bench, maxVoltage_V: 30 } as Supply).map(([field, value, , max]) => [field, value, max])).toEqual([
      ["voltage_V", 12, 30],
      ["current_A", 3, A.max],
      ["maxVoltage_V", 30, V.max],
      ["maxCurrent_A", 3, A.max],
    ]);
    expect(fields(transformer).map(([field, value]) => [field, value])).toEqual([
      ["voltage_Vrms", 24],
      ["rating_VA", 80],
      ["internal_ohm", 0],
    ]);
    expect(fields({ ...battery, stateOfCharge: 0.4 } as Supply)).toEqual([
      ["cells", 6, LIMITS.cells.min, LIMITS.cells.max, 1],
      ["capacity_Ah", 40, LIMITS.capacity_Ah.min, LIMITS.capacity_Ah.max, 1],
      ["stateOfCharge", 40, 0, 100, 100],
      ["internal_ohm", 0, OHM.min, OHM.max, 1],
    ]);
    expect(of(battery).asks[0]?.whole).toBe(true);
    expect(fields(battery)[2]?.[1]).toBe(100);
  });

  it("warns of what must never be done with it, and of no other's dangers", () => {
    const never = (supply: Supply) => supplyRecordOf(supply).record.never(supplyRecordOf(supply).own);
    const always = (supply: Supply) => supplyRecordOf(supply).record.always(supplyRecordOf(supply).own);
    expect(never(battery)).toEqual([expect.stringMatching(/Never short a battery/)]);
    expect([never(brick), always(brick)]).toEqual([[], []]);
    const computer = { ...brick, make: "computer" } as Supply;
    expect(never(computer)).toEqual([expect.stringMatching(/Never open a computer supply/)]);
    expect(always(computer)).toEqual([expect.stringMatching(/power-on line to ground.*330 ohm/)]);
    const modern = { ...brick, make: "train-modern" } as Supply;
    expect([never(modern), always(modern)]).toEqual([[], [expect.stringMatching(/cold wire for a short circuit/)]]);
    const note = (supply: Supply) => supplyRecordOf(supply).record.note(supplyRecordOf(supply).own);
    expect([note(brick), note(bench), note(battery)]).toEqual([null, null, null]);
    expect(note(computer)).toMatch(/power-on line/);
  });

  it("a knob of one's own is brought down from the plate and is still the same thing; a brick's volts are its own", () => {
    const turned = (supply: Supply, volts: number | null) => supplyRecordOf(supply).record.turnedTo(supplyRecordOf(supply).own, volts);
    const train = { ...brick, make: "train" } as Supply;
    expect(turned(train, 9)).toEqual({ ...train, voltage_V: 9, maxVoltage_V: 19 });
    expect(turned(train, null)).toEqual(train);
    expect(turned(brick, 9)).toEqual(brick);
    expect(turned(brick, null)).toEqual(brick);
    expect(turned(bench, 9)).toEqual({ kind: "bench", voltage_V: 9, current_A: 3, maxVoltage_V: 12, maxCurrent_A: 3 });
    expect(turned(bench, null)).toMatchObject({ voltage_V: 12, maxVoltage_V: 12 });
    const same = (a: Supply, b: Supply) => supplyRecordOf(a).record.same({ ...a }, { ...b });
    expect(same(train, { ...train, voltage_V: 9 } as Supply)).toBe(true);
    expect(same(train, { ...train, make: "train-modern" } as Supply)).toBe(false);
    expect(same(brick, { ...brick })).toBe(true);
    expect(same(brick, { ...brick, voltage_V: 12 })).toBe(false);
    expect(same(bench, { ...bench, voltage_V: 5 } as Supply)).toBe(true);
  });
});
