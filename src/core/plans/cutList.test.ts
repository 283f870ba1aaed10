import fc from "fast-check";
import { expect, it } from "vitest";
import { DEMO_DRAWER } from "../drawer/demoDrawer";
import { type Blank, blanksOf, boardsOf, type CutList, cutList, SAW_MM } from "./cutList";
import { firstPlan } from "./plan";

const board = { name: "Sheet", foam: "EPS 18", family: "eps", lengthMm: 1200, widthMm: 600, thicknessMm: 120, densityKgM3: 18, price: 14 };
const blank = (name: string, lengthMm: number, widthMm: number, thickMm = 50): Blank => ({ name, lengthMm, widthMm, thickMm });
const listed = (found: ReturnType<typeof cutList>): CutList => ("refused" in found ? expect.fail(found.refused) : found);

it("as many as the board holds, layer by layer, a saw's cut between them and none round them", () => {
  // Two of 600 by 298 lie side by side with one cut of 3 mm: 599; a third next to the first pair needs 1203 of 1200.
  const four = listed(
    cutList(
      [1, 2, 3, 4].map((i) => blank(`b${i}`, 597, 298)),
      board,
    ),
  );
  expect(four).toMatchObject({ boards: 1, layers: 2, price: 14 });
  expect(new Set(four.placed.map(({ layer }) => layer)).size).toBe(1);
  expect(
    listed(
      cutList(
        [1, 2, 3, 4, 5, 6, 7, 8, 9].map((i) => blank(`b${i}`, 597, 298)),
        board,
      ),
    ),
  ).toMatchObject({ boards: 2, layers: 2 });
  // Layers: 120 of thickness hold two of 58.5 with a cut of 3 between, not of 59.
  expect(listed(cutList([blank("a", 100, 100, 58.5)], board)).layers).toBe(2);
  expect(listed(cutList([blank("a", 100, 100, 59)], board)).layers).toBe(1);
  expect(listed(cutList([blank("whole", 1200, 600, 120)], board))).toMatchObject({ boards: 1, used: 1 });
});

it("a blank is turned where it fits only so, and refused in words where it does not", () => {
  const [turned] = listed(cutList([blank("long", 500, 1100)], board)).placed;
  expect(turned).toMatchObject({ wide: 1100, high: 500 });
  expect(cutList([blank("fat", 100, 100, 130)], board)).toMatchObject({ refused: "fat needs 130 mm of thickness, the board has 120" });
  expect(cutList([blank("wide", 700, 650)], board)).toMatchObject({ refused: "wide is 700 by 650 mm, the board 1200 by 600" });
});

it("no two lie over one another or over the edge, and none is lost", () => {
  const sizes = fc.tuple(fc.integer({ min: 40, max: 590 }), fc.integer({ min: 40, max: 590 }));
  fc.assert(
    fc.property(fc.array(sizes, { minLength: 1, maxLength: 24 }), (all) => {
      const blanks = all.map(([l, w], i) => blank(`b${i}`, l, w));
      const { placed, boards, layers } = listed(cutList(blanks, board));
      expect(placed.map((each) => each.blank).sort()).toEqual(blanks.map((each) => each.name).sort());
      for (const a of placed) {
        expect([a.x >= 0, a.y >= 0, a.x + a.wide <= 1200 + 1e-6, a.y + a.high <= 600 + 1e-6, a.board < boards, a.layer < layers]).toEqual(Array(6).fill(true));
        const own = blanks.find((each) => each.name === a.blank) as Blank;
        expect([a.wide, a.high].sort()).toEqual([own.lengthMm, own.widthMm].sort());
        for (const b of placed) {
          if (a === b || a.board !== b.board || a.layer !== b.layer) continue;
          expect(
            a.x + a.wide + SAW_MM <= b.x + 1e-6 ||
              b.x + b.wide + SAW_MM <= a.x + 1e-6 ||
              a.y + a.high + SAW_MM <= b.y + 1e-6 ||
              b.y + b.high + SAW_MM <= a.y + 1e-6,
          ).toBe(true);
        }
      }
    }),
    {
      numRuns: 60,
      examples: [
        [
          [
            [597, 298],
            [597, 298],
          ],
        ],
      ],
    },
  );
});

it("boards are the drawer's blocks whose sizes are known, and a pair has a left and a right", () => {
  expect(boardsOf(DEMO_DRAWER).map(({ name, foam, price }) => [name, foam, price])).toEqual([["Float blocks", "EPS 18", 14]]);
  expect(boardsOf(DEMO_DRAWER)[0]?.densityKgM3).toBeCloseTo(1.56 / (1.2 * 0.6 * 0.12), 6);
  const plan = firstPlan();
  const block = { lengthMm: 600, widthMm: 250, boardMm: 60 };
  expect(blanksOf(plan, block)).toEqual([{ name: "one", lengthMm: 600, widthMm: 250, thickMm: 60 }]);
  expect(blanksOf({ ...plan, part: { ...plan.part, hands: "left and right" } }, block).map(({ name }) => name)).toEqual(["left", "right, mirrored"]);
});

it("the largest offcut is listed, and overlaps no blank", () => {
  const one = cutList([{ name: "one", lengthMm: 600, widthMm: 300, thickMm: 50 }], {
    name: "b",
    foam: "EPS 18",
    family: "eps",
    lengthMm: 1000,
    widthMm: 500,
    thicknessMm: 60,
    densityKgM3: 18,
    price: null,
  });
  if ("refused" in one) throw new Error(one.refused);
  // Of 1000 by 500, less 600 by 300 and its cuts, the largest rest lies behind it: 400 by 503 less a cut each way.
  expect(one.offcuts).toEqual([{ board: 0, layer: 0, longMm: expect.any(Number), wideMm: expect.any(Number), thickMm: 50 }]);
  const [{ longMm, wideMm }] = one.offcuts as [(typeof one.offcuts)[number]];
  expect([longMm, wideMm].sort((a, b) => a - b)).toEqual([397, 500].map((mm) => expect.closeTo(mm, 0)));
  expect(longMm * wideMm + 600 * 300).toBeLessThanOrEqual(1000 * 500);
});
