import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { readDocumentText, writeDocument } from "../kernel/document";
import { CoreError } from "../kernel/errors";
import { entrySchema } from "../log/entries";
import { DEMO_PLANS } from "../plans/demoPlans";
import { writeDxf } from "../plans/outputs/dxf";
import { writeSvg } from "../plans/outputs/svg";
import { knowFont, OWN_FONT } from "../plans/shapes/text";
import type { Field } from "../units/field";
import { formatQuantity } from "../units/units";
import { around } from "./around";
import { fitted, fittedFrame, PENS } from "./fitted";
import { RIG_KINDS, type Rig, rigRecord, rigSchema } from "./kinds";
import { rigEntry } from "./logged";
import type { Show } from "./record";
import { DEMO_RIGS, newRig, RIG_KIND, rigMerger } from "./rig";

// The lettering of the app itself, as it comes from the disk.
knowFont(OWN_FONT, () => new Uint8Array(readFileSync(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", "DejaVuSans-Bold.ttf"))).buffer);
const show: Show = (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals);
const alone = around(null, null);
const tom = DEMO_CUTTERS[0] as Design;
const fin = around(tom, DEMO_PLANS[0] ?? null);
const demo = DEMO_RIGS.map(({ document, cutter, plan }) => ({
  name: document.name,
  rig: document.rig,
  beside: around(DEMO_CUTTERS.find(({ name }) => name === cutter) ?? null, DEMO_PLANS.find(({ name }) => name === plan) ?? null),
  cutter,
  plan,
}));

/** Any value that a field's own limits allow. */
const anyOf = (field: Field): fc.Arbitrary<unknown> => {
  switch (field.as) {
    case "number": {
      // Half of them as a workshop has them: a figure drawn evenly from a range to twenty metres is never a hand's breadth.
      const near = Math.min(field.max, Math.max(field.min, 300));
      const own = field.whole
        ? fc.integer({ min: Math.ceil(field.min), max: Math.floor(Math.min(field.max, 200)) })
        : fc.oneof(fc.double({ min: field.min, max: field.max, noNaN: true }), fc.double({ min: Math.min(field.min, near), max: near, noNaN: true }));
      return field.optional ? fc.option(own, { nil: null }) : own;
    }
    case "choice":
      return fc.constantFrom(...field.options.map(([value]) => value));
    case "switch":
      return fc.boolean();
    case "word":
      return fc.string({ minLength: field.least, maxLength: field.most, unit: "grapheme-ascii" });
    case "numbers":
      return fc.array(fc.double({ min: field.min, max: field.max, noNaN: true }), { maxLength: field.most });
    case "rows":
      return fc.array(fc.tuple(...field.columns.map(({ min, max }) => fc.integer({ min, max: Math.min(max, 400) }))), { maxLength: 4 });
    default:
      throw new Error(`no rig has a field of kind ${field.as}`);
  }
};
const anyRig = (kind: (typeof RIG_KINDS)[number]) =>
  fc.record(Object.fromEntries(rigRecord(kind).fields.map((field) => [field.key, anyOf(field)]))).map((values) => ({ kind, ...values }) as unknown as Rig);

describe("rigs", () => {
  it("every file of a kind is listed, and every kind begins as its own schema allows", () => {
    const files = readdirSync(path.join(import.meta.dirname, "kinds")).filter((name) => name !== "index.ts" && !name.endsWith(".test.ts"));
    expect(files.map((name) => name.replace(".ts", "")).sort()).toEqual([...RIG_KINDS].sort());
    for (const kind of RIG_KINDS) {
      const { start, fields, kind: own } = rigRecord(kind);
      expect(own).toBe(kind);
      expect(rigSchema.parse(start)).toEqual(start);
      // What is left out is as the kind begins: an older file opens.
      expect(rigSchema.parse({ kind })).toEqual(start);
      expect(new Set(["kind", ...fields.map(({ key }) => key)])).toEqual(new Set(Object.keys(start)));
      for (const { only } of fields) if (only) expect(fields.some(({ key }) => key === only.key)).toBe(true);
    }
  });

  it.each(demo)(
    "$name: solved, drawn so that every line has its pen, built of something, and every note at a field of its own",
    ({ rig, beside, cutter, plan }) => {
      const record = rigRecord(rig.kind);
      expect(cutter === null || DEMO_CUTTERS.some(({ name }) => name === cutter)).toBe(true);
      expect(plan === null || (record.takesPlan && DEMO_PLANS.some(({ name }) => name === plan))).toBe(true);
      const evaluation = record.solve(rig, beside, show);
      expect(evaluation.says.length).toBeGreaterThan(15);
      for (const { value, quantity } of evaluation.figures)
        expect(typeof value === "number" ? quantity !== undefined && Number.isFinite(value) : value.length > 0).toBe(true);
      for (const { points } of evaluation.curves ?? []) for (const point of points) expect(point.every(Number.isFinite)).toBe(true);
      for (const { columns, rows } of evaluation.tables ?? []) {
        // A heading without words is none to who hears it.
        for (const column of columns) expect(column).not.toBe("");
        for (const row of rows) expect(row.length).toBe(columns.length);
      }
      for (const { field } of evaluation.notes) if (field) expect(record.fields.map(({ key }) => key)).toContain(field);
      const drawing = record.draw(rig, beside, show);
      for (const { layer } of [...drawing.lines, ...drawing.texts]) expect(PENS).toHaveProperty(layer);
      expect(drawing.texts.length).toBeGreaterThan(1);
      for (const { points } of drawing.lines) for (const point of points) expect(point.every(Number.isFinite)).toBe(true);
      expect(new Set(record.build(rig, beside, show).map(({ of }) => of))).toEqual(new Set(["wood", "hardware", "wiring"]));
      // Given out at full size, and on a sheet at a scale that it fits.
      expect(writeSvg(drawing)).toContain("mm");
      expect(writeDxf(drawing)).toContain("LWPOLYLINE");
      const sheet = fitted(drawing, 180, 120);
      expect(sheet.drawing.width).toBeLessThanOrEqual(180.001);
      expect(sheet.drawing.height).toBeLessThanOrEqual(120.001);
      expect(sheet.drawing.width * sheet.scale).toBeCloseTo(fittedFrame(drawing).wide, 3);
      // Its own kind of entry in a log.
      const given = Object.fromEntries(record.logged.map(({ key, min, max }) => [key, Math.min(max, Math.max(min, 5))]));
      const entry = entrySchema.parse(rigEntry(rig, "one", given, "", "2026-03-01T10:00:00.000Z"));
      expect(entry).toMatchObject({ kind: "rig-cut", rig: rig.kind });
      expect(entry.kind === "rig-cut" && entry.figures.length).toBe(record.logged.length);
    },
  );

  it.each(RIG_KINDS)("%s: any values its fields allow give a result, with or without a cutter and a plan, or an error that names the field", (kind) => {
    const record = rigRecord(kind);
    const keys = record.fields.map(({ key }) => key);
    fc.assert(
      fc.property(anyRig(kind), fc.constantFrom(alone, fin), (rig, beside) => {
        expect(rigSchema.parse(rig)).toEqual(rig);
        for (const work of [record.solve, record.draw, record.build]) {
          try {
            const evaluation = work(rig, beside, show);
            if ("figures" in evaluation) for (const { value } of evaluation.figures) if (typeof value === "number") expect(Number.isNaN(value)).toBe(false);
          } catch (error) {
            if (!(error instanceof CoreError)) throw error;
            expect([...keys, ""]).toContain(error.path);
            expect(error.message.length).toBeGreaterThan(20);
          }
        }
      }),
      { numRuns: 40, seed: 1126 },
    );
  });

  it("a figure outside its limits is refused by its name and range, one that is no part of the kind by its name", () => {
    for (const kind of RIG_KINDS) {
      const { start, fields } = rigRecord(kind);
      const field = fields.find((each) => each.as === "number") as Extract<Field, { as: "number" }>;
      const result = rigSchema.safeParse({ ...start, [field.key]: field.max * 2 + 1 });
      expect(result.success).toBe(false);
      expect(result.error?.issues[0]?.path).toEqual([field.key]);
      expect(result.error?.issues[0]?.message).toContain(`from ${field.min} to ${field.max}`);
      expect(rigSchema.safeParse({ ...start, ornament: 1 }).success).toBe(false);
    }
    expect(rigSchema.safeParse({ kind: "catapult" }).error?.issues[0]?.message).toBe(`kind must be one of ${RIG_KINDS.join(", ")}`);
  });

  it("a rig's file reads back as it was, a later one is refused, and two people's changes join part by part", () => {
    for (const { document } of DEMO_RIGS) expect(readDocumentText(RIG_KIND, writeDocument(RIG_KIND, document))).toEqual(document);
    expect(() => readDocumentText(RIG_KIND, JSON.stringify({ ...newRig("drop"), version: 2 }))).toThrow(/newer Upwind Rod/);
    const base = newRig("drop");
    const mine = { ...base, rig: { ...base.rig, weight_N: 8 } as Rig };
    const { merged, clashes } = rigMerger.merge(base, mine, { ...base, name: "Theirs" });
    expect(clashes).toEqual([]);
    expect(merged).toEqual({ ...mine, name: "Theirs" });
    expect(rigMerger.merge(base, mine, { ...base, rig: { ...base.rig, weight_N: 9 } as Rig }).clashes).toEqual(["the rig's figures"]);
  });

  it("handles are where the rig's own figures say, and moving one moves those", () => {
    for (const kind of RIG_KINDS) {
      const { handles, moved, start } = rigRecord(kind);
      for (const { id, at } of handles?.(start) ?? []) {
        const to = [Math.round(at[0]) + 40, Math.round(at[1]) + 30] as const;
        const after = handles?.(moved?.(start, id, to) as Rig).find((each) => each.id === id);
        expect(Math.hypot((after?.at[0] ?? 0) - to[0], (after?.at[1] ?? 0) - to[1])).toBeLessThan(6);
      }
    }
    expect(rigRecord("swing").handles?.(rigRecord("swing").start).length).toBe(2);
  });
});
