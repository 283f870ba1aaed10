import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { distance, nearest, type Point } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { DEMO_PLANS } from "../plans/demoPlans";
import { evaluatePlan } from "../plans/evaluate";
import { stationMarks, templateDrawing } from "../plans/outputs/templates";
import { newPlan, type Plan } from "../plans/plan";
import { planStations } from "../plans/planStations";
import { cutSheetOf } from "./cutSheet";
import { facesOf, paceJob, paceRows, planPace } from "./planPace";
import { withSharedError } from "./share";
import { sharedEndPaths } from "./sharedEndPaths";

const bow = DEMO_CUTTERS[0] as Design;
const fin = DEMO_PLANS[0] as Plan;
const evaluation = evaluatePlan(fin, bow);
const box = newPlan("Box", {
  root: { shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 }, chord_mm: 120 },
  tip: { shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 }, chord_mm: 80 },
  part: { span_mm: 900 },
  template: { faces: "single" },
});
const boxed = evaluatePlan(box, bow);

describe("a plan's pace", () => {
  it("goes from number to number, both ends together, and its times add up", () => {
    const job = paceJob(fin, evaluation, "upper");
    const found = planPace(job as NonNullable<typeof job>, evaluation.cutter?.pair as never);
    const whole = job?.stations.stations.filter((each) => each.whole) ?? [];
    expect(found.rows.map(({ to }) => to)).toEqual(whole.slice(1).map(({ label }) => label));
    const sum = found.rows.reduce((all, { seconds, waitS }) => all + seconds + waitS, 0);
    expect(sum).toBeCloseTo(found.pace.totalS, 6);
    for (const [i, row] of found.rows.entries()) {
      const [a, b] = [whole[i], whole[i + 1]];
      // Along the wire's own line, which is the stations' line but for the flattening.
      expect((row.rootFeedMmS * row.seconds) / ((b?.rootAlongMm ?? 0) - (a?.rootAlongMm ?? 0))).toBeCloseTo(1, 1);
      expect(row.tipFeedMmS).toBeLessThan(row.rootFeedMmS);
    }
    expect(found.pace.errorMm).toBeLessThanOrEqual(fin.pace.tolerance_mm);
    // The map's worst is the line's error, at the fineness of its columns.
    expect(found.map.worst.deviationMm).toBeLessThanOrEqual(fin.pace.tolerance_mm * 1.05);
    expect(Math.max(...found.map.deviationMm)).toBeCloseTo(found.map.worst.deviationMm, 5);
    // The face's map: at the led ends' rows nothing but heat differs, and its worst is no less than the computed error of the middle and the ends.
    expect(found.face?.deviationMm.length).toBe((found.face?.shares.length ?? 0) * (found.face?.along.length ?? 0));
    expect(found.face?.worst.deviationMm as number).toBeGreaterThanOrEqual(found.pace.faceErrorMm * 0.9);
    // Half way along, the miss is square to the line and no more than the line's error.
    const most = Math.max(...(found.sections[2]?.deviationMm ?? []).map(([x, y]) => Math.hypot(x, y)));
    expect(most).toBeLessThanOrEqual(found.pace.errorMm + 0.02);
    expect(most).toBeGreaterThan(0.5 * found.pace.errorMm);
    const of = (code: string) => [...found.cures, ...found.mishaps].find((each) => each.code === code);
    expect(of("tighter")?.errorMm as number).toBeLessThan(found.pace.errorMm);
    expect(of("slower")?.errorMm as number).toBeLessThan(found.pace.errorMm);
    expect(of("narrower")?.errorMm as number).toBeLessThan(found.pace.errorMm);
    expect(of("ahead")?.errorMm as number).toBeGreaterThan(found.pace.errorMm);
    expect(of("stop")?.biteMm as number).toBeGreaterThan(1);
  });
  it("keeps the half kerf within half the tolerance of what the templates allow for", () => {
    const job = paceJob(fin, evaluation, "lower") as NonNullable<ReturnType<typeof paceJob>>;
    const found = planPace(job, evaluation.cutter?.pair as never);
    const allowed = evaluation.root.kerfMm / 2;
    for (const { rootFeedMmS } of found.rows)
      expect(Math.abs((evaluation.root.kerfMm * evaluation.root.feedMmS) / rootFeedMmS / 2 - allowed)).toBeLessThanOrEqual(fin.pace.tolerance_mm / 2 + 0.02);
  });
  it("at corners, three ways side by side; a wait is with the number it is at, a run past the corner too", () => {
    const job = paceJob({ ...box, pace: { ...box.pace, corner: "wait", tolerance_mm: 0.4 } }, boxed, "whole") as NonNullable<ReturnType<typeof paceJob>>;
    const found = planPace(job, boxed.cutter?.pair as never);
    expect(found.others.map(({ corner }) => corner)).toContain("past");
    const corners = job.stations.stations.filter(({ at }) => at === "corner").map(({ label }) => label);
    expect(corners.length).toBeGreaterThanOrEqual(3);
    const waited = found.rows.filter(({ waitS }) => waitS > 0).map(({ to }) => to);
    for (const label of waited) expect(corners).toContain(label);
    const past = planPace({ ...job, corner: "past" }, boxed.cutter?.pair as never);
    expect(paceRows(job.stations, past.pace).map(({ to }) => to)).toEqual(found.rows.map(({ to }) => to));
    expect(past.rows.filter(({ waitS }) => waitS > 0).length).toBe(corners.length);
  });
  it("has none without a cutter, and says what is wrong where the numbers do not go round the corners", () => {
    expect(paceJob(fin, evaluatePlan(fin, null), "upper")).toBeNull();
    expect(() => paceJob({ ...box, stations: { ...box.stations, count: 2 } }, boxed, "whole")).toThrow(CoreError);
  });
  it("faces follow the school: two, one all round, or one to be flipped", () => {
    expect(facesOf(fin)).toEqual(["lower", "upper"]);
    expect(facesOf({ ...fin, pace: { ...fin.pace, order: "round" } })).toEqual(["whole"]);
    expect(facesOf({ ...fin, pace: { ...fin.pace, order: "flip" } })).toEqual(["upper"]);
  });
});

