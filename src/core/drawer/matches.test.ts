import { describe, expect, it } from "vitest";
import { adoptSetup } from "../design/adopt";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { evaluateDesign } from "../design/evaluate";
import type { Design } from "../design/schema";
import { searchSetups } from "../design/search";
import type { SearchJob } from "../design/setups";
import { DEMO_DRAWER } from "./demoDrawer";
import { type HeldSupply, type HeldWire, type Holdings, holdingsOf } from "./holdings";
import { jobOf, matchCell, matchMatrix, oneThing } from "./matches";

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
    const job = jobOf(gatepost);
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
        expect(cell.candidate?.score ?? null).toBe(alone.candidates[0]?.score ?? null);
        const { candidate } = cell;
        expect(marks[w]?.[s]).toEqual(
          candidate ? { score: candidate.score, control: candidate.control.kind, setting: candidate.setting } : { code: cell.refusal?.code ?? null },
        );
        if (candidate) expect(candidate.reasons.length).toBeGreaterThan(1);
        else {
          // What is said is said by the search as well, of a control at hand or of the wire.
          expect(alone.rejected.map(({ code, reason }) => ({ code, reason }))).toContainEqual(cell.refusal);
        }
      }
    }
    expect(marks.flat().some((mark) => "code" in mark)).toBe(true);
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
        const answer = evaluateDesign(adoptSetup(design, candidate));
        expect(answer.verdict, `${design.name}: ${JSON.stringify(candidate.wire)} ${JSON.stringify(candidate.control)}`).toBe("clean");
      }
    }
  });

  it("a spool with too little left says so, in the maker's units", () => {
    const short = { ...mine, wires: mine.wires.map((wire) => ({ ...wire, lengthM: 0.5 })) };
    expect(new Set(matchMatrix(jobOf(longTom), short).flatMap((row) => row.map((mark) => "code" in mark && mark.code)))).toEqual(new Set(["short-wire"]));
    for (const cell of allCells(jobOf(longTom), short).flat()) expect(cell.refusal?.reason).toMatch(/only 0\.50 m left of the 1\.4\d m/);
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
