import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { resolveWire } from "../physics/heat/wire";
import { newPlan } from "../plans/plan";
import { formatQuantity } from "../units/units";
import { around, type RigSurroundings } from "./around";
import { type Rig, rigRecord } from "./kinds";
import type { Show } from "./record";
import { RIG_VERBS } from "./verbs";

const show: Show = (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals);
/** Without a cutter: a wire of 0.5 mm, a kerf of 1.6, a feed of 5 mm/s and 2.2 N a metre (the workshop's habit). */
const habit = around(null, null);
const cutter = (name: string) => around(designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name)), null);
const evaluate = (kind: Rig["kind"], change: object = {}, beside: RigSurroundings = habit) => {
  const record = rigRecord(kind);
  const { figures, tables = [], says } = record.solve({ ...(record.start as object), ...change } as never, beside, show);
  return {
    says,
    ids: figures.map(({ id }) => id),
    figure: (id: string) => {
      const found = figures.find((each) => each.id === id);
      if (!found) throw new Error(`no ${id}`);
      return found.value;
    },
    table: (id: string) => {
      const found = tables.find((each) => each.id === id);
      if (!found) throw new Error(`no ${id}`);
      for (const row of found.rows) expect(row).toHaveLength(found.columns.length);
      return found.rows.map((row) => row.map((cell) => (typeof cell === "object" && cell !== null && "value" in cell ? cell.value : cell)));
    },
    tableIds: tables.map(({ id }) => id),
  };
};

describe("a sheet slicer's figures, by hand", () => {
  it("spacers of a sheet and what is lost on one face; sheets of what is left after the first slice, a kerf between them", () => {
    const { figure, says, table } = evaluate("sheet");
    expect(figure("spacer")).toBeCloseTo(2 + (1.6 - 0.5) / 2, 9);
    // On spacers no screw is turned.
    expect(() => figure("turns")).toThrow("no turns");
    expect(evaluate("sheet", { method: "screw" }).figure("turns")).toBe("2.55");
    expect(figure("sheets")).toBe(String(Math.floor((100 - 3) / (2 + 1.6))));
    expect(figure("push")).toBeCloseTo(2.2 * 0.18, 9);
    expect(figure("time")).toBe("60 s");
    expect(says).toBe("Spacers of 2.55 mm for a sheet of 2.00 mm; 26 from this block.");
    const heights = table("heights");
    expect(heights[0]).toEqual(["first, off", 3, 97]);
    for (const [i, row] of heights.slice(1).entries()) expect(row).toEqual([`sheet ${i + 1}`, expect.closeTo(2.55, 9), expect.closeTo(97 - 3.6 * (i + 1), 9)]);
    expect(heights).toHaveLength(6);
    // A block that gives three has no more rows.
    expect(evaluate("sheet", { block_mm: 15 }).table("heights")).toHaveLength(1 + Number(evaluate("sheet", { block_mm: 15 }).figure("sheets")));
  });
  it("by a screw: turns of its pitch", () => {
    const { says, table } = evaluate("sheet", { method: "screw", pitch_mm: 1.25 });
    expect(says).toMatch(/^2\.04 turns up for a sheet of 2\.00 mm/);
    expect(table("heights")[0]).toEqual(["first, off", "2.40 turns", 97]);
    expect(table("heights")[1]?.[1]).toBe("2.04 turns");
  });
  it("a measured kerf in place of the computed; a stack that gives one; a price a sheet only where there is a price and a sheet", () => {
    const measured = evaluate("sheet", { kerf_mm: 2 });
    expect(measured.figure("spacer")).toBeCloseTo(2 + 0.75, 9);
    expect(measured.figure("kerf")).toBe(2);
    // Ten copies 40.5 high where 36 were wanted and so on: each gives a tenth of it.
    const stack = evaluate("sheet", { stack: 10, stack_mm: 19 });
    expect(stack.figure("stack-sheet")).toBeCloseTo(1.9, 9);
    expect(stack.figure("stack-kerf") as number).toBeGreaterThan(1.6);
    expect(evaluate("sheet").ids).not.toContain("stack-kerf");
    expect(evaluate("sheet").ids).not.toContain("stack-sheet");
    const priced = evaluate("sheet", { price: 13 });
    const own = priced.ids.filter((id) => !evaluate("sheet").ids.includes(id));
    expect(own).toHaveLength(1);
    expect(String(priced.figure(own[0] as string))).toMatch(/0\.5/);
    expect(evaluate("sheet", { price: 13, block_mm: 4 }).ids).not.toContain(own[0]);
  });
  it("its panes as they are packed, a kerf between neighbours, on how many sheets", () => {
    const { table, figure } = evaluate("sheet", { panes_mm: [[100, 80, 4]], blockLong_mm: 205, blockWide_mm: 170 });
    // Two and two: 2 x 100 + 1.6 and 2 x 80 + 1.6.
    expect(table("panes")).toEqual([["1", "4 of 100 mm by 80 mm"]]);
    expect(figure("pane-sheets")).toBe("1");
    const two = evaluate("sheet", { panes_mm: [[100, 80, 4]], blockLong_mm: 201, blockWide_mm: 170 });
    expect(Number(two.figure("pane-sheets"))).toBeGreaterThan(1);
    expect(evaluate("sheet", { panes_mm: [] }).table("panes")).toEqual([]);
  });
});

