import { readdirSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anySupplyOf } from "../../../../../tests/helpers/anyDesign";
import { formatQuantity, type Quantity } from "../../../units/units";
import { supplySchema } from "../supplySchema";
import { atPlate, atVolts, ownKnob, SUPPLIES, SUPPLY_KINDS, type Supply, sourceOf, supplyEmfV, supplyLimitA, supplyOhm, supplyRecordOf } from ".";
import type { AnySupplyRecord } from "./record";

const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const print = String;

const any = (record: AnySupplyRecord): fc.Arbitrary<Supply> => anySupplyOf(record).map((given) => supplySchema.parse(given));

describe.each(SUPPLIES.map((record) => [record.kind, record] as const))("a supply of the kind %s", (kind, record) => {
  const each = (holds: (supply: Supply, own: ReturnType<typeof supplyRecordOf>["own"]) => void) =>
    fc.assert(
      fc.property(any(record), (supply) => holds(supply, supplyRecordOf(supply).own)),
      { numRuns: 200 },
    );

  it("is read as it was written, and refused with a figure that is left out, out of range or not its own", () => {
    each((supply) => {
      expect(supplySchema.parse(structuredClone(supply))).toEqual(supply);
      for (const [name, field] of Object.entries(record.fields)) {
        const { [name as "kind"]: _, ...without } = supply;
        expect(supplySchema.safeParse(without).success).toBe(field.optional === true);
        if (field.as === "choice") expect(supplySchema.safeParse({ ...supply, [name]: "moonshine" }).success).toBe(false);
        else {
          const { min, max } = field;
          const issueOf = (value: unknown) => supplySchema.safeParse({ ...supply, [name]: value }).error?.issues[0];
          expect(issueOf(max * 1.01 + 0.01)?.path).toEqual([name]);
          expect(issueOf(min - 1)?.path).toEqual([name]);
          if (field.kills) expect(issueOf(max + 1)?.message).toMatch(/can kill.*refused, not computed/);
          if (field.whole) expect(issueOf(min + 0.5)?.message).toMatch(/whole number/);
        }
      }
      expect(supplySchema.safeParse({ ...supply, extra: 1 }).success).toBe(false);
    });
  });

  it("asks for what it holds, each inside the range of its file", () => {
    each((_, own) => {
      for (const { key, min, max, value, scale = 1 } of record.asks(own)) {
        const held = record.fields[key];
        if (held?.as !== "number") throw new Error(`${key} is no figure of ${kind}`);
        expect(min / scale).toBeGreaterThanOrEqual(held.min);
        expect(max / scale).toBeLessThanOrEqual(held.max);
        expect(value).toBeGreaterThanOrEqual(min);
      }
    });
  });

  it("gives its control what its figures say: volts, ohms, and a limit that holds or trips", () => {
    each((supply, own) => {
      const source = sourceOf(supply);
      expect(source).toEqual({
        emfV: supplyEmfV(supply),
        insideOhm: supplyOhm(supply),
        holdsA: record.holdsLimit ? supplyLimitA(supply) : Number.POSITIVE_INFINITY,
        plateA: supplyLimitA(supply),
        alternating: record.alternating,
        ownKnob: ownKnob(supply),
      });
      expect([source.emfV, source.insideOhm, source.plateA].every((value) => value >= 0)).toBe(true);
      // What has no limit of its own runs down, and must be fused where it is.
      expect(source.plateA === Number.POSITIVE_INFINITY).toBe(record.charge !== null);
      expect(record.labelV(own)).toBeGreaterThan(0);
    });
  });

  it("is turned to other volts and limits and to its plate only where they are its user's to choose, and stays the same thing", () => {
    each((supply, own) => {
      const at = atVolts(supply, 7.25);
      expect(at === null).toBe(record.atVolts === null);
      if (at) {
        expect([supplyEmfV(at), at.kind, supplyOhm(at)]).toEqual([7.25, supply.kind, supplyOhm(supply)]);
        if (ownKnob(supply)) expect(record.same(own, { ...at })).toBe(true);
        else expect(record.same(own, { ...at })).toBe(supplyEmfV(supply) === 7.25);
      }
      if (record.atLimit) expect(record.limitA(record.atLimit(own, 3.5))).toBe(3.5);
      // Off the shelf at its most, brought down by its knob, and back at its plate.
      const turned = record.turnedTo(own, ownKnob(supply) ? supplyEmfV(supply) / 2 : null) as unknown as Supply;
      expect(supplyEmfV(atPlate(turned))).toBe(supplyEmfV(supply));
      expect(supplyEmfV(turned)).toBe(ownKnob(supply) ? supplyEmfV(supply) / 2 : supplyEmfV(supply));
      if (ownKnob(supply)) expect(record.mostV({ ...turned })).toBe(supplyEmfV(supply));
      if (record.tripsOnRush(own)) expect(ownKnob(supply)).toBe(true);
    });
  });

  it("where it empties, its volts fall with what is left, and its floor lies under them when it is full", () => {
    const { charge } = record;
    if (!charge) return;
    each((_, own) => {
      const volts = [1, 0.5, 0.1].map((left) => record.emfV(charge.withLeft(own, left)));
      expect(volts).toEqual([...volts].sort((a, b) => b - a));
      expect(charge.left(charge.withLeft(own, 0.25))).toBe(0.25);
      expect(charge.floorV(own)).toBeLessThan(volts[0] as number);
      expect(charge.ampereHours(own)).toBeGreaterThan(0);
    });
  });

  it("is described in words, drawn and written as a netlist with every figure a maker must know", () => {
    each((_, own) => {
      for (const words of [...record.plate(own, show), record.sentence(own, show), record.part(own)]) expect(words).toMatch(/\d/);
      expect(record.serves(own, own)).toBe(true);
      const lines = record.netlist(own, { emfV: 5, print, remark: ", remarked" });
      expect(lines.at(-1)).toBe("VSUPPLY s0 s1 0");
      expect(lines[0]).toMatch(/^\* /);
      expect(lines.join(" ").includes("remarked")).toBe(record.netlistOhms);
      for (const isolated of [true, false]) {
        const shapes = record.symbol(own, { x: 62, top: 40, bottom: 120, print, isolated, tap: null });
        const said = shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []));
        expect(said.some((words) => /\d/.test(words))).toBe(true);
        // Nobody need ask it of what was never joined to the mains.
        expect(said.includes("isolation not known")).toBe(!isolated && !record.apart);
      }
      expect(record.fuseWords).toContain(record.fusedAt);
    });
  });
});