describe("a pace's table, by hand", () => {
  type Limited = Parameters<typeof paceRows>[1];
  /** Pieces as root mm, tip mm, feed of the longer, whether it ends at a number, whether it is a run past a corner, and what is waited behind it. */
  const result = (bits: [number, number, number, boolean, boolean, number][], limits: Limited["limits"]): Limited => {
    const [timesS, piece]: [number[], number[]] = [[0], []];
    const spend = (seconds: number, of: number) => {
      timesS.push((timesS.at(-1) as number) + seconds);
      piece.push(of);
    };
    for (const [j, [root, tip, feed, , , wait]] of bits.entries()) {
      // Two stretches each: times of a piece are summed.
      for (const share of [0.25, 0.75]) spend((share * Math.max(root, tip)) / feed, j);
      if (wait > 0) spend(wait, -1);
    }
    const pieces = bits.map(([rootMm, tipMm, , station, ear], j) => ({ from: j, to: j + 1, rootMm, tipMm, corner: null, station, ear }));
    return { paths: { root: [], tip: [], pieces, corners: [] }, feeds: bits.map(([, , feed]) => feed), timesS, piece, limits };
  };
  const numbers = (labels: [string, boolean, "corner" | null][]) =>
    ({
      stations: labels.map(([label, whole, at]) => ({ label, whole, at, root: [0, 0], tip: [0, 0], rootAlongMm: 0, tipAlongMm: 0 })),
    }) as unknown as Parameters<typeof paceRows>[0];

  it("a corner between two numbers is waited at on the way, one at a number behind it, and a run past it is a wait there", () => {
    const rows = paceRows(
      numbers([
        ["0", true, null],
        ["1", true, null],
        ["1 1/2", false, "corner"],
        ["2", true, "corner"],
        ["3", true, null],
      ]),
      result(
        [
          [10, 5, 5, true, false, 0],
          [6, 3, 6, false, false, 0.5],
          [4, 2, 4, true, false, 1.2],
          [8, 8, 8, false, true, 0],
          [10, 20, 10, true, false, 0],
        ],
        [
          { fromMm: 0, toMm: 10, feedMmS: 5, limit: "drag" },
          { fromMm: 10, toMm: 20, feedMmS: 6, limit: "tolerance" },
          { fromMm: 20, toMm: 28, feedMmS: 8, limit: "hand" },
          { fromMm: 28, toMm: 48, feedMmS: 10, limit: "fumes" },
        ],
      ),
    );
    const near = (value: number) => expect.closeTo(value, 9);
    expect(rows).toEqual([
      { from: "0", to: "1", rootFeedMmS: near(5), tipFeedMmS: near(2.5), seconds: near(2), waitS: near(0), limit: "drag", corner: false },
      { from: "1", to: "2", rootFeedMmS: near(4), tipFeedMmS: near(2), seconds: near(2.5), waitS: near(2.2), limit: "tolerance", corner: true },
      { from: "2", to: "3", rootFeedMmS: near(5), tipFeedMmS: near(10), seconds: near(2), waitS: near(0), limit: "fumes", corner: false },
    ]);
  });
  it("a run past a corner between two numbers takes time on the way; numbers that no one named are counted", () => {
    const rows = paceRows(
      numbers([]),
      result(
        [
          [5, 5, 5, true, false, 0],
          [6, 3, 6, false, false, 0],
          [8, 8, 4, false, true, 0],
          [4, 2, 4, true, false, 0.3],
        ],
        [{ fromMm: 0, toMm: 23, feedMmS: 5, limit: "hand" }],
      ),
    );
    expect(rows.map(({ from, to }) => [from, to])).toEqual([
      ["0", "1"],
      ["1", "2"],
    ]);
    expect(rows[1]).toMatchObject({ seconds: expect.closeTo(4, 9), waitS: expect.closeTo(0.3, 9), limit: "hand", corner: false });
  });
});

