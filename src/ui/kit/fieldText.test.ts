import { describe, expect, it } from "vitest";
import { z } from "zod";
import { numberList, rows, typedText, word } from "@/core/units/field";
import { readList, readWord, writtenAs } from "./fieldText";

const weights = numberList("", "weights_N", "Weights owned", "force", [0.5, 500], 3);
const panes = rows(
  "",
  "panes_mm",
  "Panes",
  [
    { label: "long", min: 1, max: 500 },
    { label: "how many", min: 1, max: 9 },
  ],
  2,
);
const points = typedText("points_mm", "Points", z.array(z.tuple([z.number(), z.number()])).min(3, { error: "needs at least 3 points" }), [], {
  hint: "",
  lines: "pairs",
});

describe("fields that are typed as text", () => {
  it("are written as they are read back", () => {
    for (const [field, value, text] of [
      [weights, [1, 2.5], "1, 2.5"],
      [
        panes,
        [
          [120, 6],
          [80, 2],
        ],
        "120 6\n80 2",
      ],
      [
        points,
        [
          [0, 0],
          [1, 0],
          [1, -1],
        ],
        "0 0\n1 0\n1 -1",
      ],
    ] as const) {
      expect(writtenAs(field as never, value)).toBe(text);
      expect(readList(field as never, text)).toEqual({ value });
    }
    expect(readList(panes as never, "120 x 6\n\n80, 2")).toEqual(readList(panes as never, "120 6\n80 2"));
  });
  it("say what is wrong: which number or line, and what it may be", () => {
    for (const [field, text, fault] of [
      [weights, "1, 0.1", "weights owned: a number from 0.5 to 500"],
      [weights, "1, two", "weights owned: a number from 0.5 to 500"],
      [weights, "1 2 3 4", "at most 3"],
      [panes, "120 6\n80", "line 2: long, how many"],
      [panes, "120 10", "line 1: how many: a number from 1 to 9"],
      [panes, "1 1\n1 1\n1 1", "at most 2 lines"],
      [points, "0 0\n1 1", "points: needs at least 3 points"],
    ] as const)
      expect(readList(field as never, text), text).toEqual({ fault });
  });
  it("a word is as long as it may be", () => {
    const taken = word("", "sayTaken", "Taken", [1, 4], "ok") as never;
    expect(readWord(taken, " ")).toEqual({ fault: "must be 1 to 4 characters" });
    expect(readWord(taken, "taken")).toEqual({ fault: "must be 1 to 4 characters" });
    expect(readWord(taken, "ok")).toEqual({ value: "ok" });
  });
});
