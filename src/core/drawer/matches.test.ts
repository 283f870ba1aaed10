import { describe, expect, it } from "vitest";
import { adoptSetup } from "../design/adopt";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { evaluateDesign } from "../design/evaluate";
import type { Design } from "../design/schema";
import { searchSetups } from "../design/search";
import { DEMO_DRAWER } from "./demoDrawer";
import { holdingsOf, jobOf, matchMatrix, oneThing } from "./matches";

const rows = DEMO_DRAWER.map((item, i) => ({ id: `id-${i}`, item }));
const mine = holdingsOf(rows);
const [longTom, gatepost, thimble, marionette] = DEMO_CUTTERS as [Design, Design, Design, Design];

describe("matches", () => {
  it("leaves out what is only in the shop, and counts a direct connection as no part", () => {
    expect(mine.supplies).toHaveLength(6);
    expect(holdingsOf(rows, true).supplies).toHaveLength(7);
    expect(mine.controls.map((control) => control.kind).sort()).toEqual(["buck", "direct", "phase", "pwm"]);
  });

  it("each cell is the search's own best for that wire and supply", () => {
    const job = jobOf(gatepost);
    const cells = matchMatrix(job, mine);
    expect(cells).toHaveLength(mine.wires.length);
    for (const [w, wire] of mine.wires.entries()) {
      for (const [s, supply] of mine.supplies.entries()) {
        const cell = cells[w]?.[s];
        const alone = searchSetups(
          job,
          [wire.spec],
          [supply.supply],
          mine.controls.map((control) => control.kind),
        );
        expect(cell?.candidate?.score ?? null).toBe(alone.candidates[0]?.score ?? null);
        if (!cell?.candidate) expect(cell?.refusal?.reason.length).toBeGreaterThan(5);
      }
    }
  });

  it("a cell put on the desk is clean there, with the setting it named", () => {
    for (const design of [longTom, gatepost, thimble]) {
      for (const candidate of matchMatrix(jobOf(design), mine)
        .flat()
        .flatMap((cell) => cell.candidate ?? [])) {
        // A supply without a knob is set from the square of its volts, and a hand's setting is rounded: right at a border that may tip over.
        if (Math.min(...Object.values(candidate.margins)) < 0.06) continue;
        const answer = evaluateDesign(adoptSetup(design, candidate));
        expect(answer.verdict, `${design.name}: ${JSON.stringify(candidate.wire)} ${JSON.stringify(candidate.control)}`).toBe("clean");
      }
    }
  });

  it("a spool with too little left says so", () => {
    const short = { ...mine, wires: mine.wires.map((wire) => ({ ...wire, lengthM: 0.5 })) };
    for (const cell of matchMatrix(jobOf(longTom), short).flat()) expect(cell.refusal?.reason).toMatch(/only 0\.50 m left of the 1\.4\d m/);
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
      expect(
        job &&
          matchMatrix(job, { ...poor, supplies: bought ? [bought] : [] })
            .flat()
            .some((cell) => cell.candidate),
      ).toBe(true);
      expect(
        job &&
          matchMatrix(job, poor)
            .flat()
            .some((cell) => cell.candidate),
      ).toBe(false);
    }
    for (const [i, purchase] of found.entries()) expect(purchase.opens.length).toBeLessThanOrEqual(found[i - 1]?.opens.length ?? Number.POSITIVE_INFINITY);
  });
});
