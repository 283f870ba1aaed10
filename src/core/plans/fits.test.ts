import { describe, expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { paceJob } from "../pace/planPace";
import { around } from "../rigs/around";
import { FRAME_START } from "../rigs/frame/fields";
import { frameJob } from "../rigs/frame/path";
import { travelMisfits } from "../rigs/frame/travel";
import { type Rig, rigRecord } from "../rigs/kinds";
import { sheetRig } from "../rigs/kinds/sheet";
import { requireRigFits, solveRig } from "../rigs/solved";
import { otherFoam } from "./cutList";
import { DEMO_PLANS } from "./demoPlans";
import { evaluatePlan } from "./evaluate";
import { inPanels, requireFits } from "./fits";
import { requireExportable } from "./outputs/templates";
import { panelPlan } from "./panels";
import { newPlan, planSchema } from "./plan";

const bow = DEMO_CUTTERS[0] as Design;
const short: Design = { ...bow, name: "Small", wire: { ...bow.wire, length_mm: 120 }, job: { ...bow.job, width_mm: 80 } };
const naca = (chord_mm: number) => ({ shape: { kind: "naca4" as const, code: "2412" }, chord_mm });
const long = newPlan("Long", { root: naca(200), tip: naca(140), part: { span_mm: 600, sweep_mm: 60 } });
const show = (_quantity: unknown, value: number) => value.toFixed(1);

describe("a part longer than its cutter's wire", () => {
  const evaluation = evaluatePlan(long, short, false);
  it("is named with both lengths and its cures, and fits a wire that is long enough", () => {
    expect(evaluation.misfits).toMatchObject([{ code: "short-wire", path: "part.span_mm" }]);
    expect(evaluation.misfits[0]?.words).toMatch(/600 mm.*120 mm/);
    expect(evaluation.misfits[0]?.cures.map(({ open }) => open)).toEqual([undefined, "cutter", "other-cutter"]);
    expect(evaluatePlan(long, bow, false).misfits).toEqual([]);
    expect(evaluatePlan(long, null, false).misfits).toEqual([]);
    const exact = { ...bow, wire: { ...bow.wire, length_mm: 600 }, job: { ...bow.job, width_mm: 500 } };
    expect(evaluatePlan(long, exact, false).misfits).toEqual([]);
    expect(evaluatePlan(long, { ...exact, wire: { ...exact.wire, length_mm: 599 } }, false).misfits).toHaveLength(1);
  });
  it("is not paced, printed or run", () => {
    for (const work of [
      () => requireFits(evaluation),
      () => paceJob(long, evaluation, "upper"),
      () => requireExportable([{ plan: long, evaluation }]),
      () => frameJob(FRAME_START, around(short, long)),
    ])
      expect(refusal(work)).toMatchObject({ code: "conflict", path: "part.span_mm" });
  });
  it("becomes panels that fit, end to end the same part", () => {
    const cure = evaluation.misfits[0]?.cures[0];
    const parted = planSchema.parse(cure?.plan);
    const panels = Array.from({ length: parted.panels.length + 1 }, (_, i) => panelPlan(parted, i));
    expect(panels.reduce((sum, { part }) => sum + part.span_mm, 0)).toBeCloseTo(600, 0);
    expect(panels.reduce((sum, { part }) => sum + part.sweep_mm, 0)).toBeCloseTo(60, 0);
    for (const panel of panels) expect(evaluatePlan(panel, short, false).misfits).toEqual([]);
    expect(panels[0]?.root.chord_mm).toBe(200);
    expect(panels.at(-1)?.tip?.chord_mm).toBe(140);
    // Ends of different shapes cannot be interpolated.
    expect(inPanels({ ...long, tip: { ...long.root, shape: { kind: "naca4", code: "0012" } } }, 3)).toBeNull();
  });
  it("a block wider than the wire is not sliced on it", () => {
    const record = rigRecord("sheet");
    const rig = { ...sheetRig.start, blockWide_mm: 180 };
    const here = around(short, null);
    const note = solveRig(record, rig, here, show).notes.find(({ code }) => code === "short-wire");
    expect(note).toMatchObject({ severity: "danger", field: "blockWide_mm", cure: { change: { blockWide_mm: 70 } } });
    expect(refusal(() => requireRigFits(record, rig, here, show))).toMatchObject({ code: "conflict", path: "blockWide_mm" });
    const cured = { ...rig, ...note?.cure?.change };
    expect(() => requireRigFits(record, cured, here, show)).not.toThrow();
    expect(solveRig(record, rig, around(bow, null), show).notes.map(({ code }) => code)).not.toContain("short-wire");
  });
});

describe("a wire on a frame", () => {
  it("whose carriages are further apart than the cutter's posts is said, with a cure that fits", () => {
    const record = rigRecord("frame");
    const here = around(short, null);
    const codes = (rig: Rig) => solveRig(record, rig, here, show).notes.map(({ code }) => code);
    const note = solveRig(record, record.start, here, show).notes.find(({ code }) => code === "wire-apart");
    expect(note).toMatchObject({ severity: "caution", field: "apart_mm", cure: { change: { apart_mm: short.wire.length_mm } } });
    expect(codes({ ...record.start, ...note?.cure?.change } as Rig)).not.toContain("wire-apart");
    // A tenth more or less is hooks and rollers.
    expect(codes({ ...record.start, apart_mm: short.wire.length_mm * 1.05, toBlock_mm: 0 } as Rig)).not.toContain("wire-apart");
    expect(codes({ ...record.start, apart_mm: short.wire.length_mm * 1.3, toBlock_mm: 0 } as Rig)).toContain("wire-apart");
  });
});

describe("a sign on a frame", () => {
  const sign = newPlan("Sign", {
    root: {
      shape: {
        kind: "points",
        points_mm: [
          [0, 0],
          [400, 0],
          [400, 80],
          [0, 80],
        ],
      },
    },
    part: { span_mm: 50 },
    blank: { nose_mm: 10, tail_mm: 10, top_mm: 10, bottom_mm: 10 },
  });
  const evaluation = evaluatePlan(sign, bow, false);
  const { kerfMm } = evaluation.root;
  const frame = (more: object) => ({
    ...FRAME_START,
    carriages: "locked" as const,
    table: false,
    blockX_mm: 0,
    blockY_mm: 0,
    wide_mm: 450,
    high_mm: 200,
    ...more,
  });
  it("that fits says nothing", () => expect(travelMisfits(frame({}), sign, evaluation)).toEqual([]));
  it("that is too wide says by how much, and the height at which it fits", () => {
    const [misfit, ...more] = travelMisfits(frame({ wide_mm: 300 }), sign, evaluation);
    expect([misfit?.code, misfit?.axis, more]).toEqual(["too-large", "x", []]);
    expect(misfit?.words).toContain(`${(400 + kerfMm - 300).toFixed(1)} mm too wide`);
    const [cure] = misfit?.cures ?? [];
    expect(cure?.words).toBe("Make it 57 mm high");
    const smaller = evaluatePlan(planSchema.parse(cure?.plan), bow, false);
    expect(travelMisfits(frame({ wide_mm: 300 }), cure?.plan ?? sign, smaller)).toEqual([]);
  });
  it.each([
    ["too far left", { blockX_mm: -15 }, "blockX_mm"],
    ["too far right", { blockX_mm: 60 }, "blockX_mm"],
    ["too low", { blockY_mm: -30 }, "blockY_mm"],
    ["too high", { blockY_mm: 150 }, "blockY_mm"],
  ] as const)("%s is moved with its block", (_where, at, field) => {
    const [misfit] = travelMisfits(frame(at), sign, evaluation);
    expect(misfit?.code).toBe("outside-travel");
    const change = misfit?.cures[0]?.rig ?? {};
    expect(Object.keys(change)).toEqual([field]);
    expect(travelMisfits(frame({ ...at, ...change }), sign, evaluation)).toEqual([]);
    // Not farther than needed: the nearest place from where it is.
    expect(Math.abs((change[field] as number) - ((at as Record<string, number>)[field] ?? 0))).toBeLessThan(150);
  });
});

it("a board of another foam, or of another density, is not the cutter's", () => {
  const board = (family: string, densityKgM3: number) => ({
    name: "b",
    foam: "b",
    family,
    lengthMm: 1000,
    widthMm: 500,
    thicknessMm: 100,
    densityKgM3,
    price: null,
  });
  const foam = { family: "eps" as const, density_kg_m3: 18 };
  expect(otherFoam(board("eps", 18), foam)).toBeNull();
  expect(otherFoam(board("eps", 19.5), foam)).toBeNull();
  for (const other of [board("xps", 18), board("eps", 20), board("eps", 16)]) expect(otherFoam(other, foam)).toMatch(/EPS 18/);
});

describe("what is said of a plan's corners", () => {
  it("is said once where two corners mirror each other, with their number", () => {
    const column = planSchema.parse(DEMO_PLANS.find(({ root }) => root.shape.kind === "column"));
    const lost = evaluatePlan(column, bow).notes.filter(({ code }) => /-(left|taken)$/.test(code));
    expect(lost.length).toBeGreaterThan(0);
    expect(new Set(lost.map(({ words }) => words)).size).toBe(lost.length);
    expect(lost[0]?.words).toMatch(/; in \d places\.$/);
  });
});
