import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { CoreError } from "../kernel/errors";
import { resistanceOhmPerM, resolveWire } from "../physics/heat/wire";
import { blockDensity } from "./block";
import { COLUMNS, cellText, columnsOf, itemFromCells, withCell } from "./columns";
import { drawerToCsv, previewCsv } from "./csv";
import { DEMO_DRAWER } from "./demoDrawer";
import type { Item } from "./items";
import { readPlate } from "./plate";
import { identifySpool } from "./spool";
import { foamOf, wireOf } from "./things";

const drawer = DEMO_DRAWER.map((item, i) => ({ id: `id-${i}`, item }));

describe("plates", () => {
  it.each([
    ["19 V 4.74 A", { kind: "dc", voltage_V: 19, maxCurrent_A: 4.74 }],
    ["12V - 6A", { kind: "dc", voltage_V: 12, maxCurrent_A: 6 }],
    ["24 VAC 100 VA", { kind: "transformer", voltage_Vrms: 24, rating_VA: 100 }],
    ["24V~ 2A", { kind: "transformer", voltage_Vrms: 24, rating_VA: 48 }],
    ["INPUT: 100-240V~ 50/60Hz 1.5A OUTPUT: 19.5V⎓3,34A", { kind: "dc", voltage_V: 19.5, maxCurrent_A: 3.34 }],
    ["PRI 230V 50Hz; SEC 24 V 2.5 A AC 60 VA", { kind: "transformer", voltage_Vrms: 24, rating_VA: 60 }],
    ["12 V 72 W", { kind: "dc", voltage_V: 12, maxCurrent_A: 6 }],
    ["5V 2400mA", { kind: "dc", voltage_V: 5, maxCurrent_A: 2.4 }],
    ["bench supply 0-30 V 0-5 A", { kind: "bench", voltage_V: 30, current_A: 5 }],
    ["lead-acid 12V 7Ah", { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 7 }],
    ["lithium 11.1 V 2200 mAh", { kind: "battery", chemistry: "lithium-ion", cells: 3, capacity_Ah: 2.2 }],
    ["NiMH 7.2 V 3000mAh", { kind: "battery", chemistry: "nimh", cells: 6, capacity_Ah: 3 }],
  ])("reads %s", (text, supply) => {
    expect(readPlate(text).supply).toEqual(supply);
    expect(readPlate(text).notes.length).toBeGreaterThan(0);
  });

  it.each([
    ["230 V 10 A", "lethal", /mains/],
    ["120VAC 60Hz", "lethal", /mains/],
    ["microwave transformer rewound 24 V 30 A", "lethal", /oven transformer/],
    ["autotransformer 0-30 V", "lethal", /isolated/],
    ["12 V", "missing-key", /amperes or watts are missing/],
    ["5 A", "missing-key", /volts are missing/],
    ["", "missing-key", /volts are missing/],
    ["60 VAC 2 A", "out-of-range", /from 0.1 to 50/],
  ])("refuses %s", (text, code, words) => {
    const error = refusal(() => readPlate(text));
    expect(error.code).toBe(code);
    expect(error.message).toMatch(words);
  });

  it("never crashes, and never makes a supply of what is at mains volts", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(..."0123456789.,VvAaWw ~-=mhLiACDC⎓\n:;") }), (text) => {
        try {
          const { supply } = readPlate(text);
          const volts = supply.kind === "transformer" ? supply.voltage_Vrms : supply.kind === "battery" ? 0 : supply.voltage_V;
          expect(volts).toBeLessThan(90);
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError);
        }
      }),
      { numRuns: 3000 },
    );
  });
});

describe("measuring a spool and a block", () => {
  it("ten metres of 26 AWG nickel-chromium, read through 0.3 ohm of meter leads, is found first or as good as first", () => {
    const ohm = resistanceOhmPerM(resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 }), 20) * 10;
    const found = identifySpool({ lengthM: 10, readingOhm: ohm + 0.3, leadsOhm: 0.3, diameterMm: 0.405 });
    expect(found.candidates.slice(0, 3).map((candidate) => candidate.wire)).toContainEqual({ alloy: "nicr-80-20", gauge_awg: 26 });
    expect(found.advice).toMatch(/good to/);
  });

  it("a short piece with unknown meter leads is said to be a poor reading, with how long it should be", () => {
    const found = identifySpool({ lengthM: 0.1, readingOhm: 0.95 });
    expect(found.spreadOhmPerM / found.ohmPerM).toBeGreaterThan(0.1);
    expect(found.advice).toMatch(/times as long, and first hold the meter's leads together/);
    expect(identifySpool({ lengthM: 1, readingOhm: 0.1 }).advice).toMatch(/longer piece/);
  });

  it("weighs a block: 2400 g of 1200 x 600 x 100 mm is 33.3 kg/m3 (worked by hand); thin sheets are less sure", () => {
    const sizes = { block_length_mm: 1200, block_width_mm: 600 };
    const thick = blockDensity({ ...sizes, block_thickness_mm: 100, mass_g: 2400 });
    expect(thick?.densityKgM3).toBeCloseTo(33.333, 3);
    const thin = blockDensity({ ...sizes, block_thickness_mm: 6, mass_g: 144 });
    expect((thin?.spreadKgM3 as number) / 33.3).toBeGreaterThan(5 * ((thick?.spreadKgM3 as number) / 33.3));
    expect(blockDensity({ ...sizes, mass_g: 100 })).toBeNull();
    expect(foamOf({ family: "xps", ...sizes, block_thickness_mm: 100, mass_g: 2400 }).weighed).toBe(true);
  });
});