describe("feeds that a template's allowance leaves", () => {
  it.each(["edge", "centre"] as const)(
    "half the kerf at either is half the tolerance off what the template allows for, guided by the wire's %s",
    (guidance) => {
      const plan: Plan = { ...fin, cut: { ...fin.cut, guidance } };
      const own = evaluatePlan(plan, bow);
      const job = paceJob(plan, own, "upper") as NonNullable<ReturnType<typeof paceJob>>;
      const half = own.root.kerfMm / 2;
      // The template is offset from the part by what the wire melts, less its own half where the wire bears on its edge.
      expect(job.allowedHalfMm).toBeCloseTo(half, 6);
      const off = plan.pace.tolerance_mm / 2;
      const scale = Math.max(job.stations.rootLengthMm, job.stations.tipLengthMm) / job.stations.rootLengthMm;
      // As the kerf goes with one over the feed.
      const feedOf = (mm: number) => (scale * (own.root.kerfMm * own.root.feedMmS)) / (2 * mm);
      expect(job.kerfFeeds.min).toBeCloseTo(feedOf(half + off), 1);
      expect(job.kerfFeeds.max).toBeCloseTo(feedOf(half - off), 1);
      expect(job.kerfFeeds.min).toBeLessThan(own.root.feedMmS);
    },
  );
});