describe("a table's figures, by hand", () => {
  it("the fence stands a part and what is lost from the wire's near side; strips until the blank is gone", () => {
    const { figure, table, says } = evaluate("table");
    expect(figure("near")).toBeCloseTo(40 + 0.55, 9);
    expect(figure("middle")).toBeCloseTo(40 + 0.8, 9);
    expect(figure("strips")).toBe(String(Math.floor(600 / 41.6)));
    expect(says).toBe("Fence 40.55 mm from the wire's near side, 40.80 mm from its middle.");
    expect(table("settings")[0]).toEqual(["fence", expect.closeTo(40.55, 9), expect.closeTo(40.8, 9)]);
    expect(evaluate("table", { blank_mm: 30 }).ids).not.toContain("strips");
    expect(evaluate("table", { copies: 3, copy_mm: 25 }).figure("stack")).toBe(75);
  });
  it("a disc's pin stands its radius and half a kerf off; a ring's hole half a kerf less; a many-sided column its flat so too", () => {
    const { figure, table } = evaluate("table", { disc_mm: 60, inner_mm: 40, sides: 6 });
    expect(figure("pin-disc")).toBeCloseTo(60.8, 9);
    expect(figure("pin-hole")).toBeCloseTo(39.2, 9);
    expect(table("sides")).toEqual([["6", 60, expect.closeTo(60.8, 9)]]);
    expect(evaluate("table", { sides: 2 }).tableIds).not.toContain("sides");
    expect(evaluate("table", { sides: 3 }).table("sides")[0]?.[1]).toBe(120);
    expect(evaluate("table").ids).not.toContain("pin-hole");
  });
  it("a leaning wire is longer in the foam and wants more volts by as much; an inside cut has its list of what to look at", () => {
    const beside = cutter("Gatepost");
    const upright = evaluate("table", {}, beside);
    const leaning = evaluate("table", { tilt_deg: 30 }, beside);
    expect((leaning.figure("live") as number) / (upright.figure("live") as number)).toBeCloseTo(1 / Math.cos(Math.PI / 6), 6);
    expect(upright.ids).not.toContain("volts");
    expect(leaning.figure("volts") as number).toBeGreaterThan(beside.cutter?.evaluation.circuit.wireVoltageV as number);
    expect(upright.tableIds).not.toContain("inside");
    const inside = evaluate("table", { inside: true }, beside).table("inside");
    expect(inside.at(-1)).toEqual(["amps", show("current", beside.cutter?.evaluation.circuit.currentA as number)]);
    expect(evaluate("table", { inside: true }).table("inside").at(-1)).toEqual(["amps", "as before"]);
  });
});

