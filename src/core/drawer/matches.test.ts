import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { adoptSetup } from "../cutters/search/adopt";
import { jobOf } from "../cutters/search/job";
import type { SearchJob } from "../cutters/search/readyWire";
import { searchSetups } from "../cutters/search/search";
import type { Candidate } from "../cutters/search/setups";
import { evaluateDesign, knobOf, withSetting } from "../cutters/solve/evaluate";
import { DEMO_DRAWER } from "./demoDrawer";
import { type HeldSupply, type HeldWire, type Holdings, holdingsOf } from "./holdings";
import { matchCell, matchMatrix, oneThing } from "./matches";
import { nearestSetup } from "./nearest";

const rows = DEMO_DRAWER.map((item, i) => ({ id: `id-${i}`, item }));
const mine = holdingsOf(rows);
const [longTom, gatepost, thimble, marionette] = DEMO_CUTTERS as [Design, Design, Design, Design];

describe("matches", () => {
  it("leaves out what is only in the shop, and counts a direct connection as no part", () => {
    expect(mine.supplies).toHaveLength(6);
    expect(holdingsOf(rows, true).supplies).toHaveLength(7);
    expect(mine.controls.map((control) => control.kind).sort()).toEqual(["buck", "direct", "phase", "pwm"]);
  });

  /** Every pair of a drawer in full. */
  const allCells = (job: SearchJob, holdings: Holdings) =>
    holdings.wires.map((wire) => holdings.supplies.map((supply) => matchCell(job, holdings, wire, supply)));
  const opensSome = (job: SearchJob, holdings: Holdings) =>
    matchMatrix(job, holdings)
      .flat()
      .some((mark) => "score" in mark);

  it("each cell is the search's own best for that wire and supply, and opens as the matrix marked it", () => {
    for (const job of [jobOf(gatepost), jobOf(marionette)]) {
      const marks = matchMatrix(job, mine);
      expect(marks).toHaveLength(mine.wires.length);
      for (const [w, row] of allCells(job, mine).entries()) {
        for (const [s, cell] of row.entries()) {
          const alone = searchSetups(
            job,
            [(mine.wires[w] as HeldWire).spec],
            [(mine.supplies[s] as HeldSupply).supply],
            mine.controls.map((control) => control.kind),
          );
          // The search ranks by whole points.
          expect(cell.candidate ? Math.round(cell.candidate.score) : null).toBe(alone.candidates[0]?.score ?? null);
          const { candidate } = cell;
          expect(marks[w]?.[s]).toEqual(
            candidate ? { score: candidate.score, control: candidate.control.kind, setting: candidate.setting } : { code: cell.refusal?.code ?? null },
          );
          if (candidate) expect(candidate.reasons.length).toBeGreaterThan(1);
          // What is said is said by the search as well, of a control at hand or of the wire.
          else {
            const template = (code: string, reason: string) => `${code} ${reason.replace(/[\d.]+/g, "#")}`;
            expect(alone.rejected.map((row) => template(row.code, row.reason))).toContain(template(cell.refusal?.code ?? "", cell.refusal?.reason ?? ""));
          }
        }
      }
    }
    expect(
      matchMatrix(jobOf(marionette), mine)
        .flat()
        .some((mark) => "code" in mark),
    ).toBe(true);
  });

  it("a supply too weak for the usual heat is turned cooler where that still cuts cleanly, and scores less for it", () => {
    const fence = mine.wires.find((wire) => wire.name === "Fence spool") as HeldWire;
    const on = (name: string) => {
      const supply = mine.supplies.find((each) => each.name === name) as HeldSupply;
      return matchCell(jobOf(gatepost), mine, fence, supply).candidate as Candidate;
    };
    const [weak, strong] = [on("Nine-volt brick"), on("Old laptop brick")];
    expect(weak.cut.powerWPerM).toBeLessThan(0.9 * strong.cut.powerWPerM);
    expect(evaluateDesign(adoptSetup(gatepost, weak)).verdict).toBe("clean");
    expect(weak.score).toBeLessThan(strong.score - 10);
  });

  it("where no control at hand goes with a supply, nothing is named", () => {
    const onlyDimmer: Holdings = { ...mine, controls: [{ kind: "phase", price: 0 }] };
    const bricks = onlyDimmer.supplies.map(({ supply }, s) => [supply.kind, s] as const).filter(([kind]) => kind === "dc");
    expect(bricks.length).toBeGreaterThan(0);
    const marks = matchMatrix(jobOf(longTom), onlyDimmer);
    const able = marks.filter((row) => !row.every((mark) => "code" in mark && mark.code !== null));
    for (const row of able) for (const [, s] of bricks) expect(row[s]).toEqual({ code: null });
    expect(able.length).toBeGreaterThan(0);
  });

  it("a cell put on the desk is clean there, with the setting it named", () => {
    for (const design of [longTom, gatepost, thimble]) {
      for (const candidate of allCells(jobOf(design), mine)
        .flat()
        .flatMap((cell) => cell.candidate ?? [])) {
        // A supply without a knob is set from the square of its volts, and a hand's setting is rounded: right at a border that may tip over.
        if (Math.min(...Object.values(candidate.margins)) < 0.06) continue;
        const evaluation = evaluateDesign(adoptSetup(design, candidate));
        expect(evaluation.verdict, `${design.name}: ${JSON.stringify(candidate.wire)} ${JSON.stringify(candidate.control)}`).toBe("clean");
      }
    }
  });

  it("nothing offered is in danger on the desk unless its wire cannot be kept out of it, and then its reasons say so", () => {
    let warned = 0;
    for (const design of [longTom, gatepost, thimble, marionette]) {
      for (const cell of allCells(jobOf(design), mine).flat()) {
        if (!cell.candidate) continue;
        const dangers = evaluateDesign(adoptSetup(design, cell.candidate)).cautions.filter((caution) => caution.severity === "danger");
        const said = cell.candidate.reasons.some((reason) => reason.includes("lights on its own"));
        expect(dangers.length > 0, `${design.name}: ${JSON.stringify(cell.candidate.wire)}`).toBe(said);
        if (said) warned += 1;
      }
    }
    expect(warned).toBeGreaterThan(0);
    expect(warned).toBeLessThan(16);
  });

  it("a refused pair says the nearest it comes, true on the desk, and nothing at hand does better", () => {
    const rank = ["clean", "wide", "drags", "too-cold", "short-wire", "smokes", "overload"];
    const seen = new Set<string>();
    for (const design of [longTom, gatepost, thimble, marionette]) {
      const job = jobOf(design);
      for (const wire of mine.wires) {
        for (const supply of mine.supplies) {
          const { candidate, refusal } = matchCell(job, mine, wire, supply);
          if (candidate) continue;
          const nearest = nearestSetup(design, job, wire, supply, mine.controls);
          if (!nearest) continue;
          seen.add(nearest.verdict);
          // Nothing refused could have been clean, but for what is asked beyond that: something in hand, a battery that lasts, volts that reach the wire.
          if (!["no-reach", "fades", "wastes", "at-its-end"].includes(refusal?.code ?? "") && supply.supply.kind !== "battery")
            expect(nearest.verdict).not.toBe("clean");
          expect(designSchema.safeParse(nearest.design).success).toBe(true);
          expect(evaluateDesign(nearest.design).verdict).toBe(nearest.verdict);
          // Any hand on any of these controls finds nothing nearer: a knob turned at random.
          const knob = knobOf(nearest.design);
          for (const turn of [0.03, 0.11, 0.37, 0.52, 0.71, 0.94]) {
            const other = knob && withSetting(nearest.design, knob.min + turn * (knob.max - knob.min));
            if (other) expect(rank.indexOf(evaluateDesign(other).verdict)).toBeGreaterThanOrEqual(rank.indexOf(nearest.verdict));
          }
        }
      }
    }
    expect(seen.size).toBeGreaterThan(1);
  });

  it("volts past the touch limit are not offered to the desk at any setting", () => {
    const high: HeldSupply = { id: "high", name: "High", supply: { kind: "dc", voltage_V: 90, maxCurrent_A: 3 }, price: 0 };
    const wire = mine.wires[0] as HeldWire;
    expect(matchCell(jobOf(longTom), mine, wire, high).refusal?.code).toBeDefined();
    expect(nearestSetup(longTom, jobOf(longTom), wire, high, mine.controls)).toBeNull();
  });

  it("a spool with too little left says so, in the maker's units", () => {
    const short = { ...mine, wires: mine.wires.map((wire) => ({ ...wire, lengthM: 0.5 })) };
    expect(new Set(matchMatrix(jobOf(longTom), short).flatMap((row) => row.map((mark) => "code" in mark && mark.code)))).toEqual(new Set(["short-wire"]));
    for (const cell of allCells(jobOf(longTom), short).flat()) expect(cell.refusal?.reason).toMatch(/only 0\.50 m left of the 1\.4\d m/);
    for (const wire of short.wires) expect(nearestSetup(longTom, jobOf(longTom), wire, short.supplies[0] as HeldSupply, short.controls)).toBeNull();
    for (const cell of allCells(jobOf(longTom, "inch"), short).flat()) expect(cell.refusal?.reason).toMatch(/only 1\.64 ft left of the 4\.\d\d ft/);
  });

  it("the one thing to buy opens jobs that nothing in the drawer can do, and is really clean with it", () => {
    const poor = { ...mine, supplies: mine.supplies.filter(({ name }) => name === "Nine-volt brick") };
    const jobs = [longTom, gatepost, marionette].map((design) => ({ name: design.name, job: jobOf(design) }));
    const offers = holdingsOf(rows, true);
    const found = oneThing(jobs, poor, offers);
    expect(found[0]?.kind).toBe("supply");
    expect(found[0]?.opens.length).toBeGreaterThan(0);
    const bought = offers.supplies.find((supply) => supply.name === found[0]?.name);
    for (const name of found[0]?.opens ?? []) {
      const job = jobs.find((each) => each.name === name)?.job;
      expect(job && opensSome(job, { ...poor, supplies: bought ? [bought] : [] })).toBe(true);
      expect(job && opensSome(job, poor)).toBe(false);
    }
    for (const [i, purchase] of found.entries()) expect(purchase.opens.length).toBeLessThanOrEqual(found[i - 1]?.opens.length ?? Number.POSITIVE_INFINITY);
  });
});