describe("the middle's lag shared", () => {
  const job = paceJob(fin, evaluation, "upper") as NonNullable<ReturnType<typeof paceJob>>;
  const pair = evaluation.cutter?.pair as never;
  it("at the same pace all miss less; at the same tolerance it goes faster, or as fast where something else holds it", () => {
    const alone = planPace(job, pair, undefined, false);
    expect(alone.shared.errorMm).toBeLessThan(0.8 * alone.pace.errorMm);
    expect(alone.shared.mostMm).toBeLessThan(alone.pace.errorMm);
    const tight = { ...job, toleranceMm: 0.12, kerfFeeds: { min: 0.1, max: 99 } };
    const [unshared, shared] = [planPace(tight, pair, undefined, false), planPace({ ...tight, share: true }, pair, undefined, false)];
    expect(shared.pace.totalS).toBeLessThan(unshared.pace.totalS);
    expect(shared.shared.errorMm).toBeLessThanOrEqual(0.12);
  });
  it("a straight way is not moved at all", () => {
    const path: Point[] = [
      [0, 0],
      [50, 0],
      [100, 0],
    ];
    const { mostMm, errorMm } = sharedEndPaths(job.wire, { path, tipPath: path.map(([x]): Point => [x * 0.6, 0]), timesS: [0, 8, 16] });
    expect(mostMm).toBeLessThan(1e-6);
    expect(errorMm).toBeLessThan(1e-6);
  });
  it("templates are given out moved by that, towards the outside where the middle cuts in, and it is printed on them; off, nothing is", () => {
    const on = { ...fin, pace: { ...fin.pace, share: true } };
    const moved = withSharedError(on, evaluation);
    expect(withSharedError(fin, evaluation)).toBe(evaluation);
    const pairOf = (of: typeof evaluation) => of.root.templates.find(({ face }) => face === "upper")?.line ?? [];
    const by = pairOf(moved).map((point, i) => distance(point, pairOf(evaluation)[i] as Point));
    expect(Math.max(...by)).toBeLessThanOrEqual((moved.sharedMm ?? 0) + 1e-6);
    expect(Math.max(...by)).toBeGreaterThan(0.02);
    const most = by.indexOf(Math.max(...by));
    // About the nose, which is the sharpest bend, the edge goes outwards.
    const [was, is] = [pairOf(evaluation)[most] as Point, pairOf(moved)[most] as Point];
    expect(Math.hypot(is[0] - 60, is[1])).toBeGreaterThan(Math.hypot(was[0] - 60, was[1]));
    const words = templateDrawing(on, moved, moved.root.templates[0] as never).texts.map(({ text }) => text);
    expect(words.some((text) => /moved by up to 0\.\d\d mm to share/.test(text))).toBe(true);
  });
});

