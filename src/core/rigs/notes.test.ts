import { readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { CoreError } from "../kernel/errors";
import { DEMO_PLANS } from "../plans/demoPlans";
import { knowFont, OWN_FONT } from "../plans/shapes/text";
import { formatQuantity } from "../units/units";
import { around, type RigSurroundings } from "./around";
import { endWords, type RigProgram } from "./evaluation";
import { type Rig, rigRecord } from "./kinds";
import type { Show } from "./record";
import { DEMO_RIGS } from "./rig";

knowFont(OWN_FONT, () => new Uint8Array(readFileSync(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", "DejaVuSans-Bold.ttf"))).buffer);
const show: Show = (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals);
type Kind = Rig["kind"];
const alone = around(null, null);
const cache = new Map<Kind, { rig: Rig; beside: RigSurroundings }>();
/** A kind as the demo's shed has it, with the cutter that hangs in it. */
const demo = (kind: Kind) => {
  const known = cache.get(kind);
  if (known) return known;
  const found = DEMO_RIGS.find(({ document }) => document.rig.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  const design = DEMO_CUTTERS.find(({ name }) => name === found.cutter);
  const made = {
    rig: found.document.rig as Rig,
    beside: around(design ? designSchema.parse(design) : null, DEMO_PLANS.find(({ name }) => name === found.plan) ?? null),
  };
  cache.set(kind, made);
  return made;
};
const start = (kind: Kind) => ({ rig: rigRecord(kind).start as unknown as Rig, beside: alone });
/** Codes of what a rig warns of, or the field that is refused. */
const notes = ({ rig, beside }: { rig: Rig; beside: RigSurroundings }, change: object = {}): string[] => {
  const changed = { ...rig, ...change } as Rig;
  try {
    return rigRecord(changed.kind)
      .solve(changed as never, beside, show)
      .notes.map(({ code }) => code);
  } catch (error) {
    if (error instanceof CoreError) return [`refused: ${error.path}`];
    throw error;
  }
};

describe("what a rig warns of, and where it does not", () => {
  it.each<[Kind, string[], string[]]>([
    ["anchor", ["whip", "one-place", "squeeze"], ["whip", "one-place", "squeeze"]],
    ["drop", ["offcut"], ["offcut"]],
    ["sheet", [], []],
    ["table", [], []],
    ["loop", ["pocket-air"], ["warm-joint", "pocket-air"]],
    ["slab", ["weight-box"], ["weight-box"]],
    ["bow", [], []],
    ["frame", ["two-supplies"], ["two-supplies"]],
    ["pull", ["weight-falls"], ["held-back", "weight-falls"]],
  ])("%s: as it begins, and in the demo's shed", (kind, begins, shed) => {
    expect(notes(start(kind))).toEqual(begins);
    expect(notes(demo(kind))).toEqual(shed);
  });
  it.each<[Kind, object, object, string]>([
    ["anchor", { table_mm: 5000 }, { table_mm: 300 }, "bench-short"],
    ["sheet", { sheet_mm: 10 }, { sheet_mm: 80 }, "too-few"],
    ["sheet", { sheet_mm: 10 }, { sheet_mm: 1000 }, "no-sheet"],
    ["sheet", { stack_mm: null }, { stack_mm: 100 }, "stack-tells"],
    ["table", { copies: 1, copy_mm: 10 }, { copies: 20, copy_mm: 100 }, "too-high"],
    ["table", { inside: false }, { inside: true }, "unhook"],
    ["table", { sleeve: true }, { sleeve: false }, "bare-hole"],
    ["table", { gap_mm: 0 }, { gap_mm: 3 }, "not-square"],
    ["loop", { depth_mm: 20 }, { depth_mm: 400 }, "too-soft"],
    ["loop", { depth_mm: 20 }, { depth_mm: 500 }, "sags"],
    ["loop", { bend_mm: 6 }, { bend_mm: 0.5 }, "tight-bend"],
    ["slab", { blockWide_mm: 300 }, { blockWide_mm: 5000 }, "too-wide"],
    ["slab", { weight_N: 80 }, { weight_N: 1 }, "sags"],
    ["slab", { leftHigh_mm: 40, rightHigh_mm: 40 }, { leftHigh_mm: 40, rightHigh_mm: 44 }, "not-level"],
    ["bow", { mass_g: 1900 }, { leads_N: 8 }, "twisted"],
    ["bow", { mass_g: 1900 }, { rate_N_per_mm: 0.5 }, "floats"],
    ["bow", { balance_mm: 0, foamAt_mm: 0 }, { balance_mm: 0, foamAt_mm: 400 }, "uneven"],
    ["frame", { carriages: "locked" }, { carriages: "free" }, "spring-short"],
    ["frame", { switches: "closed" }, { switches: "open" }, "open-switches"],
    ["frame", { acceleration_mm_s2: 20 }, { acceleration_mm_s2: 100_000 }, "loses-steps"],
    ["drop", { gap_mm: 0 }, { gap_mm: 3 }, "not-square"],
    ["drop", { batten_mm: 60 }, { batten_mm: 0 }, "leaves-guides"],
  ])("%s: %j without, %j with it: %s", (kind, without, with_, code) => {
    const before = notes(start(kind), without);
    const after = notes(start(kind), { ...without, ...with_ });
    expect(before).not.toContain(code);
    expect(after).toContain(code);
  });
  it.each<[Kind, object, object, string]>([
    ["sheet", { spacer: "wood" }, { spacer: "card" }, "card-chars"],
    ["sheet", { spacer: "wood" }, { spacer: "foil" }, "foil-conducts"],
    ["table", { tilt_deg: 0 }, { tilt_deg: 40 }, "lean-volts"],
    ["loop", { joint_mohm: 0 }, { joint_mohm: 100 }, "warm-joint"],
    ["slab", { weight_N: 30 }, { weight_N: 400 }, "too-heavy"],
    ["frame", { asked_mm: 100, there_mm: [100, 100] }, { there_mm: [97, 97] }, "steps-off"],
    ["frame", { feed_mm_s: 2 }, { feed_mm_s: 60 }, "outruns"],
  ])("%s with its cutter: %j without, %j with it: %s", (kind, without, with_, code) => {
    const before = notes(demo(kind), without);
    const after = notes(demo(kind), { ...without, ...with_ });
    expect(before).not.toContain(code);
    expect(after).toContain(code);
  });
  it("each appears once, in whole words, at a field of its own", () => {
    for (const kind of ["anchor", "sheet", "table", "loop", "slab", "bow", "frame"] as const) {
      const { fields } = rigRecord(kind);
      for (const given of [start(kind), demo(kind)]) {
        const found = rigRecord(kind).solve(given.rig as never, given.beside, show).notes;
        expect(new Set(found.map(({ code }) => code)).size).toBe(found.length);
        for (const { words, field } of found) {
          expect(words).not.toMatch(/NaN|undefined|Infinity/);
          expect(words.length).toBeGreaterThan(20);
          if (field) expect(fields.map(({ key }) => key)).toContain(field);
        }
      }
    }
  });
});

describe("where a rig cannot be, by the field that says so", () => {
  it.each<[Kind, object, string]>([
    ["sheet", { block_mm: 1 }, "first_mm"],
    ["sheet", { kerf_mm: 0.01 }, "kerf_mm"],
    ["table", { kerf_mm: 0.01 }, "kerf_mm"],
    ["table", { disc_mm: 50, inner_mm: 60 }, "inner_mm"],
    ["loop", { groove_mm: 0.6, kerf_mm: 3 }, "groove_mm"],
    ["loop", { kerf_mm: 0.05 }, "kerf_mm"],
    ["frame", { apart_mm: 60, toBlock_mm: 100 }, "toBlock_mm"],
    ["swing", { rootTravel_mm: 5000 }, "rootTravel_mm"],
    ["swing", { tipTravel_mm: 5000 }, "tipTravel_mm"],
    ["swing", { from_deg: 20, to_deg: 20 }, "to_deg"],
  ])("%s: %j at %s", (kind, change, field) => {
    expect(notes(start(kind), change)).toEqual([`refused: ${field}`]);
  });
});

it("what is left to do at the end of a path is said only where it is more than the tolerance", () => {
  const say = (end: RigProgram["end"]) => endWords({ end, toleranceMm: 0.3 }, (_quantity, value) => value.toFixed(1));
  expect(say(null)).toBeNull();
  expect(say({ leftMm: 0.3, waitS: 0, runOutMm: 5 })).toBeNull();
  expect(say({ leftMm: 6, waitS: 0, runOutMm: 9 })).toBe(
    "the middle of the wire is 6.0 behind where the ends stop: they go on 9.0 past the part, until it has come",
  );
  expect(say({ leftMm: 6, waitS: 2.5, runOutMm: 0 })).toMatch(/they wait 2\.5 s, heat on, until it is out$/);
});
