import { z } from "zod";
import { LIMITS, type LimitName } from "./limits";

/** A number inside one of the {@link LIMITS}; messages name the range. */
export function figure(name: LimitName) {
  const { min, max, unit } = LIMITS[name];
  const range = `must be a number from ${min} to ${max} ${unit}`;
  const error = (issue: { input?: unknown }) => (issue.input === undefined ? `is required: it ${range}` : range);
  return z.number({ error }).min(min, { error }).max(max, { error });
}

/** The room's temperature, degC, as every question about a wire takes it: 20 where it is not said. */
export const ambient = figure("ambient_C").default(20);