describe("slabs, a bow and an anchored wire, by hand", () => {
  it("slabs: both supports a slab and what is lost up; the wire sags by m g L^2/8T and trails by w b(2L - b)/8T", () => {
    const { figure, says } = evaluate("slab");
    expect(figure("set")).toBeCloseTo(25.55, 9);
    expect(says).toMatch(/^Both supports 25\.6 mm over the bench for a slab of 25\.0 mm\.$/);
    expect(figure("push")).toBeCloseTo(2.2 * 1.1, 9);
    expect(figure("time")).toBe("240 s");
    expect(figure("lag")).toBeCloseTo((1000 * 2.2 * 1.1 * (2 * 1.3 - 1.1)) / (8 * 40), 6);
    expect((figure("sag") as number) / (evaluate("slab", { weight_N: 80 }).figure("sag") as number)).toBeCloseTo(2, 9);
    // Set crooked, each edge of the block comes out as its own height says.
    const crooked = evaluate("slab", { leftHigh_mm: 20, rightHigh_mm: 33, span_mm: 1300, blockWide_mm: 1300 });
    expect(crooked.figure("left")).toBeCloseTo(20 - 0.55, 9);
    expect(crooked.figure("right")).toBeCloseTo(33 - 0.55, 9);
    const within = evaluate("slab", { leftHigh_mm: 20, rightHigh_mm: 33, span_mm: 1300, blockWide_mm: 650 });
    expect(within.figure("left")).toBeCloseTo(20 + 13 / 4 - 0.55, 9);
    // Twice as wide as its span is no wider than it.
    expect(evaluate("slab", { blockWide_mm: 2600 }).figure("push")).toBeCloseTo(2.2 * 1.3, 9);
  });
  it("a bow: its weight, what the elastic lifts of it, and each half's share by where it balances", () => {
    const { ids, figure } = evaluate("bow", { mass_g: 2000, balance_mm: 0, foamAt_mm: 0 });
    const weight = 2 * 9.80665;
    expect(ids.length).toBeGreaterThan(4);
    const carried = weight - Math.min(weight, 0.03 * (900 - 380));
    const values = ids.map((id) => figure(id)).filter((value): value is number => typeof value === "number");
    const near = (want: number) => values.some((value) => Math.abs(value - want) < 1e-6);
    expect(near(carried), String(values)).toBe(true);
    // On the bench all of it lies on the wire.
    const bench = evaluate("bow", { mass_g: 2000, hung: false, balance_mm: 0, foamAt_mm: 0 });
    expect(bench.ids.some((id) => Math.abs((bench.figure(id) as number) - weight) < 1e-6)).toBe(true);
  });
  it("an anchored wire: the point by similar triangles, the kerf toward it as the feed's inverse, right at the place chosen", () => {
    for (const rightAt of ["near", "middle", "far"]) {
      const found = evaluate("anchor", { span_mm: 600, ratio: 0.5, chord_mm: 200, rightAt });
      const values = found.ids.map((id) => found.figure(id)).filter((value): value is number => typeof value === "number");
      // Half as long at 600: the point is at 1200.
      expect(values.some((value) => Math.abs(value - 1200) < 1e-6)).toBe(true);
      const at = { near: 1, middle: 0.75, far: 0.5 }[rightAt] as number;
      const allowance = 1.6 / (2 * at ** 2) - 0.25;
      expect(
        values.some((value) => Math.abs(value - allowance) < 1e-6),
        `${rightAt}: ${allowance} of ${values}`,
      ).toBe(true);
    }
  });
});

