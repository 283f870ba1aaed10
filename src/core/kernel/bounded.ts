import { z } from "zod";

/** A number inside a range of its own; messages name the range, and a figure that is missing is said to be. Ranges that are in many places are in units/limits. */
export const bounded = (least: number, most: number, unit: string) => {
  const range = `must be a number from ${least} to ${most}${unit ? ` ${unit}` : ""}`;
  const error = (issue: { input?: unknown }) => (issue.input === undefined ? `is required: it ${range}` : range);
  return z.number({ error }).min(least, { error }).max(most, { error });
};