describe("cells", () => {
  const spool = DEMO_DRAWER.find((item) => item.kind === "wire") as Item;
  const cell = (key: string) => columnsOf("wire").find((column) => column.key === key) as (typeof COLUMNS)[number];

  it("reads typed units and gauges, and shows the maker's", () => {
    const wired = withCell(spool, cell("size"), "24 awg", "metric");
    expect(wireOf(wired as never)).toMatchObject({ gauge_awg: 24, diameter_mm: undefined });
    expect(cellText(withCell(spool, cell("size"), "0.016 in", "metric"), cell("size"), "metric")).toBe("0.406 mm");
    expect(cellText(withCell(spool, cell("length_m"), "10 ft", "metric"), cell("length_m"), "inch")).toBe("10.0 ft");
  });

  it("a bad cell is refused by its column, with the range, and the item is untouched", () => {
    const error = refusal(() => withCell(spool, cell("size"), "14 mm", "metric"));
    expect(error.path).toBe("size");
    expect(error.message).toMatch(/from 0.01 mm to 12 mm/);
    expect(refusal(() => withCell(spool, cell("alloy"), "unobtainium", "metric")).message).toMatch(/must be one of/);
    expect(refusal(() => withCell(spool, cell("length_m"), "-4 m", "metric")).path).toBe("length_m");
    expect(refusal(() => itemFromCells({ kind: "foam", name: "x", family: "polyurethane", density_kg_m3: "30" })).path).toBe("family");
    expect(refusal(() => itemFromCells({ kind: "fuse", name: "x", rating_A: "5", alloy: "ss-304" })).path).toBe("alloy");
  });
});

describe("CSV", () => {
  it("reads back as the same drawer", () => {
    const items = [...DEMO_DRAWER, { ...(DEMO_DRAWER[0] as Item), name: '=2+3, "quoted"\nand long' }];
    const { rows } = previewCsv(drawerToCsv(items), []);
    expect(rows.map((row) => (row.status === "new" ? row.item : row))).toEqual(items);
    expect(previewCsv(drawerToCsv(DEMO_DRAWER), drawer).rows.every((row) => row.status === "same")).toBe(true);
  });

  it("says what each row would do, refuses bad ones by line and column and keeps the rest", () => {
    const text =
      "kind;name;alloy;size;length_m\nwire;New spool;ss-304;0,41 mm;25\nwire;Bad one;ss-304;huge;25\n\nwire;New spool;ss-304;24 awg;25\nfoam;Board;;;\n";
    const { rows } = previewCsv(text, drawer);
    expect(rows).toMatchObject([
      { line: 2, status: "new", item: { diameter_mm: 0.41, length_m: 25 } },
      { line: 3, status: "refused", column: "size" },
      { line: 5, status: "refused", column: "name", message: expect.stringContaining("line 2") },
      { line: 6, status: "refused", column: "family" },
    ]);
  });

  it("changes only the columns the file has", () => {
    const spool = drawer.find(({ item }) => item.kind === "wire") as (typeof drawer)[number];
    const { rows } = previewCsv(`kind,name,length_m\nwire,"${spool.item.name.toUpperCase()}",3\n`, drawer);
    expect(rows[0]).toMatchObject({ status: "change", id: spool.id, changed: ["Name", "Length left"] });
    expect(rows[0]?.status === "change" && rows[0].item).toMatchObject({ ...spool.item, name: spool.item.name.toUpperCase(), length_m: 3 });
  });

  it("thousands of broken files: no crash, every refusal names line or column, and nothing half-read passes for an item", () => {
    const good = drawerToCsv(DEMO_DRAWER);
    const broken = fc
      .tuple(fc.nat(good.length), fc.nat(60), fc.string({ unit: fc.constantFrom(..."\"',;\n\t=0x9-é \u0000kindname") }))
      .map(([at, cut, put]) => good.slice(0, at) + put + good.slice(at + cut));
    fc.assert(
      fc.property(
        fc.oneof(
          broken,
          fc.string(),
          fc.string().map((tail) => `kind,name\n${tail}`),
        ),
        (text) => {
          try {
            for (const row of previewCsv(text, drawer).rows) {
              expect(row.line).toBeGreaterThan(1);
              if (row.status === "refused") expect(row.message.length).toBeGreaterThan(5);
              else
                expect(
                  itemFromCells(
                    Object.fromEntries(
                      COLUMNS.filter((column) => column.kinds.includes(row.item.kind)).map((column) => [column.key, cellText(row.item, column, "file")]),
                    ),
                  ),
                ).toEqual(row.item);
            }
          } catch (error) {
            if (!(error instanceof CoreError)) throw error;
            expect(error.path === "" || error.path.startsWith("line ")).toBe(true);
          }
        },
      ),
      { numRuns: 2500 },
    );
  });
});
