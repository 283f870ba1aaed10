import { expect, it } from "vitest";
import { splineCurvatures, splineValue } from "./cubicSpline";

const AT = [0, 1, 2.5, 3, 4.2, 6];

it("a cubic with its own end slopes is reproduced; a straight line by any", () => {
  const cubic = (x: number) => 2 - x + 0.5 * x ** 2 - 0.1 * x ** 3;
  const slope = (x: number) => -1 + x - 0.3 * x ** 2;
  const curvatures = splineCurvatures(AT, AT.map(cubic), slope(0), slope(6));
  for (let i = 0; i < AT.length - 1; i++) {
    expect(curvatures[i]).toBeCloseTo(1 - 0.6 * (AT[i] as number), 9);
    const middle = ((AT[i] as number) + (AT[i + 1] as number)) / 2;
    expect(splineValue(AT, AT.map(cubic), curvatures, i, 0.5)).toBeCloseTo(cubic(middle), 9);
  }
  expect(
    splineCurvatures(
      AT,
      AT.map((x) => 3 * x + 1),
    ).every((each) => Math.abs(each) < 1e-12),
  ).toBe(true);
});

it("natural ends are straight, the values are met, and the slope is continuous", () => {
  const y = [0, 2, -1, 4, 4, 0];
  const curvatures = splineCurvatures(AT, y);
  expect([curvatures[0], curvatures.at(-1)]).toEqual([0, 0].map((each) => expect.closeTo(each, 12)));
  for (let i = 0; i < AT.length - 1; i++) {
    expect(splineValue(AT, y, curvatures, i, 0)).toBeCloseTo(y[i] as number, 12);
    expect(splineValue(AT, y, curvatures, i, 1)).toBeCloseTo(y[i + 1] as number, 12);
  }
  const near = 1e-6;
  for (let i = 1; i < AT.length - 1; i++) {
    const [left, right] = [(AT[i] as number) - (AT[i - 1] as number), (AT[i + 1] as number) - (AT[i] as number)];
    const before = ((y[i] as number) - splineValue(AT, y, curvatures, i - 1, 1 - near)) / (near * left);
    const behind = (splineValue(AT, y, curvatures, i, near) - (y[i] as number)) / (near * right);
    expect(before).toBeCloseTo(behind, 3);
  }
});
