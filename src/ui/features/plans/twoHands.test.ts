import { describe, expect, it } from "vitest";
import type { PaceRow } from "@/core/pace/planPace";
import type { Stations } from "@/core/plans/stations";
import { noInputs, rulersOf, stepHands } from "./twoHands";

const rows = [{ seconds: 2 }, { seconds: 4 }] as PaceRow[];
const start = { atS: 0, root: 0, tip: 0 };

describe("hands at work", () => {
  it("a held key leads its own hand, a little faster than the pace; the other rests", () => {
    const inputs = noInputs();
    inputs.held.root = true;
    let at = start;
    for (let i = 0; i < 20; i++) at = stepHands(at, inputs, rows, 0.05);
    expect(at).toEqual({ atS: expect.closeTo(1, 9), root: expect.closeTo(1.35 / 2, 9), tip: 0 });
  });

  it("a dragged hand follows its drag at four times the pace at most, and never goes back", () => {
    const inputs = noInputs();
    inputs.aims.tip = 0.5;
    expect(stepHands(start, inputs, rows, 0.1).tip).toBeCloseTo(0.2, 9);
    inputs.aims.tip = 0.1;
    const there = { atS: 1, root: 0, tip: 0.4 };
    expect(stepHands(there, inputs, rows, 0.1).tip).toBe(0.4);
  });

  it("ends at the last number", () => {
    const inputs = noInputs();
    inputs.held = { root: true, tip: true };
    let at = start;
    for (let i = 0; i < 400; i++) at = stepHands(at, inputs, rows, 0.05);
    expect([at.root, at.tip]).toEqual([2, 2]);
  });
});

it("two rulers: each end's numbers where its own arc has them, and back from a place to a number", () => {
  const stations = {
    rootLengthMm: 300,
    tipLengthMm: 150,
    stations: [
      { label: "0", whole: true, rootAlongMm: 0, tipAlongMm: 0 },
      { label: "½", whole: false, rootAlongMm: 50, tipAlongMm: 25 },
      { label: "1", whole: true, rootAlongMm: 100, tipAlongMm: 40 },
      { label: "2", whole: true, rootAlongMm: 300, tipAlongMm: 150 },
    ],
  } as unknown as Stations;
  const { labels, px, numberAt } = rulersOf(stations, 46, 600);
  expect(labels).toEqual(["0", "1", "2"]);
  expect([px("root", 0), px("root", 1), px("root", 1.5), px("root", 2)]).toEqual([46, 246, 446, 646]);
  expect(px("tip", 1)).toBe(46 + 80);
  for (const hand of ["root", "tip"] as const) for (const number of [0, 0.3, 1, 1.7, 2]) expect(numberAt(hand, px(hand, number))).toBeCloseTo(number, 9);
  expect([numberAt("root", 0), numberAt("root", 5000)]).toEqual([0, 2]);
});