describe("marks on templates", () => {
  it("are on the edge, square to it, at both ends of every number, whole ones with their number", () => {
    for (const template of [...evaluation.root.templates, ...evaluation.tip.templates]) {
      const marks = stationMarks(fin, evaluation, template);
      const { stations } = planStations(fin, evaluation, template.face);
      expect(marks.length).toBe(stations.length);
      expect(marks.flatMap(({ label }) => (label === null ? [] : [label]))).toEqual(stations.filter(({ whole }) => whole).map(({ label }) => label));
      for (const [i, { line }] of marks.entries()) {
        const [on, end] = line;
        const { at, distance: off, edge } = nearest(on, template.line, false);
        expect(off).toBeLessThan(1e-6);
        const [a, b] = [template.line[edge] as Point, template.line[edge + 1] as Point];
        const across = ((end[0] - at[0]) * (b[0] - a[0]) + (end[1] - at[1]) * (b[1] - a[1])) / distance(a, b) / distance(at, end);
        expect(Math.abs(across)).toBeLessThan(0.35);
        // The station is on the wire's own line, a radius off; at a sharp tail that line's corner stands farther out.
        const own = stations[i];
        const where = (template.end === "root" ? own?.root : own?.tip) as Point;
        expect(distance(on, where)).toBeLessThan((evaluation.cutter?.wireMm ?? 0) / 2 + (own?.at === "end" ? 1.2 : 0.6));
      }
      expect(templateDrawing(fin, evaluation, template).lines.filter(({ layer }) => layer === "stations").length).toBe(marks.length);
    }
  });
  it("on a way that comes round to where it began no number is written over another, and none is missing", () => {
    let together = 0;
    // Letters want a font, which is the app's to bring.
    for (const plan of DEMO_PLANS.filter(({ root }) => root.shape.kind !== "text")) {
      const own = evaluatePlan(plan, bow);
      for (const template of [...own.root.templates, ...own.tip.templates].filter(({ closed, piece }) => closed && piece === 0)) {
        const marks = stationMarks(plan, own, template).filter(({ label }) => label !== null);
        for (const [i, { text }] of marks.entries()) for (const other of marks.slice(i + 1)) expect(distance(text, other.text)).toBeGreaterThan(2);
        const { stations } = planStations(plan, own, template.face);
        const numbers = stations.flatMap(({ whole, label }) => (whole ? [label] : []));
        expect(marks.flatMap(({ label }) => String(label).split(", ")).sort()).toEqual([...numbers].sort());
        together += marks.filter(({ label }) => String(label).includes(", ")).length;
      }
    }
    expect(together).toBeGreaterThan(0);
  });
  it("drawn small on the cut sheet, numbers of a part that goes all round are about it: none on its outline, none on another", () => {
    for (const plan of DEMO_PLANS.filter(({ name }) => ["Harbour buoy", "Lantern rib"].includes(name))) {
      const own = evaluatePlan(plan, bow);
      const { templates } = cutSheetOf(
        plan,
        own,
        "whole",
        { pace: { totalS: 1, errorMm: 0, faceErrorMm: 0, corner: "wait", end: { leftMm: 8.2, waitS: 1.2, runOutMm: 9 } }, rows: [] },
        null,
        "metric",
      );
      const outlines = templates.shapes.flatMap((shape) =>
        shape.kind === "path" && shape.d.endsWith("Z")
          ? [
              shape.d
                .slice(1, -1)
                .split("L")
                .map((point) => point.split(" ").map(Number) as unknown as Point),
            ]
          : [],
      );
      expect(outlines).toHaveLength(2);
      const boxes = templates.shapes.flatMap((shape) => {
        if (shape.kind !== "text" || !shape.mono) return [];
        // A letter of the sheet's own face is three fifths as wide as it is high, and its figures stand seven tenths of that.
        const wide = shape.text.length * 0.6 * shape.size;
        const left = shape.anchor === "start" ? shape.x : shape.anchor === "end" ? shape.x - wide : shape.x - wide / 2;
        return [{ text: shape.text, left, right: left + wide, top: shape.y - 0.73 * shape.size, foot: shape.y }];
      });
      expect(boxes.length).toBeGreaterThan(20);
      for (const [i, box] of boxes.entries()) {
        for (const [x, y] of outlines.flat())
          expect([plan.name, box.text, x > box.left && x < box.right && y > box.top && y < box.foot]).toEqual([plan.name, box.text, false]);
        for (const other of boxes.slice(i + 1))
          expect([
            box.text,
            other.text,
            Math.min(box.right, other.right) > Math.max(box.left, other.left) && Math.min(box.foot, other.foot) > Math.max(box.top, other.top),
          ]).toEqual([box.text, other.text, false]);
        expect(box.left).toBeGreaterThan(0);
        expect(box.right).toBeLessThan(templates.width);
      }
    }
  });
  it("none is in a spar's slot", () => {
    const slotted = { ...fin, template: { ...fin.template, spar: { as: "slot", face: "lower", at: 0.3, width_mm: 40, depth_mm: 8 } as const } };
    const own = evaluatePlan(slotted, bow);
    const lower = own.root.templates.find(({ face }) => face === "lower");
    const marks = stationMarks(slotted, own, lower as never);
    expect(marks.length).toBeGreaterThan(8);
    for (const { line } of marks) expect(line[0][0] > 0.3 * 320 - 19.5 && line[0][0] < 0.3 * 320 + 19.5).toBe(false);
  });
});

describe("the cut sheet", () => {
  it("says set-up, block, every number and what to look at, in the person's units", () => {
    const job = paceJob(fin, evaluation, "upper") as NonNullable<ReturnType<typeof paceJob>>;
    const found = planPace(job, evaluation.cutter?.pair as never);
    const sheet = cutSheetOf(fin, evaluation, "upper", found, 18.2, "metric");
    expect(Object.fromEntries(sheet.setUp)).toMatchObject({ cutter: "Long Tom", "warm-up": "wait 19 s, then try it on a scrap", tension: "65 N hot" });
    expect(sheet.rows.map(({ to }) => to)).toEqual(found.rows.map(({ to }) => to));
    expect(sheet.afterwards[1]).toMatch(/root 48(\.0)? mm, tip 22/);
    expect(sheet.templates.shapes.filter(({ kind }) => kind === "text").length).toBeGreaterThan(20);
    const inch = cutSheetOf(fin, evaluation, "upper", found, null, "inch");
    expect(inch.rows[0]?.root).toMatch(/s\/in/);
    expect(Object.fromEntries(inch.setUp)["warm-up"]).toMatch(/scrap/);
  });
});