describe("rigs' verbs and curves, by their closed forms", () => {
  const verbs = headlessOf(RIG_VERBS);
  const runVerb = (name: string, input: object) => verbs.runVerb(name, input) as Record<string, number> & { warnings?: { code: string }[] };
  it("drop: v = v_max W/(W + F_ref L); a heat that melts nothing is noted, and nothing else", () => {
    const given = { wire: { alloy: "ss-304", diameter_mm: 0.41 }, foam: "eps-18", width_mm: 600, weight_N: 6 };
    const pair = { wire: resolveWire(given.wire as never), foam: resolveFoam(parseFoamId("eps-18")), ambientC: 20 };
    const top = cutAtPower(pair, 0.005, 40).maxFeedMPerS * 1000;
    const found = runVerb("drop", { ...given, power_W_per_m: 40 });
    expect(found.maxFeed_mm_s).toBeCloseTo(top, 6);
    expect(found.feed_mm_s).toBeCloseTo((top * 6) / (6 + referenceDragNPerM(pair) * 0.6), 6);
    expect(found.warnings ?? []).toEqual([]);
    const cold = runVerb("drop", { ...given, power_W_per_m: 0.5 });
    expect(cold.warnings?.map(({ code }) => code)).toEqual(["no-melt"]);
    expect(cold.feed_mm_s).toBeCloseTo(0, 9);
    // By a current: as by the heat that it makes there.
    const amps = runVerb("drop", { ...given, current_A: 2.5 });
    expect(amps.feed_mm_s).toBeGreaterThan(0);
    expect((amps.feed_mm_s as number) / (amps.maxFeed_mm_s as number)).toBeCloseTo(6 / (6 + referenceDragNPerM(pair) * 0.6), 3);
  });
  it("sheet: spacers, turns and sheets as far as they are asked for; a kerf given or computed from the cut", () => {
    expect(runVerb("sheet", { wire_mm: 0.16, kerf_mm: 0.9, sheet_mm: 2 })).toEqual({ spacer_mm: expect.closeTo(2.37, 9), kerf_mm: 0.9 });
    expect(runVerb("sheet", { wire_mm: 0.16, kerf_mm: 0.9, sheet_mm: 2, pitch_mm: 1.25, block_mm: 100, first_mm: 3 })).toEqual({
      spacer_mm: expect.closeTo(2.37, 9),
      turns: expect.closeTo(2.37 / 1.25, 9),
      // 97 mm at 2.9 a sheet.
      sheets: 33,
      kerf_mm: 0.9,
    });
  });
  it("slabs: sag by weight is the wire's own over eight times what hangs", () => {
    const record = rigRecord("slab");
    const [curve] = record.solve({ ...(record.start as object), weight_N: 30, span_mm: 1300 } as never, habit, show).curves ?? [];
    expect(curve?.points).toHaveLength(40);
    expect(curve?.points.at(-1)?.[0]).toBeCloseTo((41 / 40) * 60, 9);
    expect(curve?.points[0]?.[0]).toBeCloseTo((2 / 40) * 60, 9);
    const products = (curve?.points ?? []).map(([weight, sag]) => weight * sag);
    for (const each of products) expect(each).toBeCloseTo(products[0] as number, 9);
    expect(rigRecord("slab").solve({ ...(record.start as object), weight_N: 30, span_mm: 2600 } as never, habit, show).curves?.[0]?.points[0]?.[1]).toBeCloseTo(
      4 * (curve?.points[0]?.[1] as number),
      9,
    );
    // Light weights still show a curve to 20 N.
    expect(record.solve({ ...(record.start as object), weight_N: 3 } as never, habit, show).curves?.[0]?.points.at(-1)?.[0]).toBeCloseTo((41 / 40) * 20, 9);
  });
});

describe("an anchored wire's spring and sideways pull, by hand", () => {
  it("the wire is longest at the farther end of the way and shortest across from its point; it pulls aside by its tension at the sine of its slant", () => {
    const given = { span_mm: 600, ratio: 0.5, chord_mm: 200, ramp_mm: 30, tail_mm: 50, rate_N_per_mm: 0.4, keep: "leading", sweep_mm: 0 };
    const { figure } = evaluate("anchor", given);
    const found = evaluate("anchor", { ...given, rate_N_per_mm: 0 });
    const longest = figure("wire") as number;
    // The point is at 1200; the way runs from 30 before the nose to 50 past the tail.
    const aside = Math.sqrt(longest ** 2 - 1200 ** 2);
    expect(aside).toBeCloseTo(250, 6);
    // Kept over its leading edge the point is at 0, within the way: straight across is the shortest.
    expect(figure("travel")).toBeCloseTo(longest - 1200, 6);
    expect(found.figure("sideways")).toBeCloseTo((60 * aside) / longest, 6);
    expect(figure("sideways")).toBeCloseTo(((60 + 0.4 * (longest - 1200)) * aside) / longest, 6);
  });
});