it("a better one of its kind serves in another's place, a lesser one does not", () => {
  const rows: [wanted: Supply, theirs: Supply, serves: boolean][] = [
    [{ kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, { kind: "dc", voltage_V: 12, maxCurrent_A: 6 }, true],
    [{ kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, { kind: "dc", voltage_V: 13, maxCurrent_A: 6 }, false],
    [{ kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, { kind: "dc", voltage_V: 12, maxCurrent_A: 4 }, false],
    [{ kind: "bench", voltage_V: 12, current_A: 3 }, { kind: "bench", voltage_V: 30, current_A: 5 }, true],
    [{ kind: "bench", voltage_V: 12, current_A: 3 }, { kind: "bench", voltage_V: 10, current_A: 5 }, false],
    [{ kind: "bench", voltage_V: 12, current_A: 3 }, { kind: "bench", voltage_V: 30, current_A: 2 }, false],
    [{ kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 }, { kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 1 }, true],
    [{ kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 }, { kind: "battery", chemistry: "alkaline", cells: 6, capacity_Ah: 3 }, false],
    [{ kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 }, { kind: "battery", chemistry: "nimh", cells: 5, capacity_Ah: 3 }, false],
    [{ kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }, { kind: "transformer", voltage_Vrms: 24, rating_VA: 150 }, true],
    [{ kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }, { kind: "transformer", voltage_Vrms: 24, rating_VA: 50 }, false],
    [{ kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }, { kind: "transformer", voltage_Vrms: 12, rating_VA: 100 }, false],
  ];
  for (const [wanted, theirs, serves] of rows) expect([wanted, supplyRecordOf(wanted).record.serves({ ...theirs }, { ...wanted })]).toEqual([wanted, serves]);
});

it("lists every file of the folder", () => {
  const files = readdirSync(import.meta.dirname).filter((name) => !/^(index|record|box)\.ts$|\.test\.ts$/.test(name));
  expect(files.map((name) => name.replace(/\.ts$/, "")).sort()).toEqual([...SUPPLY_KINDS].sort());
});

it("a kind nobody made is refused with the kinds there are", () => {
  expect(supplySchema.safeParse({ kind: "candle" }).error?.issues[0]?.message).toContain(SUPPLY_KINDS.join(", "));
});
