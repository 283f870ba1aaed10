import { z } from "zod";

const errorsOf = (range: string) => (issue: { input?: unknown }) => (issue.input === undefined ? `is required: it ${range}` : range);

/** A number inside a range of its own; messages name the range, and a figure that is missing is said to be. Ranges that are in many places are in units/limits. */
export const bounded = (least: number, most: number, unit: string) => {
  const error = errorsOf(`must be a number from ${least} to ${most}${unit ? ` ${unit}` : ""}`);
  return z.number({ error }).min(least, { error }).max(most, { error });
};

/** A whole number inside a range of its own. */
export const boundedWhole = (least: number, most: number) => {
  const error = errorsOf(`must be a whole number from ${least} to ${most}`);
  return z.number({ error }).int({ error }).min(least, { error }).max(most, { error });
};