describe("thread and weight, by hand", () => {
  // 2.2 N a metre on 1.1 m is 2.42 N; a fifth of 18 N lies on the wire; the pulley keeps a twentieth.
  it("level it takes the drag, uphill that and its share of the bow's weight, over the slope's cosine; downhill less", () => {
    expect(evaluate("pull").says).toBe("It takes 2.42 N at 5.0 mm/s.");
    for (const slope of [0, 30, -20]) {
      const phi = (slope * Math.PI) / 180;
      const pull = (2.42 + 3.6 * Math.sin(phi)) / Math.cos(phi);
      const { figure } = evaluate("pull", { slope_deg: slope });
      expect(figure("least")).toBeCloseTo(pull, 9);
      expect(figure("most")).toBeCloseTo(pull, 9);
      expect(figure("carried")).toBeCloseTo(3.6, 9);
    }
  });
  it("number by number the weights that come nearest to the wanted feed hang, and what it then runs at; steep downhill it is held back", () => {
    // 2.5 N hung pull 2.375: v = 10 F'/(F' + 2.2) with 2.159 N a metre.
    const rows = evaluate("pull").table("haul");
    expect(rows).toHaveLength(10);
    const perM = (2.5 * 0.95) / 1.1;
    for (const [i, row] of rows.entries())
      expect(row).toEqual([String(i + 1), 0, expect.closeTo(2.42, 9), 2.5, expect.closeTo((10 * perM) / (perM + 2.2), 9), ""]);
    const down = evaluate("pull", { slope_deg: -60 }).table("haul")[0] as (string | number)[];
    expect(down[2]).toBeCloseTo((2.42 - 3.6 * Math.sin(Math.PI / 3)) / 0.5, 9);
    expect(down.slice(3)).toEqual([0, expect.any(Number), "hold the bow back"]);
    const up = evaluate("pull", { slope_deg: 70, weights_N: [0.1] }).table("haul")[0] as (string | number)[];
    expect(up.slice(3)).toEqual([expect.any(Number), "", "stands: more weight than is owned"]);
  });
  it("under one weight that stays it takes its way over its speed, and no faster than nine tenths of the top", () => {
    const perM = (4 * 0.95) / 1.1;
    expect(evaluate("pull").figure("fixed")).toBe(`${(330 / ((10 * perM) / (perM + 2.2))).toFixed(0)} s`);
    expect(evaluate("pull", { hung_N: 400 }).figure("fixed")).toBe(`${(330 / 9).toFixed(0)} s`);
    expect(evaluate("pull", { hung_N: 0 }).ids).not.toContain("fixed");
  });
  it("along a plan's face from the least to the most, as each number's own slope asks", () => {
    const tom = designSchema.parse(DEMO_CUTTERS[0]);
    const plan = newPlan(
      "P",
      {
        root: { shape: { kind: "naca4", code: "2415" }, chord_mm: 300 },
        tip: { shape: { kind: "naca4", code: "2415" }, chord_mm: 200 },
        part: { span_mm: 500 },
      },
      null,
    );
    const { says, figure, table } = evaluate("pull", { fromPlan: true, face: "upper" }, around(tom, plan));
    const pulls = table("haul").flatMap(([, , pull]) => (typeof pull === "number" ? [pull] : []));
    expect(pulls.length).toBeGreaterThan(4);
    expect([figure("least"), figure("most")]).toEqual([Math.min(...pulls), Math.max(...pulls)]);
    expect(figure("most") as number).toBeGreaterThan((figure("least") as number) + 0.01);
    expect(says).toMatch(/^It takes -?[\d.]+ N to -?[\d.]+ N at /);
  });
});

describe("a loop's figures", () => {
  it("heat in its conductors and joints by the current that flows; each tool's volts and amperes by Ohm's law", () => {
    const beside = cutter("Gatepost");
    const amps = beside.cutter?.evaluation.circuit.currentA as number;
    const { figure, ids, table, tableIds } = evaluate("loop", { joint_mohm: 3, kerf_mm: 2.6, rod_awg: 12, rod_mm: 150, tools_mm: [60, 120] }, beside);
    const area = (Math.PI * (2.0525 / 1000) ** 2) / 4;
    const rod = (1.7241e-8 * 0.3) / area;
    const values = ids.map((id) => figure(id)).filter((value): value is number => typeof value === "number");
    const near = (want: number) => values.some((value) => Math.abs(value / want - 1) < 2e-3);
    expect(near(amps ** 2 * rod), `${amps ** 2 * rod} of ${values}`).toBe(true);
    expect(near(amps ** 2 * 0.003)).toBe(true);
    const tools = table(tableIds[0] as string) as [number, number, number][];
    expect(tools.map(([mm]) => mm)).toEqual([60, 120]);
    expect(tools[0]?.[1]).toBeCloseTo(tools[1]?.[1] as number, 9);
    // Twice the wire wants twice its own volts; leads, rods and joints take the same.
    const [short, long] = tools.map((row) => row[2]) as [number, number];
    expect(long).toBeGreaterThan(short);
    expect(long).toBeLessThan(2 * short);
    const bare = evaluate("loop", { joint_mohm: 0, kerf_mm: 2.6, rod_awg: 12, rod_mm: 150, tools_mm: [60, 120] }, beside);
    const without = (bare.table(bare.tableIds[0] as string) as [number, number, number][]).map((row) => row[2]) as [number, number];
    expect(short - without[0]).toBeCloseTo(2 * 0.003 * (tools[0]?.[1] as number), 6);
    expect(evaluate("loop").tableIds).toEqual([]);
  });
});
